import { Alert, App, Button, Card, Descriptions, Form, Input, QRCode, Table, Tag, Typography } from "antd";
import { useState } from "react";
import {
  type Account,
  changePassword,
  endSession,
  type Factor,
  newFactor,
  readAccount,
  readSessions,
  type Session,
  setFactor,
} from "../api/http";
import { useRemote } from "../api/useRemote";
import { useDeed } from "../api/useDeed";
import { RemoteView } from "../parts/RemoteView";
import { when } from "../parts/when";
import { type Chosen, NewPassword } from "./NewPassword";

/** Who is signed in, what they hold, and what they sign in with. */
export function AccountPage() {
  const { remote, again } = useRemote(readAccount);
  return (
    <>
      <Typography.Title level={1}>Account</Typography.Title>
      <RemoteView remote={remote} again={again}>
        {(account) => (
          <div className="columns even">
            <div className="stack">
              <Holder account={account} />
              <Sessions />
            </div>
            {account.kind === "person" ? (
              <div className="stack">
                <Password />
                <SecondFactor account={account} again={again} />
              </div>
            ) : (
              <NoPerson account={account} />
            )}
          </div>
        )}
      </RemoteView>
    </>
  );
}

function NoPerson({ account }: { account: Account }) {
  return (
    <Alert
      type={account.anybodyKnown ? "info" : "warning"}
      showIcon
      title={account.anybodyKnown ? "You came by the administrator's token" : "Nobody can sign in by name yet"}
      description={
        account.anybodyKnown
          ? "It says nothing about who you are. Sign in by name, so that others see who did what."
          : "Make yourself a person under Access, with the role administrator, and open the link you get for it."
      }
    />
  );
}

function Holder({ account }: { account: Account }) {
  return (
    <Card size="small" title={account.fullName ?? account.name}>
      <Descriptions
        column={1}
        size="small"
        items={[
          { key: "name", label: "Name", children: account.name },
          { key: "roles", label: "Roles", children: account.roles.map((role) => <Tag key={role}>{role}</Tag>) },
          {
            key: "privileges",
            label: "Privileges",
            children: account.privileges.length === 0 ? "none" : account.privileges.map((one) => <Tag key={one}>{one}</Tag>),
          },
        ]}
      />
    </Card>
  );
}

function Sessions() {
  const { remote, again } = useRemote(readSessions);
  const { error, run } = useDeed();
  return (
    <Card size="small" title="Where you are signed in">
      {error}
      <RemoteView remote={remote} again={again}>
        {({ sessions }) => (
          <Table<Session>
            size="small"
            rowKey="id"
            pagination={false}
            dataSource={sessions}
            columns={[
              {
                title: "On",
                render: (_, session) => (
                  <>
                    {session.kind === "console" ? "a browser" : "a command line"} {session.current && <Tag color="processing">this one</Tag>}
                  </>
                ),
              },
              { title: "From", dataIndex: "address" },
              { title: "Used", render: (_, session) => when(session.usedAt) },
              { title: "Ends", render: (_, session) => when(session.endsAt) },
              {
                render: (_, session) =>
                  !session.current && (
                    <Button size="small" onClick={() => run(() => endSession(session.id), again)}>
                      End
                    </Button>
                  ),
              },
            ]}
          />
        )}
      </RemoteView>
    </Card>
  );
}

function Password() {
  const { message } = App.useApp();
  const { error, busy, run } = useDeed();
  const [round, setRound] = useState(0);
  const change = ({ password = "", chosen }: Chosen) =>
    run(
      () => changePassword(password, chosen),
      () => {
        setRound((n) => n + 1);
        void message.success("The password is changed. Your other sessions have ended.");
      },
    );
  return (
    <Card size="small" title="Password">
      {error}
      <NewPassword key={round} label="Change it" busy={busy} choose={change}>
        <Form.Item label="Present password" name="password" rules={[{ required: true, message: "Enter the present one." }]}>
          <Input.Password autoComplete="current-password" />
        </Form.Item>
      </NewPassword>
    </Card>
  );
}

function SecondFactor({ account, again }: { account: Account; again: () => void }) {
  const [proposed, setProposed] = useState<Factor>();
  const { error, busy, run } = useDeed();
  const propose = () => run(async () => setProposed(await newFactor()));
  const done = () => {
    setProposed(undefined);
    again();
  };
  return (
    <Card size="small" title="Second factor" extra={<Tag>{account.hasFactor ? "on" : "off"}</Tag>}>
      {error}
      {account.hasFactor ? (
        <Form name="factor-off" layout="inline" onFinish={({ password }: { password: string }) => run(() => setFactor({ password }), done)}>
          <Form.Item name="password" rules={[{ required: true, message: "Enter your password." }]}>
            <Input.Password placeholder="Password" autoComplete="current-password" />
          </Form.Item>
          <Button htmlType="submit" loading={busy}>
            Sign in without it
          </Button>
        </Form>
      ) : proposed === undefined ? (
        <>
          <Typography.Paragraph>
            With a second factor, signing in asks for the six digits that an authenticator on your phone shows.
          </Typography.Paragraph>
          <Button onClick={propose} loading={busy}>
            Set one up
          </Button>
        </>
      ) : (
        <div className="factor">
          <QRCode value={proposed.address} size={168} color="#000000" bgColor="#ffffff" />
          <Form
            name="factor"
            layout="vertical"
            requiredMark={false}
            onFinish={({ password, code }: { password: string; code: string }) =>
              run(() => setFactor({ password, code, secret: proposed.secret }), done)
            }
          >
            <Typography.Paragraph>
              Let the authenticator read the picture, or type <Typography.Text code copyable>{proposed.secret}</Typography.Text>
            </Typography.Paragraph>
            <Form.Item label="Code it shows" name="code" rules={[{ required: true, message: "Enter the six digits." }]}>
              <Input inputMode="numeric" autoComplete="one-time-code" maxLength={7} />
            </Form.Item>
            <Form.Item label="Password" name="password" rules={[{ required: true, message: "Enter your password." }]}>
              <Input.Password autoComplete="current-password" />
            </Form.Item>
            <Button type="primary" htmlType="submit" loading={busy}>
              Use it from now on
            </Button>
          </Form>
        </div>
      )}
    </Card>
  );
}
