import { Alert, Card, Flex, Spin, Table, Tag, Typography } from "antd";
import { useEffect, useRef } from "react";
import type { Trial } from "../api/http";
import { AnswerTabs } from "./AnswerView";
import { counts, differences, type Rehearsal, type RehearsalState, type TableChanges, wholeRows } from "./rehearsal";
import { readAnswer } from "./readAnswer";

/** What a change would do, after it was done and undone: tables, rows and fields, then the answer its caller would get. */
export function RehearsalView({ state }: { state: RehearsalState }) {
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (state.state === "done" || state.state === "failed") {
      place.current?.scrollIntoView({ block: "nearest", behavior: "smooth" });
    }
  }, [state]);
  return state.state === "idle" ? null : (
    <div ref={place}>
      <Outcome state={state} />
    </div>
  );
}

function Outcome({ state }: { state: RehearsalState }) {
  switch (state.state) {
    case "idle":
      return null;
    case "running":
      return (
        <Card size="small" title="Rehearsal">
          <Spin description="Running, looking, undoing ..." className="calling">
            <div className="calling" />
          </Spin>
        </Card>
      );
    case "failed":
      return <Alert type="error" showIcon title="It could not be rehearsed" description={state.message} />;
    case "done":
      return <Done trial={state.trial} />;
  }
}

function Done({ trial }: { trial: Trial }) {
  const answer = trial.answer;
  if (answer === undefined) {
    return <Alert type="warning" showIcon title="Findings keep it from being run" description={trial.findings.map((one) => one.message).join(" ")} />;
  }
  const headers = answer.headers.map((field) => [field.name, field.value] as const);
  return (
    <Card
      size="small"
      title={
        <Flex gap="small" align="center" role="status">
          <span>Rehearsal</span>
          <Tag color={answer.status < 400 ? "cyan" : "error"}>{answer.status}</Tag>
          <span className="quiet">{trial.rehearsal === undefined ? "refused, nothing would change" : `rolled back, locks held ${trial.rehearsal.heldMillis} ms`}</span>
        </Flex>
      }
    >
      {typeof answer.trouble === "string" && <Alert className="gap-below" type="error" showIcon title="The database said" description={answer.trouble} />}
      {trial.rehearsal !== undefined && <Changes rehearsal={trial.rehearsal} />}
      <AnswerTabs answer={readAnswer(answer.status, answer.millis, headers, answer.body)} />
    </Card>
  );
}

/** What would be different, table by table. */
export function Changes({ rehearsal }: { rehearsal: Rehearsal }) {
  return (
    <div className="stack gap-below">
      {rehearsal.tables.length === 0 && <Typography.Text>No row would be different.</Typography.Text>}
      {rehearsal.tables.map((table) => (
        <section key={table.table} className="changes">
          <Typography.Text strong>
            {table.table}: {counts(table)}
          </Typography.Text>
          <ChangedFields table={table} />
          <Whole table={table} kind="inserted" />
          <Whole table={table} kind="deleted" />
          <Hidden table={table} />
        </section>
      ))}
      {rehearsal.notes.map((note) => (
        <Alert key={note} type="info" showIcon title={note} />
      ))}
    </div>
  );
}

function ChangedFields({ table }: { table: TableChanges }) {
  const rows = differences(table);
  if (rows.length === 0) {
    return null;
  }
  return (
    <Table
      size="small"
      pagination={false}
      scroll={{ x: "max-content", y: 300 }}
      rowKey={(row) => `${row.row} ${row.field}`}
      dataSource={rows}
      columns={[
        { title: "Row", dataIndex: "row" },
        { title: "Field", dataIndex: "field" },
        { title: "Before", dataIndex: "before", render: shown },
        { title: "After", dataIndex: "after", render: (value: string | null) => <b>{shown(value)}</b> },
      ]}
    />
  );
}

function Whole({ table, kind }: { table: TableChanges; kind: "inserted" | "deleted" }) {
  const rows = wholeRows(table, kind);
  if (rows.length === 0) {
    return null;
  }
  return (
    <Table
      size="small"
      pagination={false}
      scroll={{ x: "max-content", y: 300 }}
      rowKey={(row) => JSON.stringify(row)}
      dataSource={rows}
      columns={[
        { title: "", key: "kind", render: () => <Tag>{kind === "inserted" ? "new" : "gone"}</Tag> },
        ...Object.keys(rows[0] ?? {}).map((name) => ({ title: name, dataIndex: name, render: shown })),
      ]}
    />
  );
}

function Hidden({ table }: { table: TableChanges }) {
  const all = table.inserted + table.changed + table.deleted;
  return all > table.rows.length ? (
    <Typography.Text type="secondary">
      {table.rows.length} of {all.toLocaleString()} rows are shown.
    </Typography.Text>
  ) : null;
}

function shown(value: string | null) {
  return value === null ? <Typography.Text type="secondary">null</Typography.Text> : <span className="cell">{value}</span>;
}
