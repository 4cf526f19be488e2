import { Button, Flex, Form, Input, Popconfirm, Select, Table, Tag } from "antd";
import { useState } from "react";
import { putRole, readRoles, removeRole, type Role } from "../api/http";
import { useDeed } from "../api/useDeed";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { EditDialog } from "./EditDialog";

interface RoleFields {
  name: string;
  about?: string;
  holds: string[];
}

const madeBy = (role: Role): string => {
  switch (role.from) {
    case "service":
      return "every service";
    case "workspace":
      return role.workspace ?? "a workspace";
    case "here":
      return "made here";
  }
};

/** Every role, what it holds and where it comes from; those that were made here can be changed. */
export function RolesTab() {
  const { remote, again } = useRemote(readRoles);
  const [edited, setEdited] = useState<Partial<RoleFields>>();
  const { error, run } = useDeed();
  return (
    <RemoteView remote={remote} again={again}>
      {({ roles }) => (
        <>
          <Flex justify="space-between" align="center" className="gap-below">
            <span className="quiet">Roles in workspace.yaml come with publishing. Others are made here.</span>
            <Button type="primary" onClick={() => setEdited({ holds: [] })}>
              New role
            </Button>
          </Flex>
          {error}
          <Table<Role>
            size="small"
            rowKey="name"
            pagination={false}
            dataSource={roles}
            columns={[
              { title: "Role", dataIndex: "name" },
              { title: "Holds", render: (_, { holds }) => holds.map((held) => <Tag key={held}>{held}</Tag>) },
              { title: "About", dataIndex: "about" },
              { title: "From", render: (_, role) => madeBy(role) },
              { title: "Have it", dataIndex: "holders", align: "right" },
              {
                align: "right",
                render: (_, role) =>
                  role.from === "here" && (
                    <Flex gap="small" justify="end">
                      <Button size="small" onClick={() => setEdited(role)}>
                        Change
                      </Button>
                      <Popconfirm
                        title={`Remove ${role.name}?`}
                        description={role.holders > 0 ? `It is taken from ${role.holders}.` : "Nobody has it."}
                        okText="Remove"
                        onConfirm={() => run(() => removeRole(role.name), again)}
                      >
                        <Button size="small">Remove</Button>
                      </Popconfirm>
                    </Flex>
                  ),
              },
            ]}
          />
          {edited !== undefined && (
            <EditDialog<RoleFields>
              title={edited.name === undefined ? "New role" : edited.name}
              initial={edited}
              save={({ name, ...role }) => putRole(edited.name ?? name, role)}
              cancel={() => setEdited(undefined)}
              done={() => {
                setEdited(undefined);
                again();
              }}
            >
              {edited.name === undefined && (
                <Form.Item label="Name" name="name" extra="Such as quay-clerk." rules={[{ required: true, message: "Give it a name." }]}>
                  <Input autoFocus />
                </Form.Item>
              )}
              <Form.Item
                label="Holds"
                name="holds"
                extra="Privileges such as moorings.book, or groups of them: moorings.*"
                rules={[{ required: true, message: "A role holds at least one privilege." }]}
              >
                <Select mode="tags" open={false} suffixIcon={null} tokenSeparators={[",", " "]} />
              </Form.Item>
              <Form.Item label="About" name="about">
                <Input />
              </Form.Item>
            </EditDialog>
          )}
        </>
      )}
    </RemoteView>
  );
}
