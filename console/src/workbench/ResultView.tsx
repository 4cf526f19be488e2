import { Alert, Card, Empty, Flex, Spin, Tabs, Tag, Typography } from "antd";
import type { Finding, Trial } from "../api/http";
import { AnswerTabs } from "../call/AnswerView";
import { Changes } from "../call/RehearsalView";
import { readAnswer } from "../call/readAnswer";
import { FindingList } from "../parts/FindingList";

/** What became of the last run. */
export type Run = { state: "idle" } | { state: "running" } | { state: "done"; trial: Trial } | { state: "failed"; message: string };

interface Props {
  run: Run;
  findings: Finding[];
}

/** The answer, the statement as it ran with the database's plan, and the findings, side by side with what made them. */
export function ResultView({ run, findings }: Props) {
  const standing = findings.filter((finding) => finding.accepted === undefined);
  return (
    <Card size="small" title={<Heading run={run} />} className="result">
      <Tabs
        size="small"
        items={[
          { key: "answer", label: "Answer", children: <AnswerOf run={run} /> },
          { key: "plan", label: "Statement and plan", children: <PlanOf run={run} /> },
          {
            key: "findings",
            label: standing.length === 0 ? "Findings" : `Findings (${standing.length})`,
            children: <FindingList findings={standing} />,
          },
        ]}
      />
    </Card>
  );
}

function Heading({ run }: { run: Run }) {
  if (run.state !== "done") {
    return <span>Result</span>;
  }
  const answer = run.trial.answer;
  return (
    <Flex gap="small" align="center" role="status">
      {answer === undefined ? (
        <Tag color="error">not run</Tag>
      ) : (
        <Tag color={answer.status < 400 ? "cyan" : "error"}>{answer.status}</Tag>
      )}
      <span className="quiet">
        {answer !== undefined && `${answer.millis} ms, `}
        {run.trial.rehearsal !== undefined && "rolled back, "}compiled in {run.trial.compileMillis} ms
      </span>
    </Flex>
  );
}

function AnswerOf({ run }: { run: Run }) {
  switch (run.state) {
    case "idle":
      return <Empty image={Empty.PRESENTED_IMAGE_SIMPLE} description="Press Run, or Ctrl and Enter in the statement." />;
    case "running":
      return <Spin className="calling"><div className="calling" /></Spin>;
    case "failed":
      return <Alert type="error" showIcon title="It could not be tried" description={run.message} />;
    case "done": {
      const answer = run.trial.answer;
      if (answer === undefined) {
        return <Alert type="warning" showIcon title="Findings keep it from being run" description="Mend the errors first; the tab 'Findings' lists them." />;
      }
      const headers = answer.headers.map((field) => [field.name, field.value] as const);
      return (
        <>
          {typeof answer.trouble === "string" && <Alert className="gap-below" type="error" showIcon title="The database said" description={answer.trouble} />}
          {run.trial.rehearsal !== undefined && <Changes rehearsal={run.trial.rehearsal} />}
          {answer.cut && <Alert className="gap-below" type="info" showIcon title="The answer is longer; this is its beginning." />}
          <AnswerTabs answer={readAnswer(answer.status, answer.millis, headers, answer.body)} />
        </>
      );
    }
  }
}

function PlanOf({ run }: { run: Run }) {
  const statement = run.state === "done" ? run.trial.statement : undefined;
  if (statement === undefined) {
    return <Empty image={Empty.PRESENTED_IMAGE_SIMPLE} description="Nothing was run yet." />;
  }
  return (
    <div className="stack">
      {statement.plan.length > 0 && (
        <div>
          <Typography.Text strong>How the database reads it</Typography.Text>
          <ol className="plan">
            {statement.plan.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
        </div>
      )}
      {statement.values.length > 0 && (
        <div>
          <Typography.Text strong>Bound, in order</Typography.Text>
          <ol className="plan">
            {statement.values.map((value, index) => (
              <li key={index}>
                <Typography.Text className="type">{value.name}</Typography.Text> {value.type}
                {typeof value.value === "string" && <Typography.Text type="secondary"> {value.value}</Typography.Text>}
              </li>
            ))}
          </ol>
        </div>
      )}
      <Typography.Paragraph copyable={{ text: statement.sql }} className="statement">
        <pre className="sql wrapped">{statement.sql}</pre>
      </Typography.Paragraph>
    </div>
  );
}
