import { resolved, type Schema } from "./schema";

/** What a form shows for a value that the schema allows. */
export type Shape =
  | { kind: "text"; long: boolean }
  | { kind: "number" }
  | { kind: "flag" }
  | { kind: "choice"; options: readonly string[] }
  /** Several words, or one of them. */
  | { kind: "list"; options: readonly string[] }
  /** Keys that the schema knows. */
  | { kind: "group"; keys: readonly KeyShape[] }
  /** Keys that the writer names. */
  | { kind: "named"; of: Shape }
  /** What can be said in several ways, as text. */
  | { kind: "anything" };

export interface KeyShape {
  key: string;
  about: string;
  /** What counts when the key is absent; empty when the schema does not say. */
  otherwise: string;
  shape: Shape;
}

const longTexts: ReadonlySet<string> = new Set(["about", "message"]);

/** The keys of a mapping, in the schema's order. */
export function keysOf(schema: Schema, root: Schema): KeyShape[] {
  return Object.entries(resolved(schema, root).properties ?? {}).map(([key, below]) => {
    const one = below === true ? {} : resolved(below, root);
    return { key, about: one.description ?? "", otherwise: String(one.default ?? ""), shape: shapeOf(key, one, root) };
  });
}

function shapeOf(key: string, schema: Schema, root: Schema): Shape {
  const options = optionsOf(schema);
  if (options !== undefined) {
    return { kind: "choice", options };
  }
  if (schema.oneOf !== undefined || schema.type === "array") {
    return listOf(schema, root) ?? { kind: "anything" };
  }
  switch (schema.type) {
    case "string":
      return { kind: "text", long: longTexts.has(key) };
    case "integer":
    case "number":
      return { kind: "number" };
    case "boolean":
      return { kind: "flag" };
    case "object":
      return objectOf(key, schema, root);
    default:
      return { kind: "anything" };
  }
}

function objectOf(key: string, schema: Schema, root: Schema): Shape {
  const keys = keysOf(schema, root);
  if (keys.length > 0) {
    return { kind: "group", keys };
  }
  return typeof schema.additionalProperties === "object"
    ? { kind: "named", of: shapeOf(key, resolved(schema.additionalProperties, root), root) }
    : { kind: "anything" };
}

function optionsOf({ const: only, enum: all }: Schema): readonly string[] | undefined {
  return only !== undefined ? [only] : all?.flatMap((one) => (one === null ? [] : [String(one)]));
}

/** A list of words, or a word that may be a list too. */
function listOf(schema: Schema, root: Schema): Shape | undefined {
  const list = schema.type === "array" ? schema : schema.oneOf?.map((one) => resolved(one, root)).find(({ type }) => type === "array");
  const others = (schema.oneOf ?? []).map((one) => resolved(one, root)).filter(({ type }) => type !== "array");
  const items = list?.items === undefined ? undefined : resolved(list.items, root);
  const isWord = (one: Schema) => one.type === "string" || one.enum !== undefined;
  return items !== undefined && isWord(items) && others.every(isWord) ? { kind: "list", options: optionsOf(items) ?? [] } : undefined;
}
