import { Alert, Button, Card, Empty, Flex, Spin, Table, Tabs, Tag, Typography } from "antd";
import type { Problem } from "../api/http";
import type { Answer, CallState, Row, Value } from "./callState";
import { Literal } from "./readAnswer";

interface Props {
  call: CallState;
  onPage: (address: string, page: number) => void;
}

/** What came back: status, time and size, then rows, body or header fields, and the way to the next page. */
export function AnswerView({ call, onPage }: Props) {
  switch (call.state) {
    case "idle":
      return (
        <Card size="small" title="Answer to your call">
          <Empty image={Empty.PRESENTED_IMAGE_SIMPLE} description="Nothing was called yet." />
        </Card>
      );
    case "calling":
      return (
        <Card size="small" title="Answer to your call">
          <Spin description="Calling ..." className="calling">
            <div className="calling" />
          </Spin>
        </Card>
      );
    case "unanswered":
      return <Alert type="error" showIcon title="No answer" description="The service could not be reached, or the connection was cut." />;
    case "answered":
      return <Answered answer={call.answer} page={call.page} onPage={onPage} />;
  }
}

function Answered({ answer, page, onPage }: { answer: Answer; page: number; onPage: Props["onPage"] }) {
  const next = answer.next;
  return (
    <Card
      size="small"
      title={
        <Flex gap="small" align="center" role="status">
          <Tag color={answer.status < 400 ? "cyan" : "error"}>{answer.status}</Tag>
          <span className="quiet">
            {answer.millis} ms, {answer.bytes.toLocaleString()} bytes
            {answer.problem === undefined && `, ${answer.rows.length} ${answer.rows.length === 1 ? "row" : "rows"}`}
          </span>
        </Flex>
      }
      extra={
        (page > 1 || next !== undefined) && (
          <Flex gap="small" align="center">
            <span className="quiet">page {page}</span>
            <Button size="small" disabled={next === undefined} onClick={() => next !== undefined && onPage(next, page + 1)}>
              Next page
            </Button>
          </Flex>
        )
      }
    >
      <AnswerTabs answer={answer} />
    </Card>
  );
}

/** An answer's rows, body and header fields; its problem above them. */
export function AnswerTabs({ answer }: { answer: Answer }) {
  return (
    <>
      {answer.problem !== undefined && <ProblemAlert problem={answer.problem} />}
      <Tabs
        size="small"
        items={[
          ...(answer.problem === undefined ? [{ key: "rows", label: "Rows", children: <Rows rows={answer.rows} /> }] : []),
          { key: "body", label: "Body", children: <pre className="body">{indented(answer.text)}</pre> },
          { key: "headers", label: "Header fields", children: <Headers headers={answer.headers} /> },
        ]}
      />
    </>
  );
}

function ProblemAlert({ problem }: { problem: Problem }) {
  const details = (problem.errors ?? []).map((error) => error.detail);
  return (
    <Alert
      type="error"
      showIcon
      className="gap-below"
      title={problem.title}
      description={details.length === 0 ? problem.detail : details.map((detail) => <div key={detail}>{detail}</div>)}
    />
  );
}

function Rows({ rows }: { rows: ReadonlyArray<Row> }) {
  const names = Object.keys(rows[0] ?? {});
  if (rows.length === 0) {
    return <Empty image={Empty.PRESENTED_IMAGE_SIMPLE} description="No rows match." />;
  }
  return (
    <Table
      size="small"
      scroll={{ x: "max-content", y: 420 }}
      pagination={false}
      rowKey={(row) => row.key}
      dataSource={rows.map((row, key) => ({ key, row }))}
      columns={names.map((name) => ({
        title: name,
        key: name,
        align: isNumeric(rows, name) ? ("right" as const) : ("left" as const),
        render: (_: unknown, line: { row: Row }) => <Cell value={line.row[name] ?? null} />,
      }))}
    />
  );
}

/** True when every value of the column that is there is a number. */
function isNumeric(rows: ReadonlyArray<Row>, name: string): boolean {
  const values = rows.map((row) => row[name] ?? null).filter((value) => value !== null);
  return values.length > 0 && values.every((value) => typeof value === "number" || value instanceof Literal);
}

function Cell({ value }: { value: Value }) {
  if (value === null) {
    return <Typography.Text type="secondary">null</Typography.Text>;
  }
  return <span className="cell">{typeof value === "object" && value.constructor === Object ? JSON.stringify(value) : String(value)}</span>;
}

function Headers({ headers }: { headers: Answer["headers"] }) {
  return (
    <dl className="headers">
      {headers.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** A body spread over lines; what is no JSON stays as it came. */
function indented(text: string): string {
  try {
    return JSON.stringify(JSON.parse(text), null, 2);
  } catch {
    return text;
  }
}
