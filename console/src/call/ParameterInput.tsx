import { Form, Input, Select, Typography } from "antd";
import type { Parameter } from "../api/http";
import { choicesOf } from "./address";

interface Props {
  parameter: Parameter;
  value: string;
  error: string | undefined;
  onChange: (value: string) => void;
}

/** One input with its name, where it goes, what it must be, and what was wrong with it. */
export function ParameterInput({ parameter, value, error, onChange }: Props) {
  const id = `input-${parameter.in}-${parameter.name}`;
  return (
    <Form.Item
      htmlFor={id}
      required={parameter.required}
      label={
        <>
          <b>{parameter.name}</b>
          <Typography.Text type="secondary" className="kind">
            {kindOf(parameter)}
          </Typography.Text>
        </>
      }
      help={error ?? parameter.about}
      {...(error === undefined ? {} : { validateStatus: "error" as const })}
    >
      <Control id={id} parameter={parameter} value={value} onChange={onChange} />
    </Form.Item>
  );
}

/** What it must be, after where it goes when its name does not tell. */
function kindOf(parameter: Parameter): string {
  if (parameter.own === true) {
    return "";
  }
  const type = parameter.itemType === undefined ? parameter.type : `list of ${parameter.itemType}`;
  return parameter.in === "query" || parameter.in === "body" ? type : `${parameter.in}, ${type}`;
}

function Control({ id, parameter, value, onChange }: Omit<Props, "error"> & { id: string }) {
  const choices = choicesOf(parameter);
  if (choices.length > 0) {
    return (
      <Select
        id={id}
        allowClear
        placeholder="any"
        value={value === "" ? null : value}
        options={choices.map((choice) => ({ value: choice, label: choice }))}
        onChange={(choice: string | null | undefined) => onChange(choice ?? "")}
      />
    );
  }
  return (
    <Input
      id={id}
      allowClear
      inputMode={parameter.type === "integer" || parameter.type === "number" ? "decimal" : "text"}
      placeholder={parameter.defaultText ?? parameter.example ?? ""}
      value={value}
      onChange={(change) => onChange(change.target.value)}
    />
  );
}
