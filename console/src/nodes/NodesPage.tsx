import { Table, Tag, Typography } from "antd";
import { useEffect } from "react";
import { type Node, readNodes } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";

const EVERY_MILLIS = 3000;

const colours: Record<Node["state"], string> = { serving: "processing", leaving: "warning", silent: "error" };

/** The services that run over the same records: which program, since when, how far each is, and what it cannot serve. */
export function NodesPage() {
  const { remote, again } = useRemote(readNodes);
  useEffect(() => {
    const timer = setInterval(again, EVERY_MILLIS);
    return () => clearInterval(timer);
  }, [again]);
  return (
    <>
      <Typography.Title level={1}>Nodes</Typography.Title>
      <RemoteView remote={remote} again={again}>
        {({ nodes }) => (
          <>
            <NodesTable nodes={nodes} />
            <Typography.Paragraph type="secondary" className="gap-above">
              Every node tells of itself each two seconds. Nodes whose change is the same serve the same.
            </Typography.Paragraph>
          </>
        )}
      </RemoteView>
    </>
  );
}

function NodesTable({ nodes }: { nodes: Node[] }) {
  const newest = Math.max(...nodes.map(({ liveChange }) => liveChange));
  return (
    <Table<Node>
      size="small"
      rowKey={({ name, startedAt }) => name + startedAt}
      pagination={false}
      dataSource={nodes}
      columns={[
        {
          title: "Node",
          render: (_, { name, here }) => (
            <>
              {name} {here && <Tag>answers you</Tag>}
            </>
          ),
        },
        { title: "State", render: (_, node) => <State node={node} /> },
        { title: "Version", dataIndex: "version" },
        { title: "Since", render: (_, { startedAt }) => when(startedAt) },
        {
          title: "Change",
          render: (_, { liveChange }) => (
            <>
              {liveChange} {liveChange < newest && <Tag color="warning">behind {newest}</Tag>}
            </>
          ),
        },
        { title: "Cannot serve", render: (_, node) => <Troubles node={node} /> },
      ]}
    />
  );
}

function State({ node: { state, silentMillis } }: { node: Node }) {
  return <Tag color={colours[state]}>{state === "silent" ? `silent for ${Math.round(silentMillis / 1000)} s` : state}</Tag>;
}

function Troubles({ node: { troubles } }: { node: Node }) {
  return troubles.map(({ module, words }) => (
    <div key={module}>
      <code>{module}</code> {words}
    </div>
  ));
}
