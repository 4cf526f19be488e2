import type { Module, Operation, Trial } from "../api/http";
import { formParameters, type Inputs } from "./address";
import { callBody } from "./body";

export type Rehearsal = NonNullable<Trial["rehearsal"]>;
export type TableChanges = Rehearsal["tables"][number];
export type RowChange = TableChanges["rows"][number];

/** What became of the last rehearsal. */
export type RehearsalState =
  | { state: "idle" }
  | { state: "running" }
  | { state: "done"; trial: Trial }
  | { state: "failed"; message: string };

/** What is asked of the service: the live operation with the inputs that were typed, and its body as it would be sent. */
export function rehearsalRequest(module: Module, operation: Operation, inputs: Inputs) {
  const given = formParameters(operation).filter((p) => p.in !== "body" && p.in !== "form" && (inputs[p.name] ?? "") !== "");
  const body = callBody(operation, inputs);
  return {
    live: `${module.name}/v${module.major}`,
    method: operation.method,
    path: operation.path,
    inputs: Object.fromEntries(given.map((p) => [p.name, inputs[p.name] ?? ""])),
    ...(body === undefined ? {} : { body: body.text }),
  };
}

/** One field of a row that is different, with what tells the row apart. */
export interface Difference {
  row: string;
  field: string;
  before: string | null;
  after: string | null;
}

/** The fields that a change touched, row by row. */
export function differences(table: TableChanges): Difference[] {
  return table.rows
    .filter((row) => row.kind === "changed")
    .flatMap((row) =>
      row.fields
        .filter((field) => field.before !== field.after)
        .map((field) => ({ row: keyOf(row), field: field.name, before: field.before, after: field.after })),
    );
}

function keyOf(row: RowChange): string {
  return row.fields
    .filter((field) => field.key)
    .map((field) => field.before ?? field.after ?? "")
    .join(" ");
}

/** Rows that came or went, as they are or were. */
export function wholeRows(table: TableChanges, kind: "inserted" | "deleted"): Record<string, string | null>[] {
  return table.rows
    .filter((row) => row.kind === kind)
    .map((row) => Object.fromEntries(row.fields.map((field) => [field.name, kind === "inserted" ? field.after : field.before])));
}

/** `2 inserted, 1 changed` */
export function counts(table: TableChanges): string {
  return (["inserted", "changed", "deleted"] as const)
    .filter((kind) => table[kind] > 0)
    .map((kind) => `${table[kind].toLocaleString()} ${kind}`)
    .join(", ");
}
