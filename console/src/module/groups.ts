import type { KeyShape } from "../moduletext/shape";

/** A part of a form: keys that belong together. */
export interface KeyGroup {
  title: string;
  keys: readonly KeyShape[];
}

const operationGroups: ReadonlyArray<readonly [string, readonly string[]]> = [
  ["What it is", ["about", "id", "answer", "status", "location"]],
  ["Parameters", ["parameters"]],
  ["Rows: order, filters, pages", ["order", "sort", "search", "filter", "filter-at", "page", "total", "total-timeout"]],
  ["Fields and formats", ["show", "fields", "names", "chosen-fields", "formats", "file", "reply", "promise"]],
  ["Freshness and preconditions", ["tag", "modified", "fresh", "precondition", "idempotency-key"]],
  ["Steps and changes", ["sql", "with", "changes", "results", "steps", "answered-by", "batch", "preview", "transaction", "isolation", "conditions"]],
  ["Access and limits", ["needs", "public", "quota", "timeout", "assistants"]],
  ["Ends and accepted findings", ["deprecated", "accept"]],
];

const moduleGroups: ReadonlyArray<readonly [string, readonly string[]]> = [
  ["What it is", ["module", "version", "title", "about", "source"]],
  ["How it is found", ["owner", "contact", "terms", "tags", "listed"]],
  ["Access and limits", ["needs", "public", "addresses", "tls", "cross-origin", "quota", "review", "assistants"]],
  ["Usual for its operations", ["page", "timeout", "names", "chosen-fields", "formats", "conditions"]],
  ["Ends and accepted findings", ["deprecated", "accept"]],
];

/** Every key has its place; one that no group names stands under the last heading. */
function grouped(groups: ReadonlyArray<readonly [string, readonly string[]]>, keys: readonly KeyShape[]): KeyGroup[] {
  const named = new Set(groups.flatMap(([, names]) => names));
  const rest = keys.filter(({ key }) => !named.has(key));
  const all = groups.map(([title, names]) => ({ title, keys: names.flatMap((name) => keys.filter(({ key }) => key === name)) }));
  return rest.length === 0 ? all : [...all, { title: "More", keys: rest }];
}

export const groupsOfOperation = (keys: readonly KeyShape[]): KeyGroup[] => grouped(operationGroups, keys);

/** The routes have the tree. */
export const groupsOfModule = (keys: readonly KeyShape[]): KeyGroup[] =>
  grouped(moduleGroups, keys.filter(({ key }) => key !== "routes"));
