import { Input, Select, Tabs } from "antd";
import type { Contents } from "../api/http";
import type { Choices, ChoiceEvent } from "./choices";
import { TablesChooser } from "./TablesChooser";

interface Props {
  contents: Contents;
  choices: Choices;
  dispatch: (event: ChoiceEvent) => void;
}

/** What a text is made from: tables and views, procedures and functions, a statement, or all of them. */
export function StartChooser({ contents, choices, dispatch }: Props) {
  const count = (number: number) => (number === 0 ? "" : ` (${number})`);
  return (
    <Tabs
      size="small"
      items={[
        {
          key: "tables",
          label: `Tables and views${count(Object.keys(choices.tables).length)}`,
          children: <TablesChooser relations={contents.relations} choices={choices} dispatch={dispatch} />,
        },
        {
          key: "routines",
          label: `Routines${count(choices.routines.length)}`,
          children: (
            <Select
              mode="multiple"
              aria-label="Procedures and functions"
              placeholder="procedures and functions"
              style={{ width: "100%" }}
              value={[...choices.routines]}
              options={contents.routines.map(({ name, kind }) => ({ value: name, label: `${name}, a ${kind}` }))}
              onChange={(names: string[]) => dispatch({ event: "routines", names })}
            />
          ),
        },
        {
          key: "statement",
          label: "A statement",
          children: (
            <div className="stack">
              <Input.TextArea
                className="type"
                aria-label="Statement"
                autoSize={{ minRows: 6, maxRows: 16 }}
                placeholder="select ... where id = :id"
                value={choices.statement.sql}
                onChange={({ target }) => dispatch({ event: "statement", sql: target.value })}
              />
              <Input
                className="type"
                aria-label="Path"
                placeholder="the path, such as /berths/{id}; proposed unless you say it"
                value={choices.statement.path}
                onChange={({ target }) => dispatch({ event: "statement", path: target.value })}
              />
            </div>
          ),
        },
      ]}
    />
  );
}
