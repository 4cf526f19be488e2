import { Empty, Select, Typography } from "antd";
import { useNavigate, useParams } from "react-router";
import { readSources, type Source } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { HoldingsView } from "./HoldingsView";
import { SourceCard } from "./SourceCard";

/** The databases of this environment: how one is reached, whether it can be, and what it holds. */
export function SourcesPage() {
  const { remote, again } = useRemote(readSources);
  const { name } = useParams();
  return (
    <RemoteView remote={remote} again={again}>
      {({ sources }) => {
        const source = sources.find((one) => one.name === name) ?? sources[0];
        return source === undefined ? <NoSources /> : <SourceView key={source.name} source={source} all={sources} />;
      }}
    </RemoteView>
  );
}

function NoSources() {
  return <Empty description="The service has no sources yet; define one in the workspace.yaml it reads, and type ./tidy source reload." />;
}

function SourceView({ source, all }: { source: Source; all: Source[] }) {
  const navigate = useNavigate();
  return (
    <>
      <div className="page-head">
        <Typography.Title level={1}>Source</Typography.Title>
        <Select
          aria-label="Source"
          value={source.name}
          options={all.map((one) => ({ value: one.name, label: one.name }))}
          onChange={(name) => navigate(`/sources/${encodeURIComponent(name)}`)}
          style={{ minWidth: 180 }}
        />
        <Typography.Text type="secondary">{source.about}</Typography.Text>
      </div>
      <SourceCard source={source} />
      <HoldingsView source={source.name} />
    </>
  );
}
