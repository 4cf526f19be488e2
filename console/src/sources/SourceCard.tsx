import { CheckCircleFilled, CloseCircleFilled } from "@ant-design/icons";
import { Alert, Button, Card, Flex, Tag, theme, Typography } from "antd";
import { useState } from "react";
import { type Source, type SourceTest, testSource } from "../api/http";

type Testing = { state: "idle" } | { state: "running" } | { state: "done"; test: SourceTest } | { state: "failed"; message: string };

/** How a source is reached, and a button that tries it step by step. */
export function SourceCard({ source }: { source: Source }) {
  const [testing, setTesting] = useState<Testing>({ state: "idle" });
  const run = () => {
    setTesting({ state: "running" });
    testSource(source.name).then(
      (test) => setTesting({ state: "done", test }),
      (error: unknown) => setTesting({ state: "failed", message: error instanceof Error ? error.message : String(error) }),
    );
  };
  return (
    <Card size="small" className="gap-below">
      <Flex justify="space-between" align="center" gap="middle" wrap>
        <Flex gap="small" align="center" wrap>
          <Typography.Text code>
            {source.user} at {source.host}:{source.port}/{source.schema}
          </Typography.Text>
          <Tag>{source.readOnly ? "read only" : "may write"}</Tag>
          <Tag>{source.transport === "plain" ? "not encrypted" : source.transport}</Tag>
          <span className="quiet">
            {source.busy} of {source.connections} connections busy; a statement runs at most {source.timeoutMillis / 1000} s
          </span>
        </Flex>
        <Button onClick={run} loading={testing.state === "running"}>
          Test the connection
        </Button>
      </Flex>
      <Outcome testing={testing} />
    </Card>
  );
}

function Outcome({ testing }: { testing: Testing }) {
  const { token } = theme.useToken();
  switch (testing.state) {
    case "idle":
    case "running":
      return null;
    case "failed":
      return <Alert className="gap-above" type="error" showIcon title="It could not be tried" description={testing.message} />;
    case "done":
      return (
        <ol className="steps" role="status" aria-label="Steps of the test">
          {testing.test.steps.map((step) => (
            <li key={step.step}>
              {step.passed ? (
                <CheckCircleFilled style={{ color: token.colorPrimary }} aria-label="passed" />
              ) : (
                <CloseCircleFilled style={{ color: token.colorError }} aria-label="failed" />
              )}
              <b>{step.step}</b>
              <span>{step.detail}</span>
              <span className="quiet">{step.millis} ms</span>
            </li>
          ))}
        </ol>
      );
  }
}
