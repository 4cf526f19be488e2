import type { Completion, CompletionContext, CompletionResult } from "@codemirror/autocomplete";
import { moduleSchema, resolved, type Schema, schemaAt } from "../moduletext/schema";

/** What the text itself knows that the schema does not. */
export interface Known {
  /** The statements' files. */
  files: readonly string[];
  /** The sources of this environment. */
  sources: readonly string[];
  /** The columns of the statement that is being looked at. */
  columns: readonly string[];
}

/** Keys whose words are columns. */
const ofColumns: ReadonlySet<string> = new Set(["order", "sort", "search", "show", "filter"]);

/** Where somebody is writing: below these keys, and at a key or at a value. */
interface Place {
  path: readonly string[];
  at: "key" | "value";
  /** The keys that stand beside it already. */
  taken: readonly string[];
}

/** Completes module.yaml: keys and words by the schema, files, sources and columns by what is there. */
export const moduleCompletion =
  (known: Known) =>
  (context: CompletionContext): CompletionResult | null => {
    const before = context.state.doc.sliceString(0, context.pos);
    const word = /[\w./-]*$/.exec(before)?.[0] ?? "";
    if (word === "" && !context.explicit) {
      return null;
    }
    const options = optionsAt(before.slice(0, before.length - word.length), context.state.doc.sliceString(context.pos), known);
    return options.length === 0 ? null : { from: context.pos - word.length, options, validFor: /^[\w./-]*$/ };
  };

/** What can stand at a place, given the text before it, without the word that is begun, and the text behind. */
export function optionsAt(before: string, behind: string, known: Known): Completion[] {
  const place = placeAt(before, behind);
  if (place === undefined) {
    return [];
  }
  return place.at === "key" ? keysAt(place) : valuesAt(place, known);
}

function keysAt({ path, taken }: Place): Completion[] {
  const schema = schemaAt(moduleSchema, path);
  const names = Object.keys(schema?.properties ?? {}).concat((schema?.propertyNames?.enum ?? []).map(String));
  return names
    .filter((name) => !taken.includes(name))
    .map((name) => ({ label: name, apply: `${name}: `, type: "property", ...about(schemaAt(moduleSchema, [...path, name])) }));
}

const about = (schema: Schema | undefined): { info: string } | object => (schema?.description === undefined ? {} : { info: schema.description });

function valuesAt({ path }: Place, known: Known): Completion[] {
  const key = path.at(-1) ?? "";
  const words =
    key === "sql"
      ? known.files
      : key === "source" && path.length === 1
        ? known.sources
        : ofColumns.has(key)
          ? known.columns
          : wordsOf(schemaAt(moduleSchema, path));
  return words.map((label) => ({ label, type: "constant" }));
}

/** The words that a schema allows, for a value or for the items of a list. */
function wordsOf(schema: Schema | undefined): string[] {
  if (schema === undefined) {
    return [];
  }
  const own = [...(schema.const === undefined ? [] : [schema.const]), ...(schema.enum ?? [])].flatMap((one) => (one === null ? [] : [String(one)]));
  const flags = schema.type === "boolean" ? ["true", "false"] : [];
  const items = schema.items === undefined ? [] : wordsOf(resolved(schema.items, moduleSchema));
  const others = (schema.oneOf ?? []).flatMap((one) => wordsOf(resolved(one, moduleSchema)));
  return [...new Set([...own, ...flags, ...items, ...others])];
}

/** Reads the keys above by their margins, and those on the line by their braces. */
function placeAt(before: string, behind: string): Place | undefined {
  const lines = before.split("\n");
  const line = lines.pop() ?? "";
  if (/(^|\s)#/.test(line)) {
    return undefined;
  }
  const margin = /^ */.exec(line)?.[0].length ?? 0;
  const above = keysAbove(lines, margin);
  const inner = /^ *(?:- )?("[^"]*"|'[^']*'|[^\s:{}[\]#]+(?:[^:#]*[^\s:#])?):(?:\s+(.*))?$/.exec(line);
  if (inner === null) {
    return line.trim() === "" || line.trim() === "-" ? { path: above, at: "key", taken: siblings(lines, behind, margin) } : undefined;
  }
  const path = [...above, unquoted(inner[1] ?? "")];
  return inner[2] === undefined || !/[{[]/.test(inner[2]) ? { path, at: "value", taken: [] } : inFlow(path, inner[2]);
}

/** The keys above a margin, the outermost first. */
function keysAbove(lines: readonly string[], margin: number): string[] {
  const path: string[] = [];
  let limit = margin;
  for (let index = lines.length - 1; index >= 0 && limit > 0; index--) {
    const found = /^( *)("[^"]*"|'[^']*'|[^\s#-][^#]*?):(\s|$)/.exec(lines[index] ?? "");
    const space = found?.[1]?.length ?? limit;
    if (found !== null && space < limit) {
      path.unshift(unquoted(found[2] ?? ""));
      limit = space;
    }
  }
  return path;
}

/** The keys at a margin, in the same mapping, above and behind. */
function siblings(lines: readonly string[], behind: string, margin: number): string[] {
  const keys = (some: readonly string[]): string[] => {
    const found: string[] = [];
    for (const line of some) {
      const space = /^ */.exec(line)?.[0].length ?? 0;
      if (line.trim() !== "" && space < margin) {
        break;
      }
      const key = space === margin ? /^ *([\w-]+):/.exec(line)?.[1] : undefined;
      if (key !== undefined) {
        found.push(key);
      }
    }
    return found;
  };
  return [...keys([...lines].reverse()), ...keys(behind.split("\n").slice(1))];
}

/** The place within braces and brackets on one line. */
function inFlow(start: readonly string[], text: string): Place | undefined {
  const open: Array<{ kind: "{" | "["; path: readonly string[]; taken: string[] }> = [];
  let path = start;
  let word = "";
  let at: Place["at"] = "value";
  for (const char of text) {
    const inner = open.at(-1);
    if (char === "{" || char === "[") {
      open.push({ kind: char, path, taken: [] });
      at = char === "{" ? "key" : "value";
      word = "";
    } else if (char === "}" || char === "]") {
      path = open.pop()?.path ?? start;
      at = "value";
    } else if (char === ":" && inner !== undefined) {
      inner.taken.push(unquoted(word.trim()));
      path = inner.kind === "{" ? [...inner.path, unquoted(word.trim())] : [...inner.path, unquoted(word.trim())];
      at = "value";
      word = "";
    } else if (char === "," && inner !== undefined) {
      path = inner.path;
      at = inner.kind === "{" ? "key" : "value";
      word = "";
    } else {
      word += char;
    }
  }
  const inner = open.at(-1);
  return inner === undefined ? undefined : { path, at, taken: inner.taken };
}

const unquoted = (text: string): string => text.replace(/^["']|["']$/g, "");
