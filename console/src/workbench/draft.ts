import type { Look, Operation } from "../api/http";

/** What a bind parameter is, as somebody at the workbench says it. */
export interface DraftParameter {
  name: string;
  /** In a definition's words, `type: number, minimum: 0`. */
  limits: string;
  list: boolean;
  optional: boolean;
}

/** A statement being written, by itself or in the place of a live operation's. */
export interface Draft {
  source: string;
  sql: string;
  answer: Operation["answer"];
  order: string;
  parameters: DraftParameter[];
  /** The module whose operation it is; undefined for a statement of its own. */
  base: Base | undefined;
}

/** A live module's text with one of its operations. */
export interface Base {
  folder: string;
  files: Readonly<Record<string, string>>;
  method: string;
  path: string;
  /** The statement's file, relative to the folder. */
  sqlFile: string;
}

export const ownMethod = "GET";
export const ownPath = "/statement";
const ownFile = "statement.sql";

/** The parameters for what was found; what somebody said about one before is kept, and follows the catalog until then. */
export function parametersOf(look: Look, before: DraftParameter[], touched: ReadonlySet<string>): DraftParameter[] {
  return look.binds.map((bind) => {
    const known = before.find((one) => one.name === bind.name);
    return {
      name: bind.name,
      limits: known !== undefined && touched.has(bind.name) ? known.limits : bind.limits,
      list: bind.list,
      optional: bind.optional,
    };
  });
}

/** A module's text as the service takes it: the live one with the new statement, or one made for this statement alone. */
export function moduleText(draft: Draft): { folder: string; files: Record<string, string> } {
  if (draft.base !== undefined) {
    return { folder: draft.base.folder, files: { ...draft.base.files, [draft.base.sqlFile]: draft.sql } };
  }
  return { folder: "workbench", files: { "module.yaml": moduleYaml(draft), [ownFile]: draft.sql } };
}

/** Where findings name the statement. */
export function statementFile(draft: Draft): string {
  return draft.base === undefined ? `workbench/${ownFile}` : `${draft.base.folder}/${draft.base.sqlFile}`;
}

function moduleYaml(draft: Draft): string {
  const head = ["module: workbench", "version: 1.0.0", "title: Workbench", `source: ${draft.source}`, "public: false"];
  const accept = draft.parameters.length > 0 ? ["accept: { example-missing: a draft }"] : [];
  return [...head, ...accept, "routes:", `  ${ownPath}:`, ...operationYaml(draft, "    ")].join("\n") + "\n";
}

/** The operation as text to take along into a module. */
export function operationYaml(draft: Draft, margin = ""): string[] {
  const lines = ["get:", "  about: Say what it answers", `  sql: ${ownFile}`, `  answer: ${draft.answer}`];
  if (draft.answer === "rows") {
    // until the catalog proposes one, so that other findings are not hidden behind a missing order
    lines.push(`  order: [${draft.order === "" ? "id" : draft.order}]`);
  }
  if (draft.parameters.length > 0) {
    lines.push("  parameters:", ...draft.parameters.map((one) => `    ${one.name}: ${definition(one)}`));
  }
  return lines.map((line) => margin + line);
}

function definition(parameter: DraftParameter): string {
  const type = parameter.list ? `type: array, items: { ${parameter.limits} }` : parameter.limits;
  return `{ in: query, ${type}${parameter.optional ? "" : ", required: true"} }`;
}
