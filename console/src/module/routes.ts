import { type Entry, entriesIn, nodeAt, type TextNode, wordAt, wordsOf } from "../moduletext/nodes";

export const methods = ["get", "post", "put", "patch", "delete"] as const;
export type MethodKey = (typeof methods)[number];

/** Which part of a module is being looked at. */
export type Selection = { part: "module" } | { part: "route"; route: string } | { part: "operation"; route: string; method: MethodKey };

/** A route as the text has it, with its operations in their order. */
export interface RouteLine {
  path: string;
  operations: readonly OperationLine[];
}

export interface OperationLine {
  method: MethodKey;
  about: string;
}

const isMethod = (key: string): key is MethodKey => (methods as readonly string[]).includes(key);

/** The routes of a module, as far as they can be read. */
export function routesOf(root: TextNode): RouteLine[] {
  return entriesIn(nodeAt(root, ["routes"])).map(({ key, value }) => ({
    path: key,
    operations: entriesIn(value).flatMap((entry) =>
      isMethod(entry.key) ? [{ method: entry.key, about: wordAt(entry.value, ["about"]) }] : [],
    ),
  }));
}

/** The routes whose path, methods or words hold every word that is looked for. */
export function foundRoutes(routes: readonly RouteLine[], wanted: string): RouteLine[] {
  const words = wanted.toLowerCase().split(/\s+/).filter((one) => one !== "");
  const holds = (text: string) => words.every((one) => text.toLowerCase().includes(one));
  return routes.flatMap(({ path, operations }) => {
    const found = operations.filter(({ method, about }) => holds(`${method} ${path} ${about}`));
    return found.length > 0 || holds(path) ? [{ path, operations: holds(path) ? operations : found }] : [];
  });
}

/** As findings and addresses name it, `GET /berths`; a route by its path, the module by nothing. */
export function nameOf(selection: Selection): string {
  switch (selection.part) {
    case "module":
      return "";
    case "route":
      return selection.route;
    case "operation":
      return `${selection.method.toUpperCase()} ${selection.route}`;
  }
}

/** What a name stands for in a text; the module when it has no such part. */
export function selectionOf(name: string, routes: readonly RouteLine[]): Selection {
  const [first = "", ...rest] = name.split(" ");
  const route = rest.length > 0 ? rest.join(" ") : first;
  const known = routes.find(({ path }) => path === route);
  const method = first.toLowerCase();
  if (known === undefined) {
    return { part: "module" };
  }
  return isMethod(method) && known.operations.some((one) => one.method === method)
    ? { part: "operation", route, method }
    : { part: "route", route };
}

export function pathOf(selection: Selection): string[] {
  switch (selection.part) {
    case "module":
      return [];
    case "route":
      return ["routes", selection.route];
    case "operation":
      return ["routes", selection.route, selection.method];
  }
}

/** A statement of an operation: the step it belongs to, if there are several, and its file. */
export interface StatementFile {
  step: string;
  file: string;
}

export function statementsOf(operation: TextNode | undefined): StatementFile[] {
  if (operation === undefined) {
    return [];
  }
  const own = wordAt(operation, ["sql"]);
  const steps = entriesIn(nodeAt(operation, ["steps"])).map(({ key, value }) => ({ step: key, file: wordAt(value, ["sql"]) }));
  return [...(own === "" ? [] : [{ step: "", file: own }]), ...steps].filter(({ file }) => file !== "");
}

/** The operations, by name, that use each statement's file. */
export function usersOf(root: TextNode): ReadonlyMap<string, readonly string[]> {
  const users = new Map<string, string[]>();
  for (const route of entriesIn(nodeAt(root, ["routes"]))) {
    for (const { key, value } of entriesIn(route.value)) {
      for (const { file } of statementsOf(value)) {
        users.set(file, [...(users.get(file) ?? []), `${key.toUpperCase()} ${route.key}`]);
      }
    }
  }
  return users;
}

/** A parameter as far as trying it needs to know. */
export interface TriedParameter {
  bind: string;
  name: string;
  /** Of a body, the JSON Pointer to its part; undefined for the field of its name. */
  pointer: string | undefined;
  in: string;
  type: string;
  required: boolean;
  example: string;
  about: string;
  choices: readonly string[];
}

export function parametersOf(operation: TextNode | undefined): TriedParameter[] {
  const own = entriesIn(operation === undefined ? undefined : nodeAt(operation, ["parameters"])).map(parameter);
  const asksForTag = operation !== undefined && wordAt(operation, ["precondition"]) === "required";
  return asksForTag ? [...own, anyTag] : own;
}

/** What callers must have seen; a star stands for whatever is there. */
const anyTag: TriedParameter = {
  bind: "If-Match",
  name: "If-Match",
  pointer: undefined,
  in: "header",
  type: "entity tag",
  required: true,
  example: "*",
  about: "The entity tag of what was seen, or * for whatever is there",
  choices: [],
};

function parameter({ key, value }: Entry): TriedParameter {
  const source = wordAt(value, ["in"]);
  const type = wordAt(value, ["type"]);
  const example = nodeAt(value, ["example"]);
  return {
    bind: key,
    name: wordAt(value, ["name"]) || key,
    pointer: nodeAt(value, ["pointer"]) === undefined ? undefined : wordAt(value, ["pointer"]),
    in: source,
    type,
    required: source === "path" || wordAt(value, ["required"]) === "true",
    example: example?.kind === "sequence" ? wordsOf(example).join(",") : wordAt(value, ["example"]),
    about: wordAt(value, ["about"]),
    choices: type === "boolean" ? ["true", "false"] : wordsOf(nodeAt(value, ["enum"])),
  };
}

/** A file name for a statement that no other has. */
export function freeFile(files: Readonly<Record<string, string>>, wanted: string): string {
  const base = wanted.replace(/\.sql$/, "");
  for (let number = 1; ; number++) {
    const name = number === 1 ? `${base}.sql` : `${base}-${number}.sql`;
    if (!(name in files)) {
      return name;
    }
  }
}

/** A file name that says what a statement is for: `get-berths.sql`. */
export function fileFor(method: MethodKey, path: string): string {
  const words = path.match(/[A-Za-z0-9]+/g) ?? ["all"];
  return `${[method, ...words].join("-").toLowerCase()}.sql`;
}

/** The offset at which a part of the module is written; 0 for the module itself. */
export function offsetOf(root: TextNode, selection: Selection): number {
  const path = pathOf(selection);
  const parent = nodeAt(root, path.slice(0, -1));
  return entriesIn(parent).find(({ key }) => key === path.at(-1))?.keyFrom ?? 0;
}

/** The offset of a line and a column, both from 1; the start of the text for line 0. */
export function offsetOfLine(text: string, line: number, column: number): number {
  let at = 0;
  for (let before = 1; before < line; before++) {
    const end = text.indexOf("\n", at);
    if (end < 0) {
      return at;
    }
    at = end + 1;
  }
  return line === 0 ? 0 : at + Math.max(0, column - 1);
}
