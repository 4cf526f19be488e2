import { CheckCircleOutlined, CloseCircleOutlined, QuestionCircleOutlined } from "@ant-design/icons";
import { Button, Drawer, Flex, Form, Input, Select, Table, Tag, theme, Typography } from "antd";
import { useCallback, useState } from "react";
import { type AccessAnswer, explainAccess, type Holder, readHolders } from "../api/http";
import { useDeed } from "../api/useDeed";
import { useRemote } from "../api/useRemote";
import { MethodPath } from "../parts/MethodPath";
import { RemoteView } from "../parts/RemoteView";

/** An operation that is asked about. */
export interface AskedOperation {
  module: string;
  method: string;
  path: string;
}

/** Who may call an operation, and for one of them why. */
export function AnswerDrawer({ operation, close }: { operation: AskedOperation; close: () => void }) {
  const ask = useCallback(() => readHolders(operation), [operation]);
  const { remote, again } = useRemote(ask);
  return (
    <Drawer open size="large" title={<MethodPath method={operation.method} path={operation.path} />} onClose={close}>
      <RemoteView remote={remote} again={again}>
        {({ open, needs, roles, clients, people }) => (
          <div className="stack">
            {open ? (
              <Typography.Paragraph>It is open to everybody.</Typography.Paragraph>
            ) : (
              <>
                <Typography.Paragraph>
                  {needs.length === 0 ? "It is closed to all but administrators." : "It asks for "}
                  {needs.map((need) => (
                    <Tag key={need}>{need}</Tag>
                  ))}
                </Typography.Paragraph>
                <Holders title="Roles" by="Holds" holders={roles} />
                <Holders title="Applications" by="By the role" holders={clients} />
                <Holders title="People" by="By the role" holders={people} />
              </>
            )}
            <Question operation={operation} />
          </div>
        )}
      </RemoteView>
    </Drawer>
  );
}

function Holders({ title, by, holders }: { title: string; by: string; holders: Holder[] }) {
  return (
    <Table<Holder>
      size="small"
      rowKey="name"
      pagination={holders.length > 20 && { pageSize: 20 }}
      dataSource={holders}
      locale={{ emptyText: "None of them may call it." }}
      columns={[
        { title, dataIndex: "name" },
        { title: by, dataIndex: "by" },
        { title: "", render: (_, { trouble }) => trouble && <Typography.Text type="warning">{trouble}</Typography.Text> },
      ]}
    />
  );
}

function Question({ operation }: { operation: AskedOperation }) {
  const [answer, setAnswer] = useState<AccessAnswer>();
  const { error, busy, run } = useDeed();
  const ask = ({ kind, name, address }: { kind: "client" | "person"; name?: string; address?: string }) =>
    run(async () => setAnswer(await explainAccess(operation, kind, name, address)));
  return (
    <>
      <Typography.Title level={5}>May this one call it, and why?</Typography.Title>
      <Form layout="inline" onFinish={ask} initialValues={{ kind: "client" }}>
        <Form.Item name="kind">
          <Select
            aria-label="Who"
            style={{ width: 130 }}
            options={[
              { value: "client", label: "Application" },
              { value: "person", label: "Person" },
            ]}
          />
        </Form.Item>
        <Form.Item name="name">
          <Input aria-label="Name" placeholder="name; nobody known if empty" style={{ width: 210 }} />
        </Form.Item>
        <Form.Item name="address">
          <Input aria-label="Address" placeholder="from, such as 10.1.2.3" style={{ width: 170 }} />
        </Form.Item>
        <Button htmlType="submit" loading={busy}>
          Explain
        </Button>
      </Form>
      {error}
      {answer && <Steps answer={answer} />}
    </>
  );
}

const words = { yes: "Yes.", no: "No.", depends: "It depends." } as const;

function Steps({ answer }: { answer: AccessAnswer }) {
  return (
    <div role="status">
      <Typography.Paragraph strong>{words[answer.outcome]}</Typography.Paragraph>
      <Flex vertical gap="small">
        {answer.steps.map(({ sentence, outcome }) => (
          <Flex key={sentence} gap="small">
            <OutcomeMark outcome={outcome} />
            <span>{sentence}</span>
          </Flex>
        ))}
      </Flex>
    </div>
  );
}

function OutcomeMark({ outcome }: { outcome: AccessAnswer["outcome"] }) {
  const { token } = theme.useToken();
  switch (outcome) {
    case "yes":
      return <CheckCircleOutlined aria-label="yes" style={{ color: token.colorPrimary }} />;
    case "no":
      return <CloseCircleOutlined aria-label="no" style={{ color: token.colorError }} />;
    case "depends":
      return <QuestionCircleOutlined aria-label="depends" style={{ color: token.colorTextSecondary }} />;
  }
}
