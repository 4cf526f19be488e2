import { Button, Flex, Form, Input, Modal, Popconfirm, Table, Tag, Typography } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { addTeam, inviteToTeam, readTeams, removeTeam, type Team } from "../api/http";
import { useDeed } from "../api/useDeed";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import { EditDialog } from "./EditDialog";

interface TeamFields {
  name: string;
  title: string;
  contact: string;
}

/** Client teams, which make applications and ask for privileges by themselves. */
export function TeamsTab() {
  const { remote, again } = useRemote(readTeams);
  const [adding, setAdding] = useState(false);
  const [link, setLink] = useState<{ title: string; address: string }>();
  const { error, run } = useDeed();
  const invite = ({ name, title }: Pick<Team, "name" | "title">) =>
    run(async () => setLink({ title, address: (await inviteToTeam(name)).link }));
  return (
    <RemoteView remote={remote} again={again}>
      {({ teams }) => (
        <>
          <Flex justify="space-between" align="center" className="gap-below" gap="small">
            <span className="quiet">Client teams make applications and ask for privileges by themselves, on pages of their own.</span>
            <Button type="primary" onClick={() => setAdding(true)}>
              New team
            </Button>
          </Flex>
          {error}
          <Table<Team>
            size="small"
            rowKey="name"
            scroll={{ x: "max-content" }}
            pagination={teams.length > 50 && { pageSize: 50 }}
            dataSource={teams}
            locale={{ emptyText: "There are no client teams yet." }}
            columns={[
              { title: "Name", dataIndex: "name" },
              { title: "Title", dataIndex: "title" },
              { title: "Contact", dataIndex: "contact" },
              { title: "People", render: (_, { people }) => (people.length === 0 ? "nobody yet" : people.map((one) => <Tag key={one}>{one}</Tag>)) },
              {
                title: "Applications",
                render: (_, { clients }) =>
                  clients.map((one) => (
                    <Tag key={one}>
                      <Link to={`/access/clients/${one}`}>{one}</Link>
                    </Tag>
                  )),
              },
              {
                align: "right",
                render: (_, team) => (
                  <Flex gap="small" justify="end">
                    <Button size="small" onClick={() => void invite(team)}>
                      Invite
                    </Button>
                    <Popconfirm
                      title={`Remove ${team.title}?`}
                      description="Its people, its applications and their keys are removed with it."
                      okText="Remove"
                      onConfirm={() => run(() => removeTeam(team.name), again)}
                    >
                      <Button size="small">Remove</Button>
                    </Popconfirm>
                  </Flex>
                ),
              },
            ]}
          />
          {adding && (
            <EditDialog<TeamFields>
              title="New team"
              initial={{}}
              save={({ name, title, contact }) => addTeam(name, { title, contact })}
              cancel={() => setAdding(false)}
              done={() => {
                setAdding(false);
                again();
              }}
            >
              <Form.Item label="Title" name="title" extra="Such as Harbour apps." rules={[{ required: true, message: "Give it a title." }]}>
                <Input autoFocus />
              </Form.Item>
              <Form.Item label="Name" name="name" extra="Such as harbour-apps." rules={[{ required: true, message: "Give it a name." }]}>
                <Input />
              </Form.Item>
              <Form.Item label="Mail address" name="contact" extra="Where the team is told something." rules={[{ required: true, message: "Say where it is told something." }]}>
                <Input type="email" />
              </Form.Item>
            </EditDialog>
          )}
          {link !== undefined && (
            <Modal
              open
              title={`Join ${link.title}`}
              footer={null}
              onCancel={() => {
                setLink(undefined);
                again();
              }}
            >
              <Typography.Paragraph>Give this link to whoever is to join. It works once, for seven days.</Typography.Paragraph>
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
