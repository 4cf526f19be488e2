import { Alert, Button, Card, Descriptions, Flex, Form, Input, Typography } from "antd";
import { useCallback, useState } from "react";
import { Link, useParams } from "react-router";
import { EditDialog } from "../access/EditDialog";
import { decideReview, publishReview, readReview, type Review, type ReviewDetail, withdrawReview } from "../api/http";
import { useDeed } from "../api/useDeed";
import { useRemote } from "../api/useRemote";
import { FindingList, standing } from "../parts/FindingList";
import { RemoteView } from "../parts/RemoteView";
import { WholeText } from "../parts/WholeText";
import { when } from "../parts/when";
import { DifferenceList } from "../releases/DifferenceList";
import { TextDifference } from "../releases/TextDifference";
import { StateTag } from "./StateTag";

type Decision = "approve" | "decline";

/** One review: what callers would meet, what was found, which lines differ, and what is decided. */
export function ReviewPage() {
  const { id = "" } = useParams();
  const { remote, again } = useRemote(useCallback(() => readReview(Number(id)), [id]));
  return (
    <RemoteView remote={remote} again={again}>
      {(detail) => (
        <>
          <div className="page-head">
            <Typography.Title level={1}>
              {detail.review.name} {detail.review.version}
            </Typography.Title>
            <StateTag state={detail.review.state} />
            <Link to="/reviews">Reviews</Link>
            <Link to={`/modules/${encodeURIComponent(detail.review.name)}/releases`}>Releases</Link>
          </div>
          <div className="stack">
            <Said detail={detail} />
            <Deciding detail={detail} again={again} />
            <Card size="small" title={<Since review={detail.review} />}>
              {detail.review.comparedWith !== undefined && <DifferenceList differences={detail.differences} />}
              <TextDifference files={detail.files} />
              {detail.review.comparedWith === undefined && <WholeText text={detail.text} />}
            </Card>
            {standing(detail.findings).length > 0 && (
              <Card size="small" title="What compiling it found">
                <FindingList findings={standing(detail.findings)} />
              </Card>
            )}
          </div>
        </>
      )}
    </RemoteView>
  );
}

function Since({ review: { comparedWith } }: { review: Review }) {
  return comparedWith === undefined ? "It is the first of its name" : `What callers of ${comparedWith} would meet`;
}

function Said({ detail: { review } }: { detail: ReviewDetail }) {
  const decided = review.decidedBy === undefined ? undefined : `${review.decidedBy}, ${when(review.decidedAt)}`;
  const items = [
    { label: "Asked by", children: `${review.askedBy}, ${when(review.askedAt)}` },
    { label: "Note", children: review.note },
    { label: "Breaks callers", children: review.breaking },
    { label: "From", children: review.from },
    { label: "Decided by", children: decided },
    { label: "Words", children: review.words },
    { label: "Text", children: <Typography.Text code>{review.hash.slice(0, 12)}</Typography.Text> },
  ];
  return (
    <Descriptions
      size="small"
      bordered
      column={1}
      styles={{ label: { width: 160 } }}
      items={items.filter(({ children }) => children !== undefined).map((item) => ({ ...item, key: item.label }))}
    />
  );
}

/** What can be done with it now. */
function Deciding({ detail: { review, standing, mayDecide }, again }: { detail: ReviewDetail; again: () => void }) {
  const [decision, setDecision] = useState<Decision>();
  const { error, busy, run } = useDeed();
  const waits = review.state === "open";
  if (!waits && review.state !== "approved") {
    return null;
  }
  return (
    <>
      {error}
      {!standing && <Alert type="warning" showIcon title="Something else went live since; it can only be asked for anew." />}
      {waits && standing && !mayDecide && (
        <Alert type="info" showIcon title={`A person other than ${review.askedBy} who may publish decides on it.`} />
      )}
      <Flex gap="small" wrap>
        {waits && (
          <>
            <Button type="primary" disabled={!mayDecide || !standing} onClick={() => setDecision("approve")}>
              Approve
            </Button>
            <Button disabled={!mayDecide} onClick={() => setDecision("decline")}>
              Decline
            </Button>
          </>
        )}
        {review.state === "approved" && (
          <Button type="primary" disabled={!standing} loading={busy} onClick={() => run(() => publishReview(review), again)}>
            Publish
          </Button>
        )}
        <Button type="text" loading={busy} onClick={() => run(() => withdrawReview(review), again)}>
          Take it back
        </Button>
      </Flex>
      {decision !== undefined && (
        <DecisionDialog
          review={review}
          decision={decision}
          end={() => setDecision(undefined)}
          done={() => {
            setDecision(undefined);
            again();
          }}
        />
      )}
    </>
  );
}

interface DialogProps {
  review: Review;
  decision: Decision;
  end: () => void;
  done: () => void;
}

function DecisionDialog({ review, decision, end, done }: DialogProps) {
  return (
    <EditDialog<{ words?: string }>
      title={`${decision === "approve" ? "Approve" : "Decline"} ${review.name} ${review.version}`}
      initial={{}}
      save={({ words = "" }) => decideReview(review, decision, words)}
      cancel={end}
      done={done}
    >
      <Form.Item
        label="Words"
        name="words"
        extra="They are kept with the review, together with your name."
        rules={decision === "decline" ? [{ required: true, message: "Say why; its author reads it." }] : []}
      >
        <Input.TextArea autoFocus rows={3} maxLength={1000} />
      </Form.Item>
    </EditDialog>
  );
}
