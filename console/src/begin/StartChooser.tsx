import { Input, Tabs } from "antd";
import type { Contents, ReadDocument } from "../api/http";
import type { Choices, ChoiceEvent } from "./choices";
import { DocumentChooser } from "./DocumentChooser";
import { RoutinesChooser } from "./RoutinesChooser";
import { SheetChooser } from "./SheetChooser";
import { TablesChooser } from "./TablesChooser";

interface Props {
  contents: Contents;
  choices: Choices;
  /** What the document was taken to mean; undefined until it is read. */
  read: ReadDocument | undefined;
  dispatch: (event: ChoiceEvent) => void;
  /** Has what the source holds read again, after a table was made. */
  refresh?: () => void;
}

/** What a text is made from: tables and views, procedures and functions, a statement, a document, a sheet, or all of them. */
export function StartChooser({ contents, choices, read, dispatch, refresh }: Props) {
  const count = (number: number) => (number === 0 ? "" : ` (${number})`);
  return (
    <Tabs
      size="small"
      tabBarGutter={20}
      items={[
        {
          key: "tables",
          label: `Tables and views${count(Object.keys(choices.tables).length)}`,
          children: <TablesChooser relations={contents.relations} choices={choices} dispatch={dispatch} />,
        },
        {
          key: "routines",
          label: `Routines${count(choices.routines.length)}`,
          children: <RoutinesChooser routines={contents.routines} choices={choices} dispatch={dispatch} />,
        },
        {
          key: "statement",
          label: "Statement",
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
        {
          key: "document",
          label: "Document or sample",
          children: <DocumentChooser contents={contents} document={choices.document} read={read} dispatch={dispatch} />,
        },
        {
          key: "sheet",
          label: "Sheet",
          children: (
            <SheetChooser
              source={choices.source}
              onTable={(table) => {
                dispatch({ event: "tables", names: [...Object.keys(choices.tables), table], isView: () => false });
                refresh?.();
              }}
            />
          ),
        },
      ]}
    />
  );
}
