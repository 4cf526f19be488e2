import { Button, Flex, Form, Input, InputNumber, Select, Space, Table, Tag } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { type Client, putClient, readClients } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";
import { EditDialog } from "./EditDialog";
import { RoleSelect } from "./RoleSelect";
import { lastUse } from "./lastUse";

/** What is asked of a new application. */
export interface ClientFields {
  name: string;
  owner: string;
  contact: string;
  about?: string;
  addresses: string[];
  quota?: { calls?: number; perSeconds?: number; concurrent?: number };
  subjects: string[];
  roles: string[];
}

/** Every client application, its roles, and when it was seen last. */
export function ClientsTab() {
  const { remote, again } = useRemote(readClients);
  const [adding, setAdding] = useState(false);
  return (
    <RemoteView remote={remote} again={again}>
      {({ clients }) => (
        <>
          <Flex justify="space-between" align="center" className="gap-below">
            <span className="quiet">Applications call modules with keys of their own.</span>
            <Button type="primary" onClick={() => setAdding(true)}>
              New application
            </Button>
          </Flex>
          <Table<Client>
            size="small"
            rowKey="name"
            pagination={clients.length > 50 && { pageSize: 50 }}
            dataSource={clients}
            columns={[
              { title: "Application", render: (_, { name }) => <Link to={`/access/clients/${name}`}>{name}</Link> },
              { title: "Owner", dataIndex: "owner" },
              { title: "Contact", dataIndex: "contact" },
              {
                title: "Roles",
                render: (_, { roles, disabled }) =>
                  disabled ? <Tag color="error">may not call</Tag> : roles.map((role) => <Tag key={role}>{role}</Tag>),
              },
              { title: "Keys", render: (_, { credentials }) => credentials.filter(({ ended }) => !ended).length, align: "right" },
              { title: "Seen", render: (_, { credentials }) => when(lastUse(credentials)) },
            ]}
          />
          {adding && (
            <EditDialog<ClientFields>
              title="New application"
              initial={{ roles: [], addresses: [], subjects: [] }}
              save={({ name, ...client }) => putClient(name, client)}
              cancel={() => setAdding(false)}
              done={() => {
                setAdding(false);
                again();
              }}
            >
              <Form.Item label="Name" name="name" extra="Such as quay-display." rules={[{ required: true, message: "Give it a name." }]}>
                <Input autoFocus />
              </Form.Item>
              <ClientItems />
            </EditDialog>
          )}
        </>
      )}
    </RemoteView>
  );
}

/** The fields of an application beside its name. */
export function ClientItems() {
  return (
    <>
      <Form.Item label="Owner" name="owner" rules={[{ required: true, message: "Who answers for it?" }]}>
        <Input />
      </Form.Item>
      <Form.Item
        label="Contact"
        name="contact"
        rules={[{ required: true, message: "Where is somebody told when something is wrong with it?" }]}
      >
        <Input />
      </Form.Item>
      <Form.Item label="What it does" name="about">
        <Input />
      </Form.Item>
      <Form.Item label="May call from" name="addresses" extra="Networks such as 10.0.0.0/8 or 2001:db8::/32; everywhere when there is none.">
        <Select mode="tags" open={false} suffixIcon={null} tokenSeparators={[",", " "]} placeholder="Everywhere" />
      </Form.Item>
      <Form.Item label="Quota" extra="Unbounded where nothing stands. A window must fit into a day without a rest.">
        <Space wrap>
          <Form.Item name={["quota", "calls"]} noStyle>
            <InputNumber aria-label="Calls in a window" min={1} placeholder="calls" />
          </Form.Item>
          in
          <Form.Item name={["quota", "perSeconds"]} noStyle>
            <InputNumber aria-label="Seconds of a window" min={1} max={86400} placeholder="60" suffix="s" />
          </Form.Item>
          and
          <Form.Item name={["quota", "concurrent"]} noStyle>
            <InputNumber aria-label="Calls at a time" min={1} placeholder="calls" />
          </Form.Item>
          at a time
        </Space>
      </Form.Item>
      <Form.Item label="Certificates" name="subjects" extra="Subjects such as CN=quay-display,O=Marrowby Waterways, shown in place of a key.">
        <Select mode="tags" open={false} suffixIcon={null} placeholder="None" />
      </Form.Item>
      <Form.Item label="Roles" name="roles">
        <RoleSelect />
      </Form.Item>
    </>
  );
}
