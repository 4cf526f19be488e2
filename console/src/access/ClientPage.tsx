import { Alert, Breadcrumb, Button, Card, Descriptions, Flex, Form, Input, Modal, Popconfirm, Table, Tag, Typography } from "antd";
import { useCallback, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import {
  addCredential,
  type Client,
  type Credential,
  DeskError,
  type Given,
  type MadeCredential,
  putClient,
  readClients,
  removeClient,
  revokeCredential,
  takePrivilegeBack,
} from "../api/http";
import { useDeed } from "../api/useDeed";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";
import { afterDay, lastDay } from "../requests/requestWords";
import { type ClientFields, ClientItems } from "./ClientsTab";
import { EditDialog } from "./EditDialog";
import { quotaWords } from "./quotaWords";

/** One client application: whose it is, what it may, and its keys. */
export function ClientPage() {
  const { name = "" } = useParams();
  const ask = useCallback(async () => {
    const { clients } = await readClients();
    const found = clients.find((client) => client.name === name);
    if (found === undefined) {
      throw new DeskError(404, `There is no client application '${name}'.`);
    }
    return found;
  }, [name]);
  const { remote, again } = useRemote(ask);
  return (
    <>
      <Breadcrumb items={[{ title: <Link to="/access">Access</Link> }, { title: name }]} />
      <RemoteView remote={remote} again={again}>
        {(client) => <ClientView client={client} again={again} />}
      </RemoteView>
    </>
  );
}

function ClientView({ client, again }: { client: Client; again: () => void }) {
  const navigate = useNavigate();
  const [editing, setEditing] = useState(false);
  const { error, busy, run } = useDeed();
  const turn = () => run(() => putClient(client.name, { ...client, disabled: !client.disabled }), again);
  return (
    <>
      <Flex justify="space-between" align="center" wrap gap="small">
        <Typography.Title level={1}>{client.name}</Typography.Title>
        <Flex gap="small">
          <Button onClick={() => setEditing(true)}>Change</Button>
          <Button onClick={turn} loading={busy}>
            {client.disabled ? "Let it call again" : "Refuse its calls"}
          </Button>
          <Popconfirm
            title={`Remove ${client.name}?`}
            description="Its keys are no longer valid."
            okText="Remove"
            onConfirm={() => run(() => removeClient(client.name), () => void navigate("/access"))}
          >
            <Button danger>Remove</Button>
          </Popconfirm>
        </Flex>
      </Flex>
      {error}
      {client.disabled && <Alert className="gap-below" type="warning" showIcon title="All of its calls are refused." />}
      <div className="stack">
        <Card size="small">
          <Descriptions
            size="small"
            column={2}
            items={[
              { key: "owner", label: "Owner", children: client.owner },
              { key: "contact", label: "Contact", children: client.contact },
              { key: "about", label: "What it does", children: client.about ?? "–" },
              { key: "made", label: "Made", children: when(client.createdAt) },
              { key: "from", label: "May call from", children: client.addresses.length === 0 ? "everywhere" : client.addresses.join(", ") },
              { key: "quota", label: "Quota", children: quotaWords(client.quota) },
              ...(client.subjects.length === 0
                ? []
                : [{ key: "subjects", label: "Certificates", children: client.subjects.map((subject) => <div key={subject}>{subject}</div>) }]),
              { key: "roles", label: "Roles", children: client.roles.map((role) => <Tag key={role}>{role}</Tag>) },
              ...(client.team === undefined ? [] : [{ key: "team", label: "Team", children: client.team }]),
            ]}
          />
        </Card>
        {client.given.length > 0 && <GivenPrivileges client={client} again={again} />}
        <Keys client={client} again={again} />
      </div>
      {editing && (
        <EditDialog<Omit<ClientFields, "name">>
          title={client.name}
          initial={client}
          save={(fields) => putClient(client.name, { ...fields, disabled: client.disabled })}
          cancel={() => setEditing(false)}
          done={() => {
            setEditing(false);
            again();
          }}
        >
          <ClientItems />
        </EditDialog>
      )}
    </>
  );
}

function GivenPrivileges({ client, again }: { client: Client; again: () => void }) {
  const { error, run } = useDeed();
  return (
    <Card size="small" title="Given on request">
      {error}
      <Table<Given>
        size="small"
        rowKey="privilege"
        pagination={false}
        dataSource={client.given}
        columns={[
          { title: "Privilege", render: (_, { privilege }) => <Tag>{privilege}</Tag> },
          { title: "Given by", render: (_, { givenBy, givenAt }) => `${givenBy}, ${when(givenAt)}` },
          {
            title: "Last day, in UTC",
            render: (_, { endsAt, ended }) =>
              ended ? <Tag color="error">ended</Tag> : endsAt === undefined ? "open end" : lastDay(endsAt),
          },
          {
            align: "right",
            render: (_, { privilege }) => (
              <Popconfirm
                title={`Take ${privilege} back?`}
                description="Calls that need it are refused at once, on every node."
                okText="Take it back"
                onConfirm={() => run(() => takePrivilegeBack(client.name, privilege), again)}
              >
                <Button size="small">Take back</Button>
              </Popconfirm>
            ),
          },
        ]}
      />
    </Card>
  );
}

function Keys({ client, again }: { client: Client; again: () => void }) {
  const [adding, setAdding] = useState(false);
  const [made, setMade] = useState<MadeCredential>();
  const { error, run } = useDeed();
  const add = async ({ name, ends }: { name: string; ends?: string }) => {
    const endsAt = afterDay(ends);
    setMade(await addCredential(client.name, endsAt === undefined ? { name } : { name, endsAt }));
  };
  return (
    <Card
      size="small"
      title="Keys"
      extra={
        <Button size="small" type="primary" onClick={() => setAdding(true)}>
          New key
        </Button>
      }
    >
      {error}
      <Table<Credential>
        size="small"
        rowKey="name"
        pagination={false}
        dataSource={client.credentials}
        locale={{ emptyText: "It has no key yet, so it cannot call what is protected." }}
        columns={[
          { title: "Name", dataIndex: "name" },
          { title: "Begins with", render: (_, { id }) => <Typography.Text code>tbk_{id}</Typography.Text> },
          { title: "Made", render: (_, { createdAt }) => when(createdAt) },
          { title: "Used last", render: (_, { usedAt }) => (usedAt === undefined ? "never" : when(usedAt)) },
          {
            title: "Ends",
            render: (_, { endsAt, ended }) => (ended ? <Tag color="error">ended</Tag> : endsAt === undefined ? "open end" : when(endsAt)),
          },
          {
            align: "right",
            render: (_, { name }) => (
              <Popconfirm
                title={`Revoke ${name}?`}
                description="Calls with it are refused at once, on every node."
                okText="Revoke"
                onConfirm={() => run(() => revokeCredential(client.name, name), again)}
              >
                <Button size="small">Revoke</Button>
              </Popconfirm>
            ),
          },
        ]}
      />
      {adding && (
        <EditDialog<{ name: string; ends?: string }>
          title="New key"
          initial={{}}
          save={add}
          cancel={() => setAdding(false)}
          done={() => setAdding(false)}
        >
          <Form.Item label="Name" name="name" extra="Such as spring-2031." rules={[{ required: true, message: "Give it a name." }]}>
            <Input autoFocus />
          </Form.Item>
          <Form.Item label="Last day, in UTC" name="ends" extra="It has no end unless you choose one.">
            <Input type="date" />
          </Form.Item>
        </EditDialog>
      )}
      {made !== undefined && (
        <Modal
          open
          title={`The key ${made.credential.name}`}
          footer={null}
          onCancel={() => {
            setMade(undefined);
            // reading everything anew takes this window away
            again();
          }}
        >
          <Typography.Paragraph>It is shown this once. Nobody can read it again.</Typography.Paragraph>
          <Typography.Paragraph>
            <Typography.Text code copyable>
              {made.key}
            </Typography.Text>
          </Typography.Paragraph>
          <Typography.Paragraph type="secondary">
            It is sent as <code>Authorization: Bearer KEY</code>, or as the password of Basic with the name {client.name}.
          </Typography.Paragraph>
        </Modal>
      )}
    </Card>
  );
}
