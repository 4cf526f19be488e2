import { Select, Table } from "antd";
import type { MatchedOperation, ReadDocument, Relation } from "../api/http";
import type { ChoiceEvent } from "./choices";
import { chosenNow, type Match, matchedOf, withColumn } from "./documents";

interface Props {
  read: ReadDocument;
  /** What was chosen, by operation. */
  matches: Readonly<Record<string, Match>>;
  relations: readonly Relation[];
  dispatch: (event: ChoiceEvent) => void;
}

const none = { value: "", label: "none yet" };

/** What each operation of a document means: its table, and the column of each of its names. */
export function MatchTable({ read, matches, relations, dispatch }: Props) {
  const tables = [none, ...relations.map(({ name }) => ({ value: name, label: name }))];
  return (
    <Table<MatchedOperation>
      size="small"
      className="matches"
      rowKey="operation"
      pagination={read.operations.length > 50 ? { pageSize: 50, size: "small", showSizeChanger: false } : false}
      dataSource={read.operations.map((one) => chosenNow(one, matches[one.operation]))}
      expandable={{
        rowExpandable: ({ table, names }) => table !== "" && names.length > 0,
        expandedRowRender: (operation) => (
          <Names
            operation={operation}
            chosen={matches[operation.operation]}
            columns={read.columns[operation.table] ?? []}
            dispatch={dispatch}
          />
        ),
      }}
      columns={[
        {
          title: "Operation",
          dataIndex: "operation",
          render: (label: string, { about }) => (
            <>
              <code>{label}</code>
              {about !== "" && <div className="quiet">{about}</div>}
            </>
          ),
        },
        {
          title: "Table",
          width: 150,
          render: (_, operation) => (
            <Select
              size="small"
              showSearch
              aria-label={`Table of ${operation.operation}`}
              style={{ width: "100%" }}
              popupMatchSelectWidth={false}
              value={operation.table}
              options={tables}
              onChange={(table: string) => dispatch({ event: "match", operation: operation.operation, match: { table } })}
            />
          ),
        },
        { title: "Fields", width: 92, align: "right", render: (_, operation) => matchedOf(operation) },
      ]}
    />
  );
}

interface NamesProps {
  operation: MatchedOperation;
  chosen: Match | undefined;
  columns: readonly string[];
  dispatch: Props["dispatch"];
}

function Names({ operation, chosen, columns, dispatch }: NamesProps) {
  const options = [{ value: "", label: "no column" }, ...columns.map((name) => ({ value: name, label: name }))];
  return (
    <div className="names">
      {operation.names.map(({ name, type, shown, sent, column }) => (
        <label key={name}>
          <code>{name}</code>
          <span className="quiet">
            {type}, {shown && sent ? "both ways" : shown ? "answered" : "sent"}
          </span>
          <Select
            size="small"
            showSearch
            aria-label={`Column of ${name} in ${operation.operation}`}
            status={column === "" ? "warning" : ""}
            popupMatchSelectWidth={false}
            value={column}
            options={options}
            onChange={(picked: string) =>
              dispatch({ event: "match", operation: operation.operation, match: withColumn(chosen, operation.table, name, picked) })
            }
          />
        </label>
      ))}
    </div>
  );
}
