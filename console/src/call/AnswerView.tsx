import { Alert, Button, Card, Empty, Flex, Spin, Table, Tabs, Tag, Typography } from "antd";
import type { Operation, Problem } from "../api/http";
import type { Answer, CallState, Row, Value } from "./callState";
import { DownloadMenu } from "./DownloadMenu";
import { Literal } from "./readAnswer";
import { directionOf, type Sorting, sortBy } from "./sorting";

interface Props {
  call: CallState;
  sorting: Sorting;
  operation: Operation;
  onPage: (address: string, page: number) => void;
}

/** What came back: status, time and size, then rows, body or header fields, and the way to the next page. */
export function AnswerView({ call, ...props }: Props) {
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
      return <Answered answer={call.answer} page={call.page} address={call.address} {...props} />;
  }
}

type AnsweredProps = Omit<Props, "call"> & { answer: Answer; page: number; address: string };

function Answered({ answer, page, address, sorting, operation, onPage }: AnsweredProps) {
  const { next, prev } = answer;
  return (
    <Card
      size="small"
      title={
        <Flex gap="small" align="center" role="status">
          <Tag color={answer.status < 400 ? "cyan" : "error"}>{answer.status}</Tag>
          <span className="quiet">
            {answer.millis} ms, {answer.bytes.toLocaleString()} bytes
            {answer.problem === undefined && `, ${answer.rows.length} ${answer.rows.length === 1 ? "row" : "rows"}`}
            {answer.total !== undefined && ` of ${answer.total}`}
          </span>
        </Flex>
      }
      extra={
        <Flex gap="small" align="center">
          {prev !== undefined && (
            <Button size="small" onClick={() => onPage(prev, page - 1)}>
              Page before
            </Button>
          )}
          {(page > 1 || next !== undefined) && (
            <>
              {page > 0 && <span className="quiet">page {page}</span>}
              <Button size="small" disabled={next === undefined} onClick={() => next !== undefined && onPage(next, page + 1)}>
                Next page
              </Button>
            </>
          )}
          {answer.problem === undefined && <DownloadMenu operation={operation} address={address} />}
        </Flex>
      }
    >
      <AnswerTabs answer={answer} sorting={sorting} />
    </Card>
  );
}

/** An answer's rows, body and header fields; its problem above them. */
export function AnswerTabs({ answer, sorting }: { answer: Answer; sorting?: Sorting }) {
  return (
    <>
      {answer.problem !== undefined && <ProblemAlert problem={answer.problem} />}
      <Tabs
        size="small"
        items={[
          ...(answer.problem === undefined ? [{ key: "rows", label: "Rows", children: <Rows rows={answer.rows} sorting={sorting} /> }] : []),
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

function Rows({ rows, sorting }: { rows: ReadonlyArray<Row>; sorting: Sorting | undefined }) {
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
      onChange={(_page, _filters, sorter) => {
        if (!Array.isArray(sorter) && sorting !== undefined) {
          sorting.onSort(sortBy(String(sorter.columnKey), sorter.order ?? null));
        }
      }}
      columns={names.map((name) => ({
        title: name,
        key: name,
        ...(sorting?.sorts.includes(name) === true ? { sorter: true, sortOrder: directionOf(sorting.sort, name) } : {}),
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
