import { Button, Card, Descriptions, Empty, Flex, Tag, Typography } from "antd";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { type AccessRequest, type AnsweredRequest, readRequests } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";
import { AllowDialog } from "./AllowDialog";
import { AnsweredDialog } from "./AnsweredDialog";
import { RefuseDialog } from "./RefuseDialog";
import { stateWords, whatIsAsked } from "./requestWords";

/** What client teams ask for, as far as whoever looks may answer it. */
export function RequestsPage() {
  const { remote, again } = useRemote(readRequests);
  const [search] = useSearchParams();
  const shown = Number(search.get("id"));
  return (
    <>
      <Typography.Title level={1}>Requests</Typography.Title>
      <RemoteView remote={remote} again={again}>
        {({ requests }) =>
          requests.length === 0 ? (
            <Empty description="Nobody asks for anything that you may answer. Client teams ask on the page of an operation, in its reference." />
          ) : (
            <Requests requests={[...requests].sort((a, b) => Number(b.id === shown) - Number(a.id === shown))} again={again} />
          )
        }
      </RemoteView>
    </>
  );
}

function Requests({ requests, again }: { requests: AccessRequest[]; again: () => void }) {
  const [allowing, setAllowing] = useState<AccessRequest>();
  const [refusing, setRefusing] = useState<AccessRequest>();
  const [answered, setAnswered] = useState<AnsweredRequest>();
  const settle = (answer: AnsweredRequest) => {
    setAllowing(undefined);
    setRefusing(undefined);
    setAnswered(answer);
  };
  return (
    <>
      <div className="stack">
        {requests.map((request) => (
          <RequestCard key={request.id} request={request} allow={() => setAllowing(request)} refuse={() => setRefusing(request)} />
        ))}
      </div>
      {allowing !== undefined && <AllowDialog request={allowing} done={settle} cancel={() => setAllowing(undefined)} />}
      {refusing !== undefined && <RefuseDialog request={refusing} done={settle} cancel={() => setRefusing(undefined)} />}
      {answered !== undefined && (
        <AnsweredDialog
          answered={answered}
          close={() => {
            setAnswered(undefined);
            again();
          }}
        />
      )}
    </>
  );
}

const colours: Record<AccessRequest["state"], string> = {
  waiting: "warning",
  allowed: "success",
  refused: "default",
  withdrawn: "default",
};

function RequestCard({ request, allow, refuse }: { request: AccessRequest; allow: () => void; refuse: () => void }) {
  const waits = request.state === "waiting";
  return (
    <Card
      size="small"
      title={
        <Flex gap="small" align="center" wrap>
          {request.title} {whatIsAsked(request)} <Tag color={colours[request.state]}>{stateWords(request)}</Tag>
        </Flex>
      }
      extra={
        waits && (
          <Flex gap="small">
            <Button type="primary" onClick={allow}>
              Allow
            </Button>
            <Button onClick={refuse}>Refuse</Button>
          </Flex>
        )
      }
    >
      <Typography.Paragraph className="pre-line">{request.reason}</Typography.Paragraph>
      <Descriptions
        size="small"
        column={{ xs: 1, md: 2 }}
        items={[
          ...(request.client === undefined
            ? []
            : [{ key: "client", label: "Application", children: <Link to={`/access/clients/${request.client}`}>{request.client}</Link> }]),
          ...(request.privileges.length === 0
            ? []
            : [{ key: "privileges", label: "Privileges", children: request.privileges.map((one) => <Tag key={one}>{one}</Tag>) }]),
          { key: "by", label: "Asked by", children: `${request.askedBy}, ${request.contact}` },
          { key: "at", label: "Asked", children: when(request.askedAt) },
          ...(request.decidedBy === undefined || request.decidedAt === undefined
            ? []
            : [{ key: "decided", label: "Answered by", children: `${request.decidedBy}, ${when(request.decidedAt)}` }]),
          ...(request.words === undefined ? [] : [{ key: "words", label: "Words", children: request.words }]),
        ]}
      />
    </Card>
  );
}
