import { Checkbox, Input, Select, Table } from "antd";
import { useState } from "react";
import type { Relation } from "../api/http";
import { type Choices, type ChoiceEvent, deeds, type Deed } from "./choices";

interface Props {
  relations: readonly Relation[];
  choices: Choices;
  dispatch: (event: ChoiceEvent) => void;
}

const words: Record<Deed, string> = { list: "all rows", read: "one row", add: "add", change: "change", remove: "remove" };

/** Which tables and views, and what callers can do with each. */
export function TablesChooser({ relations, choices, dispatch }: Props) {
  const [wanted, setWanted] = useState("");
  const found = relations.filter(({ name, about }) => `${name} ${about}`.toLowerCase().includes(wanted.toLowerCase()));
  const names = Object.keys(choices.tables);
  const isView = (name: string) => relations.find((one) => one.name === name)?.kind === "view";
  return (
    <>
      <Input allowClear size="small" className="gap-below" aria-label="Look for a table" placeholder="Look for a table" value={wanted} onChange={({ target }) => setWanted(target.value)} />
      <Table<Relation>
        size="small"
        rowKey="name"
        virtual
        scroll={{ y: 240 }}
        pagination={false}
        dataSource={found}
        rowSelection={{
          selectedRowKeys: names,
          preserveSelectedRowKeys: true,
          columnWidth: 36,
          getCheckboxProps: ({ name }) => ({ "aria-label": name }) as object,
          onChange: (keys) => dispatch({ event: "tables", names: keys.map(String), isView }),
        }}
        columns={[
          { title: "Table", dataIndex: "name", render: (name: string) => <b>{name}</b> },
          { title: "", dataIndex: "kind", width: 56 },
          { title: "Columns", width: 80, align: "right", render: (_, { columns }) => columns.length },
        ]}
      />
      {names.map((name) => (
        <TableWishes key={name} name={name} relation={relations.find((one) => one.name === name)} choices={choices} dispatch={dispatch} />
      ))}
    </>
  );
}

function TableWishes({ name, relation, choices, dispatch }: Omit<Props, "relations"> & { name: string; relation: Relation | undefined }) {
  const wish = choices.tables[name];
  if (wish === undefined) {
    return null;
  }
  const isView = relation?.kind === "view";
  const set = (part: Partial<typeof wish>) => dispatch({ event: "wish", table: name, wish: { ...wish, ...part } });
  return (
    <fieldset className="wishes">
      <legend>{name}</legend>
      <Checkbox.Group<Deed>
        value={[...wish.deeds]}
        options={deeds.filter((deed) => !isView || deed === "list" || deed === "read").map((deed) => ({ value: deed, label: words[deed] }))}
        onChange={(some) => set({ deeds: some })}
      />
      {(relation?.foreignKeys.length ?? 0) > 0 && (
        <Checkbox checked={wish.parents} onChange={({ target }) => set({ parents: target.checked })}>
          with the rows it refers to: {[...new Set(relation?.foreignKeys.map(({ target }) => target))].join(", ")}
        </Checkbox>
      )}
      <Select
        size="small"
        mode="multiple"
        aria-label={`Columns of ${name}`}
        placeholder="all columns"
        value={[...wish.columns]}
        options={(relation?.columns ?? []).map((column) => ({ value: column.name, label: column.name }))}
        onChange={(columns: string[]) => set({ columns })}
        maxTagCount="responsive"
      />
    </fieldset>
  );
}
