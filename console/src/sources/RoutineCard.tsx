import { Card, Table, Typography } from "antd";
import type { Routine } from "../api/http";
import { FirstStatement } from "./RelationCard";

/** A procedure or function: its parameters, what it gives back, and a statement that calls it. */
export function RoutineCard({ routine }: { routine: Routine }) {
  return (
    <Card
      size="small"
      title={routine.name}
      extra={
        <span className="quiet">
          {routine.kind}, {routine.access.replace("-", " ")}
        </span>
      }
    >
      {routine.about !== "" && <Typography.Paragraph>{routine.about}</Typography.Paragraph>}
      {routine.returns !== undefined && (
        <Typography.Paragraph>
          Returns <Typography.Text className="type">{routine.returns}</Typography.Text>
        </Typography.Paragraph>
      )}
      <Table
        size="small"
        className="gap-below"
        pagination={false}
        rowKey="name"
        locale={{ emptyText: "It takes no parameters." }}
        dataSource={routine.parameters}
        columns={[
          { title: "Parameter", dataIndex: "name", render: (name: string) => <b>{name}</b> },
          { title: "Way", dataIndex: "mode" },
          { title: "Type", dataIndex: "type", render: (type: string) => <Typography.Text className="type">{type}</Typography.Text> },
        ]}
      />
      <FirstStatement text={routine.statement} />
    </Card>
  );
}
