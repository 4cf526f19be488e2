import { Select } from "antd";

interface Props {
  fields: readonly string[];
  value: string;
  onChange: (value: string) => void;
}

/** Which fields the answer shall have: all of them unless some are chosen. */
export function FieldChooser({ fields, value, onChange }: Props) {
  if (fields.length === 0) {
    return null;
  }
  return (
    <Select
      mode="multiple"
      aria-label="Fields"
      className="conditions gap-below"
      placeholder="All fields, or only ..."
      value={value === "" ? [] : value.split(",")}
      options={fields.map((name) => ({ value: name, label: name }))}
      onChange={(names: string[]) => onChange(names.join(","))}
    />
  );
}
