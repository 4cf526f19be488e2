import { Button, Card, Flex, Form, Input, Select, Typography } from "antd";
import type { TriedParameter } from "./routes";

interface Props {
  parameters: readonly TriedParameter[];
  values: Readonly<Record<string, string>>;
  onValues: (values: Readonly<Record<string, string>>) => void;
  /** Whether it changes data; then it is rehearsed, and rolled back. */
  changes: boolean;
  running: boolean;
  curl: string;
  onRun: () => void;
}

/** Values for an operation, which stay in this browser, and the button that runs it as the text is now. */
export function TryCard({ parameters, values, onValues, changes, running, curl, onRun }: Props) {
  const asked = parameters.filter((one) => one.in !== "request");
  const hasExamples = asked.some(({ example }) => example !== "");
  return (
    <Card
      size="small"
      title="Try it"
      extra={
        <Flex gap="small">
          {hasExamples && (
            <Button size="small" type="link" onClick={() => onValues(exampleValues(asked))}>
              Fill in the examples
            </Button>
          )}
          <Button size="small" type="primary" loading={running} onClick={onRun} title="Ctrl and Enter">
            {changes ? "Rehearse" : "Run"}
          </Button>
        </Flex>
      }
    >
      <Form layout="vertical" onFinish={onRun} className="try-values">
        {asked.map(({ bind, in: source, type, required, choices, about }) => {
          const id = `try-${bind}`;
          const change = (value: string) => onValues({ ...values, [bind]: value });
          return (
            <Form.Item
              key={bind}
              htmlFor={id}
              required={required}
              label={
                <span title={about}>
                  {bind} <span className="quiet">{source === "query" ? type : `${source}, ${type}`}</span>
                </span>
              }
            >
              {choices.length > 0 ? (
                <Select id={id} allowClear value={values[bind] || null} options={choices.map((one) => ({ value: one, label: one }))} onChange={(value) => change(value ?? "")} />
              ) : (
                <Input id={id} allowClear value={values[bind] ?? ""} onChange={({ target }) => change(target.value)} />
              )}
            </Form.Item>
          );
        })}
        <button type="submit" hidden />
      </Form>
      <Typography.Text className="curl" code copyable={{ text: curl }}>
        {curl}
      </Typography.Text>
    </Card>
  );
}

/** What the text says as examples; what must be chosen and has none is the first of its choices. */
export const exampleValues = (parameters: readonly TriedParameter[]): Record<string, string> =>
  Object.fromEntries(
    parameters.flatMap(({ bind, example, required, choices }) => {
      const value = example !== "" ? example : required ? (choices[0] ?? "") : "";
      return value === "" ? [] : [[bind, value]];
    }),
  );
