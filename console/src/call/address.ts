import type { Operation, Parameter } from "../api/http";
import type { Body } from "./body";

/** What somebody typed into the form, by parameter name; an empty text means the input is left out. */
export type Inputs = Readonly<Record<string, string>>;

/** The inputs a form starts with: what a call cannot do without, taken from the examples. */
export function startingInputs(operation: Operation): Inputs {
  const needed = operation.parameters.filter((p) => p.required && p.example !== undefined);
  return Object.fromEntries(needed.map((p) => [p.name, p.example ?? ""]));
}

/** Every input filled from its example; one that must be chosen and has none is the first of its choices. */
export function exampleInputs(operation: Operation): Inputs {
  return Object.fromEntries(
    operation.parameters.flatMap((p) => {
      const value = p.example ?? (p.required ? choicesOf(p)[0] : undefined);
      return value === undefined ? [] : [[p.name, value]];
    }),
  );
}

/** What an input may be, where there are few; empty where it may be anything of its type. */
export const choicesOf = ({ type, allowed }: Parameter): string[] => (type === "boolean" ? ["true", "false"] : allowed);

/** The address of a call: placeholders filled, given query parameters appended. */
export function callAddress(basePath: string, operation: Operation, inputs: Inputs): string {
  const path = operation.path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(inputs[name] ?? ""));
  const query = [...queryParameters(operation), ...operation.filters]
    .filter((p) => (inputs[p.name] ?? "") !== "")
    .map((p) => `${encodeURIComponent(p.name)}=${encodeURIComponent(inputs[p.name] ?? "")}`);
  return basePath + (path === "/" ? "" : path) + (query.length > 0 ? `?${query.join("&")}` : "");
}

/** The same address with what some parameters of its query say, or without them where they say nothing. */
function replaced(address: string, parameters: Readonly<Record<string, string>>): string {
  const [path = "", query = ""] = address.split("?", 2);
  const kept = query.split("&").filter((pair) => pair !== "" && !((pair.split("=")[0] ?? "") in parameters));
  const given = Object.entries(parameters)
    .filter(([, value]) => value !== "")
    .map(([name, value]) => `${name}=${encodeURIComponent(value)}`);
  const all = [...kept, ...given];
  return path + (all.length > 0 ? `?${all.join("&")}` : "");
}

/** What was called, in another format. */
export function inFormat(address: string, format: string): string {
  return replaced(address, { format });
}

/** Every row of what was called, wherever its page began. */
export function allRowsAddress(operation: Operation, address: string, format: string): string {
  return replaced(address, { ...fromTheFirstPage(operation), limit: "all", format });
}

/** What was called, sorted in another way from its first page on. */
export function sortedAddress(operation: Operation, address: string, sort: string): string {
  return replaced(address, { ...fromTheFirstPage(operation), sort });
}

/** No place to begin at; an operation may have parameters of its own that are called so. */
function fromTheFirstPage(operation: Operation): Readonly<Record<string, string>> {
  const places = operation.parameters.filter((p) => p.own === true && ["before", "from", "last"].includes(p.name));
  return Object.fromEntries([["after", ""], ...places.map((p) => [p.name, ""])]);
}

/** The query parameters of an operation, with the ones every collection has. */
export function queryParameters(operation: Operation): Parameter[] {
  const own = operation.parameters.filter((p) => p.in === "query");
  return operation.page === undefined ? own : [...own, limitParameter(operation.page.limit, operation.page.most)];
}

export function limitParameter(limit: number, most: number): Parameter {
  return {
    name: "limit",
    bind: "limit",
    in: "query",
    type: "integer",
    required: false,
    about: `Rows in a page, up to ${most}`,
    defaultText: String(limit),
    minimum: 1,
    maximum: most,
    allowed: [],
  };
}

/** What the service itself understands and the page has other means for: a chooser, the heads of columns, a menu, buttons. */
const elsewhere: readonly string[] = ["fields", "sort", "format", "header", "before"];

/** What a form asks for: what callers send, the query behind it, and last what the service itself understands. */
export function formParameters(operation: Operation): Parameter[] {
  const sent = operation.parameters.filter((p) => p.in !== "query" && p.in !== "caller" && p.in !== "request");
  const all = [...sent, ...queryParameters(operation)].filter((p) => p.own !== true || !elsewhere.includes(p.name));
  return [...all.filter((p) => p.own !== true), ...all.filter((p) => p.own === true)];
}

/** The header fields of a call, by name. */
export function callHeaders(operation: Operation, inputs: Inputs): Record<string, string> {
  const given = operation.parameters.filter((p) => p.in === "header" && (inputs[p.name] ?? "") !== "");
  return Object.fromEntries(given.map((p) => [p.name, inputs[p.name] ?? ""]));
}

/** A line for a shell that makes the same call. */
export function curlLine(method: Operation["method"], origin: string, address: string, headers: Record<string, string>, body?: Body): string {
  const said = method === "GET" || (method === "POST" && body !== undefined) ? "" : ` -X ${method}`;
  const quoted = (text: string) => `'${text.replaceAll("'", "'\\''")}'`;
  const fields = Object.entries(headers).map(([name, value]) => ` -H ${quoted(`${name}: ${value}`)}`);
  const data = body === undefined ? "" : ` -H ${quoted(`Content-Type: ${body.mediaType}`)} -d ${quoted(body.text)}`;
  return `curl${said}${fields.join("")}${data} ${quoted(origin + address)}`;
}
