import type { Operation, Parameter } from "../api/http";
import type { Inputs } from "./address";

/** A request's body with its media type. */
export interface Body {
  mediaType: string;
  text: string;
}

/** The body that the given inputs make: JSON put together by their pointers, or a form; undefined when there is none. */
export function callBody(operation: Operation, inputs: Inputs): Body | undefined {
  const given = (parameter: Parameter) => (inputs[parameter.name] ?? "") !== "";
  const form = operation.parameters.filter((p) => p.in === "form");
  if (form.length > 0) {
    const pairs = form.filter(given).flatMap((p) => valuesOf(p, inputs[p.name] ?? "").map((value) => [p.name, value] as const));
    return { mediaType: "application/x-www-form-urlencoded", text: new URLSearchParams(pairs.map(([n, v]) => [n, v])).toString() };
  }
  const parts = operation.parameters.filter((p) => p.in === "body");
  if (parts.length === 0) {
    return undefined;
  }
  const whole = parts.find((p) => p.name === "");
  const value = whole === undefined ? partsOf(parts.filter(given), inputs) : jsonOf(whole, inputs[whole.name] ?? "");
  return { mediaType: "application/json", text: JSON.stringify(operation.batch === true ? [value] : value) };
}

function valuesOf(parameter: Parameter, text: string): string[] {
  return parameter.type === "array" ? text.split(",").map((item) => item.trim()) : [text];
}

type Json = { [name: string]: unknown };

function partsOf(parts: Parameter[], inputs: Inputs): Json {
  const root: Json = {};
  for (const part of parts) {
    const names = part.name.slice(1).split("/").map((name) => name.replaceAll("~1", "/").replaceAll("~0", "~"));
    const last = names.pop() ?? "";
    let at = root;
    for (const name of names) {
      at = (at[name] ??= {}) as Json;
    }
    at[last] = jsonOf(part, inputs[part.name] ?? "");
  }
  return root;
}

/** What was typed as the JSON the parameter wants; a text that is none stays a text, and the service says what is wrong. */
export function jsonOf(parameter: Parameter, text: string): unknown {
  switch (parameter.type) {
    case "integer":
    case "number":
    case "boolean":
    case "object":
      return parsed(text);
    case "array":
      return text.trimStart().startsWith("[")
        ? parsed(text)
        : text.split(",").map((item) => (isLiteral(parameter.itemType) ? parsed(item.trim()) : item.trim()));
    default:
      return text === "null" ? null : text;
  }
}

const isLiteral = (type: string | undefined): boolean => type === "integer" || type === "number" || type === "boolean";

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return text;
  }
}
