import { Select } from "antd";
import { useState } from "react";
import type { Parameter } from "../api/http";
import type { Inputs } from "./address";
import { filterLabel } from "./filterLabel";
import { ParameterInput } from "./ParameterInput";

interface Props {
  filters: Parameter[];
  inputs: Inputs;
  errors: Readonly<Record<string, string>>;
  onChange: (name: string, value: string) => void;
}

/** Conditions on the rows: chosen from those that callers may use, each with its value. */
export function FilterInputs({ filters, inputs, errors, onChange }: Props) {
  const [chosen, setChosen] = useState<string[]>([]);
  if (filters.length === 0) {
    return null;
  }
  const choose = (names: string[]) => {
    chosen.filter((name) => !names.includes(name)).forEach((name) => onChange(name, ""));
    setChosen(names);
  };
  return (
    <>
      <Select
        mode="multiple"
        aria-label="Conditions"
        className="conditions gap-below"
        placeholder="Only rows of which ..."
        value={chosen}
        options={filters.map(({ name }) => ({ value: name, label: filterLabel(name) }))}
        onChange={choose}
      />
      {chosen.length > 0 && (
        <div className="inputs">
          {filters
            .filter(({ name }) => chosen.includes(name))
            .map((filter) => (
              <ParameterInput
                key={filter.name}
                parameter={filter}
                value={inputs[filter.name] ?? ""}
                error={errors[filter.name]}
                onChange={(value) => onChange(filter.name, value)}
              />
            ))}
        </div>
      )}
    </>
  );
}
