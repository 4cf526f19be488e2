import { Button, Empty, Table, Typography } from "antd";
import { Link } from "react-router";
import { type Draft, readDrafts } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";
import { NewModule } from "./NewModule";

/** The texts that are being worked on. */
export function DraftsPage() {
  const { remote, again } = useRemote(readDrafts);
  return (
    <>
      <div className="page-head">
        <Typography.Title level={1}>Drafts</Typography.Title>
        <Link to="/begin">
          <Button type="primary">Begin from tables</Button>
        </Link>
        <NewModule />
      </div>
      <RemoteView remote={remote} again={again}>
        {({ drafts }) => (drafts.length === 0 ? <NothingYet /> : <DraftsTable drafts={drafts} />)}
      </RemoteView>
    </>
  );
}

function NothingYet() {
  return (
    <Empty description="Nobody works on a text here. A folder's modules are sent with:">
      <Typography.Text code copyable>
        ./tidy push --folder FOLDER
      </Typography.Text>
    </Empty>
  );
}

function DraftsTable({ drafts }: { drafts: Draft[] }) {
  return (
    <Table<Draft>
      size="small"
      rowKey={({ name, major }) => `${name}/v${major}`}
      pagination={{ pageSize: 20, hideOnSinglePage: true }}
      dataSource={drafts}
      columns={[
        {
          title: "Draft",
          render: (_, { name, major }) => <Link to={`/drafts/${encodeURIComponent(name)}/v${major}`}>{`${name}/v${major}`}</Link>,
        },
        { render: (_, { name, major }) => <Link to={`/drafts/${encodeURIComponent(name)}/v${major}/edit`}>Edit</Link> },
        { title: "Revision", dataIndex: "revision" },
        { title: "Changed by", dataIndex: "changedBy" },
        { title: "Changed", render: (_, { changedAt }) => when(changedAt) },
      ]}
    />
  );
}
