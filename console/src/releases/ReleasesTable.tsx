import { Button, Table, Tag } from "antd";
import type { Release } from "../api/http";
import { when } from "../parts/when";
import { counted, effectColour } from "./effects";
import type { Step } from "./ReleasesPage";

interface Props {
  releases: Release[];
  begin: (step: Step) => void;
}

/** Every release with what it changed for callers; one that is not live can be made live again. */
export function ReleasesTable({ releases, begin }: Props) {
  return (
    <Table<Release>
      size="small"
      rowKey="id"
      pagination={{ pageSize: 20, hideOnSinglePage: true }}
      dataSource={releases}
      columns={[
        {
          title: "Version",
          render: (_, { version, live }) => (
            <>
              {version} {live && <Tag>live</Tag>}
            </>
          ),
        },
        { title: "Published", render: (_, { publishedAt }) => when(publishedAt) },
        { title: "By", dataIndex: "publishedBy" },
        { title: "For callers", render: (_, release) => <Changed release={release} /> },
        { title: "Note", render: (_, release) => <Said release={release} /> },
        {
          align: "right",
          render: (_, release) => (
            <Button size="small" onClick={() => begin({ kind: release.live ? "retire" : "revert", release })}>
              {release.live ? "Retire" : "Make live again"}
            </Button>
          ),
        },
      ]}
    />
  );
}

function Changed({ release: { differences, comparedWith } }: { release: Release }) {
  if (differences === undefined || comparedWith === undefined) {
    return <span className="quiet">the first</span>;
  }
  return (
    <div className="changed">
      {counted(differences).map(([effect, count]) => (
        <Tag key={effect} color={effectColour[effect]}>
          {count} {effect}
        </Tag>
      ))}
      <span className="quiet">since {comparedWith}</span>
    </div>
  );
}

function Said({ release: { note, breaking } }: { release: Release }) {
  return (
    <>
      {note !== undefined && <div>{note}</div>}
      {breaking !== undefined && <div className="quiet">Breaks callers: {breaking}</div>}
    </>
  );
}
