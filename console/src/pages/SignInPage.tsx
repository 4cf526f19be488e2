import { Alert, Button, Card, Form, Input, Spin, Typography } from "antd";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { DeskError, signIn } from "../api/http";

/** Signs in by the code of a printed link, or by the administrator's token. */
export function SignInPage() {
  const navigate = useNavigate();
  const [code] = useState(() => window.location.hash.slice(1));
  const [busy, setBusy] = useState(code !== "");
  const [error, setError] = useState<string>();
  const redeemed = useRef(false);

  const enter = async (by: { token: string } | { code: string }) => {
    setBusy(true);
    setError(undefined);
    try {
      await signIn(by);
      await navigate("/modules", { replace: true });
    } catch (e) {
      setError(e instanceof DeskError ? e.message : String(e));
      setBusy(false);
    }
  };

  useEffect(() => {
    // a code works once, and development renders effects twice
    if (code !== "" && !redeemed.current) {
      redeemed.current = true;
      window.history.replaceState(null, "", window.location.pathname);
      void enter({ code });
    }
  });

  return (
    <Card className="sign-in" title={<h1>Sign in</h1>}>
      <Spin spinning={busy}>
        {error !== undefined && <Alert className="gap-below" type="error" showIcon title={error} />}
        <Typography.Paragraph>
          Type <Typography.Text code>./tidy console</Typography.Text> for a link that signs you in, or paste the
          administrator's token. It lies in the service's home folder, in{" "}
          <Typography.Text code>administrator.token</Typography.Text>.
        </Typography.Paragraph>
        <Form layout="vertical" onFinish={({ token }: { token: string }) => enter({ token })} requiredMark={false}>
          <Form.Item
            label="Administrator's token"
            name="token"
            rules={[{ required: true, message: "Paste the token from administrator.token." }]}
          >
            <Input.Password autoFocus autoComplete="off" />
          </Form.Item>
          <Button type="primary" htmlType="submit">
            Sign in
          </Button>
        </Form>
      </Spin>
    </Card>
  );
}
