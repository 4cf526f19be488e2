import type { FirstTextRequest, ModuleText } from "../api/http";
import { type DocumentWish, type Match, noDocument, titleOf } from "./documents";

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
  /** How many result sets procedures were seen to return. */
  results: Readonly<Record<string, number>>;
  statement: { sql: string; path: string };
  document: DocumentWish;
  module: string;
  title: string;
  reads: Reach;
  changes: Reach;
}

export type ChoiceEvent =
  | { event: "source"; source: string }
  | { event: "tables"; names: readonly string[]; isView: (name: string) => boolean }
  | { event: "routines"; names: readonly string[] }
  | { event: "results"; results: Readonly<Record<string, number>> }
  | { event: "statement"; sql?: string; path?: string }
  | { event: "document"; wish: Partial<DocumentWish> }
  | { event: "match"; operation: string; match: Match }
  | { event: "wish"; table: string; wish: TableWish }
  | { event: "named"; module?: string; title?: string }
  | { event: "reach"; of: "reads" | "changes"; reach: Reach };

export const nothingChosen = (source: string): Choices => ({
  source,
  tables: {},
  routines: [],
  results: {},
  statement: { sql: "", path: "" },
  document: noDocument,
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
    case "results":
      return { ...choices, results: event.results };
    case "statement":
      return { ...choices, statement: { sql: event.sql ?? choices.statement.sql, path: event.path ?? choices.statement.path } };
    case "document": {
      const document = { ...choices.document, ...event.wish };
      return { ...choices, document: { ...document, matches: document.text === choices.document.text && document.kind === choices.document.kind ? document.matches : {} } };
    }
    case "match":
      return { ...choices, document: { ...choices.document, matches: { ...choices.document.matches, [event.operation]: event.match } } };
    case "named":
      return { ...choices, module: event.module ?? choices.module, title: event.title ?? choices.title };
    case "reach":
      return { ...choices, [event.of]: event.reach };
  }
}

/** A name for the module, made of what was chosen first, until somebody writes one. */
export function moduleName({ module, tables, routines, statement, document }: Choices): string {
  const told = document.kind === "sample" ? document.path : titleOf(document.text);
  const [first = ""] = [
    ...Object.keys(tables),
    ...routines,
    ...(statement.sql.trim() === "" ? [] : ["statement"]),
    ...(document.text.trim() === "" ? [] : [told === "" ? "document" : told]),
  ];
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
  const { document } = choices;
  if (tables.length === 0 && choices.routines.length === 0 && sql.trim() === "" && document.text.trim() === "") {
    return undefined;
  }
  return {
    source: choices.source,
    tables,
    routines: [...choices.routines],
    ...(Object.keys(choices.results).length === 0 ? {} : { results: { ...choices.results } }),
    ...(sql.trim() === "" ? {} : { statement: { sql, path: path.trim() } }),
    ...(document.text.trim() === "" ? {} : { document: documentOf(document) }),
    ...reachOf("reads", choices.reads),
    ...reachOf("changes", choices.changes),
    ...(text === undefined ? { module: moduleName(choices), title: moduleTitle(choices) } : { text }),
  };
}

function documentOf({ kind, text, path, matches }: DocumentWish): NonNullable<FirstTextRequest["document"]> {
  const said = Object.entries(matches).map(([operation, { table, columns }]) => ({ operation, table, ...(columns === undefined ? {} : { columns: { ...columns } }) }));
  return { kind, text, ...(kind === "sample" ? { path } : {}), matches: said };
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
