import { Button, Card, Form, Input, Select, Table, Tag, Typography } from "antd";
import { useCallback, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { compareReleases, type History, readHistory, type Release, retire, revert } from "../api/http";
import { useRemote } from "../api/useRemote";
import { EditDialog } from "../access/EditDialog";
import { DriftNotes } from "../parts/DriftNotes";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";
import { AnnounceDialog } from "./AnnounceDialog";
import { DifferenceList } from "./DifferenceList";
import { ReleasesTable } from "./ReleasesTable";
import { TextDifference } from "./TextDifference";

/** What somebody is about to do with a release. */
export type Step = { kind: "revert" | "retire"; release: Release };

/** The releases of a module: what each changed, what was live when, and any two beside each other. */
export function ReleasesPage() {
  const { name = "" } = useParams();
  const { remote, again } = useRemote(useCallback(() => readHistory(name), [name]));
  const [step, setStep] = useState<Step>();
  const [announcing, setAnnouncing] = useState(false);
  return (
    <>
      <div className="page-head">
        <Typography.Title level={1}>Releases of {name}</Typography.Title>
        <Link to="/modules">Live modules</Link>
        <a href={`/api/${encodeURIComponent(name)}/changes`} target="_blank" rel="noreferrer">
          As client teams read it
        </a>
        <Button onClick={() => setAnnouncing(true)}>Announce</Button>
      </div>
      <RemoteView remote={remote} again={again}>
        {(history) => (
          <div className="stack">
            {history.releases.map(({ id, version, drift = [] }) => (
              <DriftNotes key={id} of={version} notes={drift} />
            ))}
            <ReleasesTable releases={history.releases} begin={setStep} />
            <ComparisonCard history={history} />
            <LiveCard history={history} />
          </div>
        )}
      </RemoteView>
      {announcing && <AnnounceDialog module={name} close={() => setAnnouncing(false)} />}
      {step !== undefined && (
        <StepDialog
          step={step}
          end={() => setStep(undefined)}
          done={() => {
            setStep(undefined);
            again();
          }}
        />
      )}
    </>
  );
}

function StepDialog({ step, end, done }: { step: Step; end: () => void; done: () => void }) {
  const { kind, release } = step;
  const title =
    kind === "revert" ? `Make ${release.name} ${release.version} live again` : `Retire ${release.name}/v${release.major}`;
  return (
    <EditDialog<{ reason?: string }>
      title={title}
      initial={{}}
      save={({ reason = "" }) => (kind === "revert" ? revert(release, reason) : retire(release, reason))}
      cancel={end}
      done={done}
    >
      <Form.Item
        label="Reason"
        name="reason"
        extra={
          kind === "revert"
            ? "Needed when callers of what is live are let down. It is recorded, and told to client teams."
            : "Its callers are told that it is gone. Its releases are kept, and can be made live again."
        }
        rules={kind === "retire" ? [{ required: true, message: "Say why it goes." }] : []}
      >
        <Input.TextArea autoFocus rows={3} maxLength={1000} />
      </Form.Item>
    </EditDialog>
  );
}

/** The two that are compared: as the address says, or what is live beside what it was compared with. */
function chosen({ releases }: History, from: string | null, to: string | null): [string, string] | undefined {
  const later = releases.find(({ version }) => version === to) ?? releases.find(({ live }) => live) ?? releases[0];
  const earlier =
    releases.find(({ version }) => version === from) ??
    releases.find(({ version }) => version === later?.comparedWith) ??
    releases.find((release) => release !== later);
  return later === undefined || earlier === undefined ? undefined : [earlier.version, later.version];
}

function ComparisonCard({ history }: { history: History }) {
  const [address, setAddress] = useSearchParams();
  const pair = chosen(history, address.get("from"), address.get("to"));
  if (pair === undefined) {
    return <Card size="small">There is one release only; the next one is compared with it.</Card>;
  }
  const [from, to] = pair;
  const options = history.releases.map(({ version }) => ({ value: version, label: version }));
  return (
    <Card
      size="small"
      title={
        <div className="compared">
          What changed from
          <Select aria-label="Earlier" value={from} options={options} onChange={(value) => setAddress({ from: value, to })} />
          to
          <Select aria-label="Later" value={to} options={options} onChange={(value) => setAddress({ from, to: value })} />
        </div>
      }
    >
      <Compared name={history.name} from={from} to={to} />
    </Card>
  );
}

function Compared({ name, from, to }: { name: string; from: string; to: string }) {
  const { remote, again } = useRemote(useCallback(() => compareReleases(name, from, to), [name, from, to]));
  return (
    <RemoteView remote={remote} again={again}>
      {({ differences, files }) => (
        <>
          <DifferenceList differences={differences} />
          <TextDifference files={files} />
        </>
      )}
    </RemoteView>
  );
}

const became = { publish: "published", revert: "live again", retire: "retired" } as const;

function LiveCard({ history }: { history: History }) {
  return (
    <Card size="small" title="What was live">
      <Table
        size="small"
        rowKey="at"
        pagination={{ pageSize: 10, hideOnSinglePage: true }}
        dataSource={history.changes}
        columns={[
          { title: "When", render: (_, { at }) => when(at) },
          { title: "Address", render: (_, { major }) => <Tag>{`${history.name}/v${major}`}</Tag> },
          { title: "What", render: (_, { version, kind }) => `${version ?? ""} ${became[kind]}` },
          { title: "By", dataIndex: "by" },
          { title: "Because", dataIndex: "reason" },
        ]}
      />
    </Card>
  );
}
