import { Alert, Button, Input, Select } from "antd";
import { useState } from "react";
import { makeFirstText, type Routine } from "../api/http";
import { useDeed } from "../api/useDeed";
import type { Choices, ChoiceEvent } from "./choices";

interface Props {
  routines: readonly Routine[];
  choices: Choices;
  dispatch: (event: ChoiceEvent) => void;
}

/** Procedures and functions; procedures can be run once, undone, to see what result sets they return. */
export function RoutinesChooser({ routines, choices, dispatch }: Props) {
  const [values, setValues] = useState<Readonly<Record<string, string>>>({});
  const [said, setSaid] = useState<string>();
  const { error, busy, run } = useDeed();
  const procedures = routines.filter(({ name, kind }) => kind === "procedure" && choices.routines.includes(name));
  const given = [...new Set(procedures.flatMap(({ parameters }) => parameters.filter(({ mode }) => mode !== "out").map(({ name }) => name)))];
  const rehearse = () =>
    run(async () => {
      const named = Object.fromEntries(Object.entries(values).filter(([, value]) => value !== ""));
      const made = await makeFirstText({ source: choices.source, module: "rehearsed", routines: procedures.map(({ name }) => name), rehearse: true, values: named });
      dispatch({ event: "results", results: { ...choices.results, ...made.results } });
      const notes = made.notes.map(({ subject, words }) => `${subject}: ${words}`);
      setSaid(notes.length > 0 ? notes.join(" ") : Object.keys(made.results).length === 0 ? "They return no result sets." : undefined);
    });
  return (
    <div className="stack">
      <Select
        mode="multiple"
        aria-label="Procedures and functions"
        placeholder="procedures and functions"
        style={{ width: "100%" }}
        value={[...choices.routines]}
        options={routines.map(({ name, kind }) => ({ value: name, label: `${name}, a ${kind}` }))}
        onChange={(names: string[]) => dispatch({ event: "routines", names })}
      />
      {procedures.length > 0 && (
        <fieldset className="wishes">
          <legend>What procedures return</legend>
          <span className="quiet">No catalog tells the result sets of a procedure. Run it once in a rehearsal to see them: all that it does is undone.</span>
          {given.map((name) => (
            <Input
              key={name}
              size="small"
              className="type"
              addonBefore={name}
              aria-label={`Value of ${name}`}
              placeholder="its example"
              value={values[name] ?? ""}
              onChange={({ target }) => setValues({ ...values, [name]: target.value })}
            />
          ))}
          {error}
          {said !== undefined && <Alert type="info" title={said} />}
          <Button size="small" loading={busy} onClick={() => void rehearse()}>
            Run in a rehearsal
          </Button>
        </fieldset>
      )}
    </div>
  );
}
