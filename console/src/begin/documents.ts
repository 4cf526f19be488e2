import type { MatchedOperation } from "../api/http";

/** What somebody says an operation means, where it is not what was proposed. */
export interface Match {
  /** Empty for none: its statement is still to be written. */
  table: string;
  /** By the names of fields and inputs; what is proposed for the table without. */
  columns?: Readonly<Record<string, string>>;
}

/** A document that a text is made from, or a sample of rows. */
export interface DocumentWish {
  kind: "openapi" | "sample";
  text: string;
  /** Of a sample: where its rows are answered. */
  path: string;
  matches: Readonly<Record<string, Match>>;
}

export const noDocument: DocumentWish = { kind: "openapi", text: "", path: "/rows", matches: {} };

/** The longest document that the service reads, in characters. */
export const longestDocument = 4 * 1024 * 1024;

/** What a text is: an OpenAPI document says so at its top, everything else in JSON is a sample. */
export function kindOf(text: string): DocumentWish["kind"] {
  const top = text.slice(0, 20_000);
  return /["']?(openapi|swagger)["']?\s*:/.test(top) || !/^\s*[[{]/.test(top) ? "openapi" : "sample";
}

/** The title that a document has, as far as it can be told without reading it as a whole. */
export function titleOf(text: string): string {
  return /["']?title["']?\s*:\s*["']?([^"'\n,}]{1,60})/.exec(text.slice(0, 20_000))?.[1]?.trim() ?? "";
}

/** {@code berths} of {@code berths.json}, as a path has it. */
export function pathOf(file: string): string {
  const plain = file
    .replace(/\.[A-Za-z0-9]+$/, "")
    .toLowerCase()
    .replace(/[^a-z0-9._~-]+/g, "-")
    .replace(/^-+|-+$/g, "");
  return `/${plain === "" ? "rows" : plain}`;
}

/** An operation as it is chosen now, which the service may not have read yet. */
export function chosenNow(operation: MatchedOperation, match: Match | undefined): MatchedOperation {
  if (match === undefined) {
    return operation;
  }
  const known = match.table === operation.table;
  const names = operation.names.map((one) => ({ ...one, column: match.columns?.[one.name] ?? (known ? one.column : "") }));
  return { ...operation, table: match.table, names };
}

/**
 * What was chosen, with a column for one more name. Nothing is said of the others: what the service proposes for them may come later.
 *
 * @param chosen before; undefined for nothing
 */
export function withColumn(chosen: Match | undefined, table: string, name: string, column: string): Match {
  const before = chosen?.table === table ? chosen.columns : undefined;
  return { table, columns: { ...before, [name]: column } };
}

/** How many names have a column, of how many. */
export function matchedOf(operation: MatchedOperation): string {
  return operation.table === "" ? "to be written" : `${operation.names.filter(({ column }) => column !== "").length} of ${operation.names.length}`;
}
