import { Alert, Button, Card, Divider, Form, Input, Spin, Typography } from "antd";
import { type ReactNode, useEffect, useReducer, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { DeskError, lookAtCode, readProvider, signIn } from "../api/http";
import { useRemote } from "../api/useRemote";
import { NewPassword } from "./NewPassword";
import { beginning, reduce, refusalOf } from "./signInState";

const messageOf = (e: unknown): string => (e instanceof DeskError ? e.message : String(e));

/** Signs in by name and password, by a link, or by the administrator's token. */
export function SignInPage() {
  const navigate = useNavigate();
  const [code] = useState(() => window.location.hash.slice(1));
  const [state, tell] = useReducer(reduce, code, beginning);
  const [refused] = useState(() => refusalOf(new URLSearchParams(window.location.search).get("refused")));
  const opened = useRef(false);

  const enter = async (shown: Parameters<typeof signIn>[0]) => {
    tell({ type: "sent" });
    try {
      await signIn(shown);
      await navigate("/modules", { replace: true });
    } catch (e) {
      if (e instanceof DeskError && e.code === "factor-needed" && shown.factor === undefined) {
        tell({ type: "factorNeeded", name: shown.name ?? "", password: shown.password ?? "" });
      } else {
        tell({ type: "failed", message: messageOf(e) });
      }
    }
  };

  useEffect(() => {
    const open = async () => {
      try {
        const { person } = await lookAtCode(code);
        if (person === undefined) {
          await enter({ code });
        } else {
          tell({ type: "linkOfPerson", code, person });
        }
      } catch (e) {
        tell({ type: "linkFailed", message: messageOf(e) });
      }
    };
    // a code works once, and development renders effects twice
    if (code !== "" && !opened.current) {
      opened.current = true;
      window.history.replaceState(null, "", window.location.pathname);
      void open();
    }
  });

  // a link opened where this page is shown already changes only what is behind the '#', and nothing is loaded
  useEffect(() => {
    const opened = () => window.location.hash.length > 1 && window.location.reload();
    window.addEventListener("hashchange", opened);
    return () => window.removeEventListener("hashchange", opened);
  }, []);

  return (
    <Card className="sign-in" title={<h1>{state.step === "password" ? `Choose a password, ${state.person}` : "Sign in"}</h1>}>
      <Spin spinning={state.busy}>
        {state.step === "name" && state.error === undefined && refused !== undefined && (
          <Alert className="gap-below" type="error" showIcon title={refused} />
        )}
        {state.step !== "link" && state.error !== undefined && (
          <Alert className="gap-below" type="error" showIcon title={state.error} />
        )}
        {(() => {
          switch (state.step) {
            case "link":
              return <Typography.Paragraph>The link is being opened.</Typography.Paragraph>;
            case "name":
              return <ByName enter={enter} useToken={() => tell({ type: "tokenWanted" })} />;
            case "factor":
              return <ByFactor enter={(factor) => enter({ name: state.name, password: state.password, factor })} />;
            case "password":
              return <NewPassword label="Choose it" choose={({ chosen }) => enter({ code: state.code, password: chosen })} />;
            case "token":
              return <ByToken enter={enter} useName={() => tell({ type: "nameWanted" })} />;
          }
        })()}
      </Spin>
    </Card>
  );
}

function Entry({ label, children }: { label: string; children?: ReactNode }) {
  return (
    <div className="entry">
      <Button type="primary" htmlType="submit">
        {label}
      </Button>
      {children}
    </div>
  );
}

function ByName({ enter, useToken }: { enter: (shown: { name: string; password: string }) => void; useToken: () => void }) {
  const { remote } = useRemote(readProvider);
  const provider = remote.state === "loaded" ? remote.value.name : undefined;
  return (
    <Form layout="vertical" onFinish={enter} requiredMark={false}>
      <Form.Item label="Name" name="name" rules={[{ required: true, message: "Enter the name an administrator gave you." }]}>
        <Input autoFocus autoComplete="username" />
      </Form.Item>
      <Form.Item label="Password" name="password" rules={[{ required: true, message: "Enter your password." }]}>
        <Input.Password autoComplete="current-password" />
      </Form.Item>
      <Entry label="Sign in">
        <Button type="link" onClick={useToken}>
          Use the administrator's token
        </Button>
      </Entry>
      {provider !== undefined && (
        <>
          <Divider plain>or</Divider>
          <Button block href="/desk/provider/begin">
            Sign in with {provider}
          </Button>
        </>
      )}
    </Form>
  );
}

function ByFactor({ enter }: { enter: (factor: string) => void }) {
  return (
    <Form layout="vertical" onFinish={({ factor }: { factor: string }) => enter(factor)} requiredMark={false}>
      <Form.Item
        label="Code of your authenticator"
        name="factor"
        rules={[{ required: true, message: "Enter the six digits that it shows now." }]}
      >
        <Input autoFocus inputMode="numeric" autoComplete="one-time-code" maxLength={7} />
      </Form.Item>
      <Entry label="Sign in" />
    </Form>
  );
}

function ByToken({ enter, useName }: { enter: (shown: { token: string }) => void; useName: () => void }) {
  return (
    <>
      <Typography.Paragraph>
        Type <Typography.Text code>./tidy console</Typography.Text> for a link that signs you in, or paste the administrator's
        token. It lies in the service's home folder, in <Typography.Text code>administrator.token</Typography.Text>.
      </Typography.Paragraph>
      <Form layout="vertical" onFinish={enter} requiredMark={false}>
        <Form.Item
          label="Administrator's token"
          name="token"
          rules={[{ required: true, message: "Paste the token from administrator.token." }]}
        >
          <Input.Password autoFocus autoComplete="off" />
        </Form.Item>
        <Entry label="Sign in">
          <Button type="link" onClick={useName}>
            Use name and password
          </Button>
        </Entry>
      </Form>
    </>
  );
}
