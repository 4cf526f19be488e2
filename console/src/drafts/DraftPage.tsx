import { Alert, Button, Card, Form, Input, Table, Typography } from "antd";
import { useCallback, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { EditDialog } from "../access/EditDialog";
import {
  type Draft,
  lookAhead,
  type ModuleText,
  type Prospect,
  publishText,
  readDraft,
  readRevisions,
  restoreRevision,
} from "../api/http";
import { useDeed } from "../api/useDeed";
import { useRemote } from "../api/useRemote";
import { FindingList, standing } from "../parts/FindingList";
import { RemoteView } from "../parts/RemoteView";
import { WholeText } from "../parts/WholeText";
import { when } from "../parts/when";
import { DifferenceList } from "../releases/DifferenceList";
import { TextDifference } from "../releases/TextDifference";

/** One draft: what publishing it would mean, its text, and what it was before. Its address can be given to others. */
export function DraftPage() {
  const { name = "", version = "" } = useParams();
  const major = Number(version.slice(1));
  const { remote, again } = useRemote(useCallback(() => readDraft(name, major), [name, major]));
  return (
    <RemoteView remote={remote} again={again}>
      {(draft) => (
        <>
          <div className="page-head">
            <Typography.Title level={1}>
              {name}/{version}
            </Typography.Title>
            <span className="quiet">
              draft, revision {draft.revision} by {draft.changedBy}, {when(draft.changedAt)}
            </span>
            <Link to={`/drafts/${encodeURIComponent(name)}/${version}/edit`}>Edit</Link>
            <Link to="/drafts">Drafts</Link>
            <Typography.Text code copyable>
              {`./tidy pull ${name}/${version}`}
            </Typography.Text>
          </div>
          <div className="stack">
            {draft.text !== undefined && <Ahead key={draft.revision} text={draft.text} />}
            {draft.text !== undefined && (
              <Card size="small" title="Text">
                <WholeText text={draft.text} />
              </Card>
            )}
            <Revisions key={`revisions of ${draft.revision}`} draft={draft} restored={again} />
          </div>
        </>
      )}
    </RemoteView>
  );
}

/** What publishing the text would mean; one with errors says what is wrong. */
function Ahead({ text }: { text: ModuleText }) {
  const { remote, again } = useRemote(useCallback(() => lookAhead(text), [text]));
  const findings = remote.state === "loaded" ? standing(remote.value.findings) : [];
  if (remote.state === "failed" && remote.error.status === 422) {
    return (
      <Alert
        type="warning"
        showIcon
        title="It cannot be published as it is"
        description={`${remote.error.message} './tidy check' shows each with its place.`}
      />
    );
  }
  return (
    <RemoteView remote={remote} again={again}>
      {(prospect) => (
        <Card size="small" title={<Since prospect={prospect} />} extra={<PublishButton prospect={prospect} text={text} />}>
          {prospect.objection !== undefined && <Alert className="gap-below" type="warning" showIcon title={prospect.objection} />}
          {prospect.comparedWith !== undefined && <DifferenceList differences={prospect.differences} />}
          <TextDifference files={prospect.files} />
          {findings.length > 0 && <FindingList findings={findings} />}
        </Card>
      )}
    </RemoteView>
  );
}

function Since({ prospect: { comparedWith, version } }: { prospect: Prospect }) {
  return comparedWith === undefined ? `${version} would be the first of its name` : `What callers of ${comparedWith} would meet in ${version}`;
}

function PublishButton({ prospect, text }: { prospect: Prospect; text: ModuleText }) {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const review = prospect.needsApproval && prospect.review?.state !== "approved";
  return (
    <>
      <Button type="primary" size="small" onClick={() => setOpen(true)}>
        {review ? "Ask for a review" : "Publish"}
      </Button>
      {open && (
        <EditDialog<{ note?: string; breaking?: string }>
          title={`${review ? "Ask for a review of" : "Publish"} ${prospect.name} ${prospect.version}`}
          initial={{}}
          save={({ note = "", breaking = "" }) => publishText(text, note, breaking, review)}
          cancel={() => setOpen(false)}
          done={() => navigate(review ? "/reviews" : `/modules/${encodeURIComponent(prospect.name)}/releases`)}
        >
          <Form.Item label="Note" name="note" extra="Its history and client teams show it.">
            <Input.TextArea autoFocus rows={2} maxLength={1000} />
          </Form.Item>
          {prospect.breaks && (
            <Form.Item label="Why callers must live with what breaks" name="breaking">
              <Input.TextArea rows={2} maxLength={1000} />
            </Form.Item>
          )}
        </EditDialog>
      )}
    </>
  );
}

function Revisions({ draft, restored }: { draft: Draft; restored: () => void }) {
  const { name, major } = draft;
  const { remote, again } = useRemote(useCallback(() => readRevisions(name, major), [name, major]));
  const { error, busy, run } = useDeed();
  return (
    <Card size="small" title="What it was">
      {error}
      <RemoteView remote={remote} again={again}>
        {({ drafts }) => (
          <Table<Draft>
            size="small"
            rowKey="revision"
            pagination={{ pageSize: 10, hideOnSinglePage: true }}
            dataSource={drafts}
            columns={[
              { title: "Revision", dataIndex: "revision" },
              { title: "By", dataIndex: "changedBy" },
              { title: "When", render: (_, { changedAt }) => when(changedAt) },
              { title: "Text", render: (_, { restoredFrom }) => restoredFrom !== undefined && `as revision ${restoredFrom}` },
              {
                align: "right",
                render: (_, { revision }) =>
                  revision !== draft.revision && (
                    <Button size="small" loading={busy} onClick={() => run(() => restoreRevision(draft, revision), restored)}>
                      Restore
                    </Button>
                  ),
              },
            ]}
          />
        )}
      </RemoteView>
    </Card>
  );
}
