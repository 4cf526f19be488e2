import type { FirstTextRequest, ModuleText } from "../api/http";

export const deeds = ["list", "read", "add", "change", "remove"] as const;
export type Deed = (typeof deeds)[number];

/** What is wanted of one table. */
export interface TableWish {
  deeds: readonly Deed[];
  /** All when empty. */
  columns: readonly string[];
  /** Whether the rows that a row refers to stand within it. */
  parents: boolean;
}

/** Who may call: nobody until it is said, everybody, or whoever holds a privilege. */
export type Reach = { kind: "unsaid" } | { kind: "everybody" } | { kind: "privilege"; privilege: string };

/** What somebody chose for a first text. */
export interface Choices {
  source: string;
  tables: Readonly<Record<string, TableWish>>;
  routines: readonly string[];
  statement: { sql: string; path: string };
  module: string;
  title: string;
  reads: Reach;
  changes: Reach;
}

export type ChoiceEvent =
  | { event: "source"; source: string }
  | { event: "tables"; names: readonly string[]; isView: (name: string) => boolean }
  | { event: "routines"; names: readonly string[] }
  | { event: "statement"; sql?: string; path?: string }
  | { event: "wish"; table: string; wish: TableWish }
  | { event: "named"; module?: string; title?: string }
  | { event: "reach"; of: "reads" | "changes"; reach: Reach };

export const nothingChosen = (source: string): Choices => ({
  source,
  tables: {},
  routines: [],
  statement: { sql: "", path: "" },
  module: "",
  title: "",
  reads: { kind: "unsaid" },
  changes: { kind: "unsaid" },
});

export function choiceReducer(choices: Choices, event: ChoiceEvent): Choices {
  switch (event.event) {
    case "source":
      return { ...nothingChosen(event.source), module: choices.module, title: choices.title };
    case "tables": {
      const wish = (name: string): TableWish => ({ deeds: event.isView(name) ? ["list", "read"] : deeds, columns: [], parents: false });
      const tables = Object.fromEntries(event.names.map((name) => [name, choices.tables[name] ?? wish(name)]));
      return { ...choices, tables };
    }
    case "wish":
      return { ...choices, tables: { ...choices.tables, [event.table]: event.wish } };
    case "routines":
      return { ...choices, routines: event.names };
    case "statement":
      return { ...choices, statement: { sql: event.sql ?? choices.statement.sql, path: event.path ?? choices.statement.path } };
    case "named":
      return { ...choices, module: event.module ?? choices.module, title: event.title ?? choices.title };
    case "reach":
      return { ...choices, [event.of]: event.reach };
  }
}

/** A name for the module, made of what was chosen first, until somebody writes one. */
export function moduleName({ module, tables, routines, statement }: Choices): string {
  const [first = ""] = [...Object.keys(tables), ...routines, ...(statement.sql.trim() === "" ? [] : ["statement"])];
  const made = first
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^[^a-z]+|-+$/g, "");
  return module === "" ? made : module;
}

export function moduleTitle(choices: Choices): string {
  const name = moduleName(choices).replaceAll("-", " ");
  return choices.title === "" ? name.charAt(0).toUpperCase() + name.slice(1) : choices.title;
}

/** What is asked of the service; undefined until something is chosen. With a text, the operations are added to it. */
export function requestFor(choices: Choices, text?: ModuleText): FirstTextRequest | undefined {
  const tables = Object.entries(choices.tables).map(([name, wish]) => ({ name, deeds: [...wish.deeds], columns: [...wish.columns], parents: wish.parents }));
  const { sql, path } = choices.statement;
  if (tables.length === 0 && choices.routines.length === 0 && sql.trim() === "") {
    return undefined;
  }
  return {
    source: choices.source,
    tables,
    routines: [...choices.routines],
    ...(sql.trim() === "" ? {} : { statement: { sql, path: path.trim() } }),
    ...reachOf("reads", choices.reads),
    ...reachOf("changes", choices.changes),
    ...(text === undefined ? { module: moduleName(choices), title: moduleTitle(choices) } : { text }),
  };
}

function reachOf(key: "reads" | "changes", reach: Reach): Partial<Pick<FirstTextRequest, "reads" | "changes">> {
  switch (reach.kind) {
    case "unsaid":
      return {};
    case "everybody":
      return { [key]: { everybody: true } };
    case "privilege":
      return reach.privilege === "" ? {} : { [key]: { privilege: reach.privilege } };
  }
}
