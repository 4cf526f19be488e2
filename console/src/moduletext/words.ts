import { parseDocument, stringify } from "yaml";
import type { ModuleReader, TextNode } from "./nodes";

/** A number, a truth value or something else that stands as it is typed, without quotes where YAML allows it. */
export class Typed {
  constructor(readonly text: string) {}
}

/** What a form writes: a text, something typed, a list or keys in their order. */
export type Value = string | Typed | readonly Value[] | Keys;
export interface Keys {
  readonly [key: string]: Value;
}

const widest = 140;

/** What always has a line for each of its keys. */
const tall: ReadonlySet<string> = new Set(["routes", "parameters", "steps", "fields", "conditions", "accept"]);

/** Whether a value goes into lines of its own under its key, rather than behind it. */
export function isTall(value: Value, path: ReadonlyArray<string | number>, margin: number): boolean {
  if (typeof value === "string" || value instanceof Typed || Array.isArray(value)) {
    return false;
  }
  const key = path.at(-1);
  const isRouteOrMethod = path[0] === "routes" && path.length <= 3;
  return isRouteOrMethod || tall.has(String(key)) || margin + inline(value, "block").length > widest;
}

/** Where a value stands: in brackets and braces, commas and braces would end it. */
export type Among = "flow" | "block";

/** A value as it stands behind its key, on one line. */
export function inline(value: Value, among: Among): string {
  if (typeof value === "string") {
    return word(value, among);
  }
  if (value instanceof Typed) {
    return isOne(value.text, among) ? value.text : word(value.text, among);
  }
  if (isList(value)) {
    return `[${value.map(item).join(", ")}]`;
  }
  const keys = Object.entries(value).map(([key, one]) => `${word(key, "flow")}: ${inline(one, "flow")}`);
  return keys.length === 0 ? "{}" : `{ ${keys.join(", ")} }`;
}

/** A value as it stands in a list, where one key needs no braces. */
export function item(value: Value): string {
  const keys = typeof value === "string" || value instanceof Typed || isList(value) ? [] : Object.entries(value);
  const [only] = keys;
  return only !== undefined && keys.length === 1 ? `${word(only[0], "flow")}: ${inline(only[1], "flow")}` : inline(value, "flow");
}

const isList = (value: Value): value is readonly Value[] => Array.isArray(value);

/** A key with its value in as many lines as that takes, the first with the margin too. */
export function lines(key: string, value: Value, path: ReadonlyArray<string | number>, margin: number): string[] {
  const head = " ".repeat(margin) + word(key, "block") + ":";
  if (typeof value === "string" && value.includes("\n") && isLiteral(value)) {
    return [`${head} |-`, ...value.split("\n").map((line) => (line === "" ? "" : " ".repeat(margin + 2) + line))];
  }
  if (!isTall(value, path, margin)) {
    return [`${head} ${inline(value, "block")}`];
  }
  const inner = Object.entries(value as Keys).flatMap(([name, one]) => lines(name, one, [...path, name], margin + 2));
  return inner.length === 0 ? [`${head} {}`] : [head, ...inner];
}

const unprintable = /[^\n\x20-\x7e\u00a0-\ud7ff\ue000-\ufefe\uff00-\ufffd]/;

/** Whether a text of several lines can stand as it is, line by line. */
const isLiteral = (text: string): boolean => !/^\s|\s$|[^\S\n]\n|\n[^\S\n]/.test(text) && !unprintable.test(text);

/** A text as one word, in quotes where YAML would read it as something else. */
export function word(text: string, among: Among): string {
  return isText(text) && (/^[A-Za-z/][\w/-]*$/.test(text) || isOne(text, among)) ? text : quoted(text);
}

/** A text in double quotes. */
export const quoted = (text: string): string =>
  stringify(text, { defaultStringType: "QUOTE_DOUBLE", lineWidth: 0, doubleQuotedMinMultiLineLength: Number.MAX_SAFE_INTEGER }).trimEnd();

/** Whether YAML reads it as a text, not as a number, a truth value or nothing. */
const isText = (text: string): boolean =>
  !/^(~|null|true|false|yes|no|y|n|on|off|[-+]?(\.inf|\.\d+|\d+(\.\d*)?(e[-+]?\d+)?|0[xo][\da-f]+)|\.nan)$/i.test(text);

const special: Readonly<Record<Among, RegExp>> = {
  flow: /[,[\]{}]|: |:$| #|^[&*!|>'"%@`#?:-]/,
  block: /: |:$| #|^[&*!|>'"%@`#?:,[\]{}-]/,
};

/** Whether it is one single value as it stands, and nothing else. */
function isOne(text: string, among: Among): boolean {
  if (/^-?\d+(\.\d+)?$/.test(text)) {
    return true;
  }
  if (text === "" || text !== text.trim() || text.includes("\n") || special[among].test(text) || unprintable.test(text)) {
    return false;
  }
  const document = parseDocument(among === "flow" ? `[${text}]` : `- ${text}`, { logLevel: "silent", prettyErrors: false });
  const items: unknown = document.errors.length === 0 ? document.toJS() : undefined;
  return Array.isArray(items) && items.length === 1 && (typeof items[0] !== "object" || items[0] === null);
}

/** What a node says, as a form would write it again. */
export function valueOf(node: TextNode): Value {
  switch (node.kind) {
    case "word":
      return node.style === "plain" ? new Typed(node.text) : node.text;
    case "sequence":
      return node.items.map(valueOf);
    case "mapping":
      return Object.fromEntries(node.entries.map(({ key, value }) => [key, valueOf(value)]));
    case "broken":
      return "";
  }
}

/** What somebody typed as the value of a key, such as `[a, b: [c]]`; undefined when it is not readable YAML. */
export function typedValue(read: ModuleReader, text: string): Value | undefined {
  const root = read(`typed: ${text.replaceAll("\n", " ")}\n`);
  const value = root.kind === "mapping" && root.entries.length === 1 ? root.entries[0]?.value : undefined;
  return value === undefined || value.kind === "broken" || text.trim() === "" ? undefined : valueOf(value);
}
