import { Alert, Card, Skeleton, Table, Tabs, Tag, Typography } from "antd";
import { useCallback } from "react";
import { type Relation, readSample, type Sample } from "../api/http";
import { useRemote } from "../api/useRemote";

/** A table or view: its columns and keys, some rows, and a statement to begin with. */
export function RelationCard({ source, relation }: { source: string; relation: Relation }) {
  return (
    <Card
      size="small"
      title={relation.name}
      extra={
        <span className="quiet">
          {relation.kind}
          {relation.rows !== undefined && `, about ${relation.rows.toLocaleString()} rows`}
        </span>
      }
    >
      {relation.about !== "" && <Typography.Paragraph>{relation.about}</Typography.Paragraph>}
      <Tabs
        size="small"
        destroyOnHidden
        items={[
          { key: "columns", label: "Columns and keys", children: <Columns relation={relation} /> },
          { key: "rows", label: "Sample rows", children: <SampleRows source={source} relation={relation.name} /> },
          { key: "statement", label: "Statement", children: <FirstStatement text={relation.statement} /> },
        ]}
      />
    </Card>
  );
}

function Columns({ relation }: { relation: Relation }) {
  return (
    <>
      <Table
        size="small"
        pagination={false}
        rowKey="name"
        dataSource={relation.columns}
        scroll={{ y: 420 }}
        columns={[
          { title: "Column", dataIndex: "name", width: "20%", render: (name: string) => <b>{name}</b> },
          { title: "Type", dataIndex: "type", width: "34%", render: (type: string) => <Typography.Text className="type">{type}</Typography.Text> },
          { title: "Null", dataIndex: "nullable", width: "12%", render: (nullable: boolean) => (nullable ? "may be null" : "") },
          {
            title: "Default",
            key: "default",
            width: "14%",
            render: (_: unknown, column) =>
              column.numbered ? "counted up" : column.generated ? "generated" : (column.defaultText ?? ""),
          },
          { title: "About", dataIndex: "about" },
        ]}
      />
      <ul className="keys">
        {relation.indexes.map((index) => (
          <li key={index.name}>
            <Tag variant="outlined">{index.primary ? "primary key" : index.unique ? "unique" : "index"}</Tag>
            <Typography.Text className="type">{index.columns.join(", ")}</Typography.Text>
            {!index.primary && <span className="quiet">{index.name}</span>}
          </li>
        ))}
        {relation.foreignKeys.map((key) => (
          <li key={key.name}>
            <Tag variant="outlined">stands in</Tag>
            <Typography.Text className="type">
              {key.columns.join(", ")} in {key.target} ({key.targets.join(", ")})
            </Typography.Text>
          </li>
        ))}
      </ul>
    </>
  );
}

function SampleRows({ source, relation }: { source: string; relation: string }) {
  const ask = useCallback(() => readSample(source, relation), [source, relation]);
  const { remote } = useRemote(ask);
  switch (remote.state) {
    case "loading":
      return <Skeleton active />;
    case "failed":
      return <Alert type="error" showIcon title="The rows could not be read" description={remote.error.message} />;
    case "loaded":
      return <Rows sample={remote.value} />;
  }
}

function Rows({ sample }: { sample: Sample }) {
  return (
    <Table
      size="small"
      pagination={false}
      scroll={{ x: "max-content", y: 420 }}
      locale={{ emptyText: "It is empty." }}
      rowKey="key"
      dataSource={sample.rows.map((values, key) => ({ key, values }))}
      columns={sample.columns.map((name, index) => ({
        title: name,
        key: name,
        render: (_: unknown, row: { values: Array<string | null> }) =>
          row.values[index] === null ? (
            <Typography.Text type="secondary">null</Typography.Text>
          ) : (
            <span className="cell">{row.values[index]}</span>
          ),
      }))}
    />
  );
}

/** Text to take along. */
export function FirstStatement({ text }: { text: string }) {
  return (
    <Typography.Paragraph copyable={{ text, tooltips: ["Copy as statement", "Copied"] }} className="statement">
      <pre className="sql">{text}</pre>
    </Typography.Paragraph>
  );
}
