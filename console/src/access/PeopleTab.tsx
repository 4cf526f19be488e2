import { Button, Dropdown, Flex, Form, Input, Modal, Switch, Table, Tag, Typography } from "antd";
import { useState } from "react";
import { makeLink, type Person, putPerson, readPeople, removeFactor, removePerson } from "../api/http";
import { useDeed } from "../api/useDeed";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";
import { EditDialog } from "./EditDialog";
import { RoleSelect } from "./RoleSelect";

interface PersonFields {
  name: string;
  fullName: string;
  roles: string[];
  maySignIn: boolean;
}

const state = ({ disabled, hasPassword, hasFactor, provider }: Person): string => {
  if (disabled) {
    return "may not sign in";
  }
  if (provider !== undefined) {
    return provider;
  }
  if (!hasPassword) {
    return "no password yet";
  }
  return hasFactor ? "password and code" : "password";
};

/** Everybody who may sign in, with what and with which roles. */
export function PeopleTab() {
  const { remote, again } = useRemote(readPeople);
  const [edited, setEdited] = useState<Partial<PersonFields>>();
  const [link, setLink] = useState<{ name: string; address: string }>();
  const { error, run } = useDeed();
  const showLink = (name: string) =>
    run(async () => {
      const { path } = await makeLink(name);
      setLink({ name, address: window.location.origin + path });
    });
  const actions = (person: Person) => ({
    items: [
      { key: "link", label: "Link to choose a password" },
      { key: "factor", label: "Take the second factor away", disabled: !person.hasFactor },
      { key: "remove", label: "Remove", danger: true },
    ],
    onClick: ({ key }: { key: string }) => {
      switch (key) {
        case "link":
          void showLink(person.name);
          break;
        case "factor":
          void run(() => removeFactor(person.name), again);
          break;
        case "remove":
          Modal.confirm({
            title: `Remove ${person.fullName}?`,
            content: "Their sessions end. What they published stays.",
            okText: "Remove",
            onOk: () => run(() => removePerson(person.name), again),
          });
          break;
      }
    },
  });
  return (
    <RemoteView remote={remote} again={again}>
      {({ people }) => (
        <>
          <Flex justify="space-between" align="center" className="gap-below">
            <span className="quiet">People sign in to the console and to the command line by name.</span>
            <Button type="primary" onClick={() => setEdited({ roles: [], maySignIn: true })}>
              New person
            </Button>
          </Flex>
          {error}
          <Table<Person>
            size="small"
            rowKey="name"
            pagination={people.length > 50 && { pageSize: 50 }}
            dataSource={people}
            columns={[
              { title: "Name", dataIndex: "name" },
              { title: "Full name", dataIndex: "fullName" },
              { title: "Team", dataIndex: "team" },
              { title: "Roles", render: (_, { roles }) => roles.map((role) => <Tag key={role}>{role}</Tag>) },
              { title: "Signs in with", render: (_, person) => state(person) },
              { title: "Seen", render: (_, { seenAt }) => when(seenAt) },
              {
                align: "right",
                render: (_, person) => (
                  <Flex gap="small" justify="end">
                    <Button size="small" onClick={() => setEdited({ ...person, maySignIn: !person.disabled })}>
                      Change
                    </Button>
                    <Dropdown menu={actions(person)} trigger={["click"]}>
                      <Button size="small">More</Button>
                    </Dropdown>
                  </Flex>
                ),
              },
            ]}
          />
          {edited !== undefined && (
            <EditDialog<PersonFields>
              title={edited.name === undefined ? "New person" : edited.name}
              initial={edited}
              save={({ name, fullName, roles, maySignIn }) =>
                putPerson(edited.name ?? name, { fullName, roles, disabled: !maySignIn })
              }
              cancel={() => setEdited(undefined)}
              done={() => {
                setEdited(undefined);
                again();
              }}
            >
              {edited.name === undefined && (
                <Form.Item label="Name to sign in with" name="name" rules={[{ required: true, message: "Give a name." }]}>
                  <Input autoFocus autoComplete="off" />
                </Form.Item>
              )}
              <Form.Item label="Full name" name="fullName" rules={[{ required: true, message: "Give the full name." }]}>
                <Input autoComplete="off" />
              </Form.Item>
              <Form.Item label="Roles" name="roles">
                <RoleSelect />
              </Form.Item>
              <Form.Item label="May sign in" name="maySignIn" valuePropName="checked">
                <Switch />
              </Form.Item>
            </EditDialog>
          )}
          {link !== undefined && (
            <Modal open title={`A link for ${link.name}`} footer={null} onCancel={() => setLink(undefined)}>
              <Typography.Paragraph>It works once, for three days. Send it to nobody else: whoever opens it chooses the password.</Typography.Paragraph>
              <Typography.Text code copyable>
                {link.address}
              </Typography.Text>
            </Modal>
          )}
        </>
      )}
    </RemoteView>
  );
}
