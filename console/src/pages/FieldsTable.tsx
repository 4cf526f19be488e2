import { Card, Table, Typography } from "antd";
import type { Field, Operation } from "../api/http";

const answers: Record<Operation["answer"], string> = {
  rows: "A collection, in pages",
  row: "One row, or 404",
  value: "One value, or 404",
  nothing: "No content, or 404",
  file: "A file, or 404",
};

/** The fields of an answer, with the types the database gave them. */
export function FieldsTable({ operation }: { operation: Operation }) {
  const order = new Map(operation.order.map((key) => [key.field, key.descending ? "descending" : "ascending"]));
  return (
    <Card size="small" title="Answer" extra={<Typography.Text type="secondary">{answers[operation.answer]}</Typography.Text>}>
      <Table<Field>
        size="small"
        pagination={false}
        rowKey="name"
        dataSource={operation.fields}
        columns={[
          { title: "Field", dataIndex: "name", render: (name: string) => <Typography.Text code>{name}</Typography.Text> },
          { title: "Type", dataIndex: "type", render: (type: string, field) => (field.masked ? `${type}, masked` : type) },
          { title: "Null", dataIndex: "nullable", render: (nullable: boolean) => (nullable ? "may be null" : "never") },
          ...(order.size === 0
            ? []
            : [{ title: "Order", dataIndex: "name", key: "order", render: (name: string) => order.get(name) ?? "" }]),
        ]}
      />
    </Card>
  );
}
