import { type Entry, type Mapping, type ModuleReader, nodeAt, type Sequence, type TextNode, type Word } from "./nodes";
import { type Among, inline, isTall, item, type Keys, lines, quoted, Typed, type Value, word } from "./words";

/** Keys and places in lists, from the module down. */
export type Path = ReadonlyArray<string | number>;

/** In which order keys are written below a path; empty where the writer's own names stand. */
export type KeyOrder = (path: Path) => readonly string[];

/**
 * Changes a module's text as a form asks for it, and leaves everything else as its writer has it: comments, order, spacing, quotes. Each
 * answers the whole new text; the same text when there is nothing to do, or when the place cannot be read.
 */
export interface TextEdits {
  /** Writes a value under a path. Keys above it that are missing are written too. */
  set(text: string, path: Path, value: Value): string;
  /** Takes away what stands under a path, with the keys above it that would be left empty. Comments above it stay. */
  remove(text: string, path: Path): string;
  /** Gives a key another name. */
  rename(text: string, path: Path, key: string): string;
  /** Puts a key, with the comments right above it, before one of its siblings, or behind them all. */
  move(text: string, path: Path, before: string | undefined): string;
  /** Writes the same lines once more under another path of the same depth. */
  copy(text: string, path: Path, to: Path): string;
}

export function textEdits(read: ModuleReader, order: KeyOrder): TextEdits {
  const set = (text: string, path: Path, value: Value): string => {
    const root = read(text);
    const present = nodeAt(root, path);
    if (present !== undefined) {
      return replace(text, path, present, value);
    }
    const above = deepest(root, path);
    return above === undefined ? text : insert(text, above.node, above.path, path, value, order(above.path));
  };

  const replace = (text: string, path: Path, present: TextNode, value: Value): string => {
    if (present.kind === "broken") {
      return text;
    }
    if (present.kind === "sequence" && Array.isArray(value) && value.length > 0) {
      return setItems(text, present, value as readonly Value[]);
    }
    if (present.kind === "mapping" && isKeys(value) && Object.keys(value).length > 0) {
      return setKeys(text, path, present, value);
    }
    return overwrite(text, read(text), path, present, value);
  };

  const setKeys = (text: string, path: Path, present: Mapping, value: Keys): string => {
    const written = Object.entries(value).reduce((so, [key, one]) => set(so, [...path, key], one), text);
    const gone = present.entries.filter(({ key }) => !(key in value));
    return gone.reduce((so, { key }) => remove(so, [...path, key]), written);
  };

  const remove = (text: string, path: Path): string => {
    const root = read(text);
    const parentPath = path.slice(0, -1);
    const parent = nodeAt(root, parentPath);
    const key = path.at(-1);
    if (parent?.kind === "sequence" && typeof key === "number" && parent.items[key] !== undefined) {
      return parent.items.length === 1 ? remove(text, parentPath) : withoutItem(text, parent, key);
    }
    const entry = parent?.kind === "mapping" ? parent.entries.find((one) => one.key === key) : undefined;
    if (parent?.kind !== "mapping" || entry === undefined) {
      return text;
    }
    if (parent.entries.length === 1 && parentPath.length > 0) {
      return parentPath.length === 1 && parentPath[0] === "routes" ? overwrite(text, root, parentPath, parent, {}) : remove(text, parentPath);
    }
    return parent.flow ? withoutFlowEntry(text, parent, entry) : withoutLines(text, entry, entry === parent.entries[0]);
  };

  const rename = (text: string, path: Path, key: string): string => {
    const entry = entryAt(read(text), path);
    return entry === undefined ? text : splice(text, entry.keyFrom, entry.keyTo, word(key, among(read(text), path)));
  };

  const move = (text: string, path: Path, before: string | undefined): string => {
    const parent = nodeAt(read(text), path.slice(0, -1));
    return parent?.kind === "mapping" && !parent.flow ? moved(text, parent, String(path.at(-1)), before) : text;
  };

  const copy = (text: string, path: Path, to: Path): string => {
    const root = read(text);
    const entry = entryAt(root, path);
    if (entry === undefined || nodeAt(root, to) !== undefined || !beginsLine(text, entry)) {
      return text;
    }
    const start = lineStart(text, entry.keyFrom);
    const original = text.slice(start, contentEnd(text, entry)).split("\n");
    const margin = entry.keyFrom - start;
    const renamed = [word(String(to.at(-1)), "block") + original[0]?.slice(entry.keyTo - start), ...original.slice(1).map((line) => line.slice(margin))];
    const above = deepest(root, to);
    if (above === undefined) {
      return text;
    }
    const between = to.slice(above.path.length, -1);
    const heads = between.map((one, depth) => `${" ".repeat(2 * depth)}${word(String(one), "block")}:`);
    const body = [...heads, ...renamed.map((line) => indented(line, 2 * between.length))];
    return insertLines(text, above.node, String(to[above.path.length]), body, order(above.path));
  };

  return { set, remove, rename, move, copy };
}

const isKeys = (value: Value): value is Keys => typeof value === "object" && !Array.isArray(value) && !(value instanceof Typed);

function entryAt(root: TextNode, path: Path): Entry | undefined {
  const parent = nodeAt(root, path.slice(0, -1));
  return parent?.kind === "mapping" ? parent.entries.find(({ key }) => key === path.at(-1)) : undefined;
}

/** What stands deepest on the way to a path, when it can take another key. */
function deepest(root: TextNode, path: Path): { node: Mapping | Word; path: Path } | undefined {
  for (let depth = path.length - 1; depth >= 0; depth--) {
    const node = nodeAt(root, path.slice(0, depth));
    if (node !== undefined) {
      const takes = node.kind === "mapping" || (node.kind === "word" && node.text === "" && node.style === "plain");
      return takes ? { node, path: path.slice(0, depth) } : undefined;
    }
  }
  return undefined;
}

function splice(text: string, from: number, to: number, insert: string): string {
  return text.slice(0, from) + insert + text.slice(to);
}

const lineStart = (text: string, at: number): number => text.lastIndexOf("\n", at - 1) + 1;

function lineEnd(text: string, at: number): number {
  const end = text.indexOf("\n", at);
  return end < 0 ? text.length : end;
}

const margin = (text: string, entry: Entry): number => entry.keyFrom - lineStart(text, entry.keyFrom);

/** Whether nothing but spaces stands before a key. */
const beginsLine = (text: string, entry: Entry): boolean => text.slice(lineStart(text, entry.keyFrom), entry.keyFrom).trim() === "";

/** The end of the last line of an entry, with a comment on it, without the line's end. */
const contentEnd = (text: string, entry: Entry): number => lineEnd(text, Math.max(entry.keyTo, entry.value.to));

/** Where the comments begin that stand right above a key, at its margin. */
function withComments(text: string, entry: Entry): number {
  const head = " ".repeat(margin(text, entry)) + "#";
  let start = lineStart(text, entry.keyFrom);
  while (start > 0 && text.startsWith(head, lineStart(text, start - 1))) {
    start = lineStart(text, start - 1);
  }
  return start;
}

/** Puts a value in the place of another; what cannot be written on one line is left. */
function overwrite(text: string, root: TextNode, path: Path, present: TextNode, value: Value): string {
  const place = among(root, path);
  if (isSame(present, value, place) || (isKeys(value) && Object.keys(value).length > 0 && isTall(value, path, 0))) {
    return text;
  }
  const written = present.kind === "word" && present.style === "double" && typeof value === "string" ? quoted(value) : inline(value, place);
  if (present.from === present.to) {
    return splice(text, present.from, present.to, ` ${written}`);
  }
  const isBlock = (present.kind === "mapping" || present.kind === "sequence") && !present.flow;
  if (!isBlock) {
    return splice(text, present.from, present.to, written);
  }
  const entry = entryAt(root, path);
  if (entry === undefined) {
    return text;
  }
  // the value goes behind the key's colon, before a comment on that line and those below it
  const colon = text.indexOf(":", entry.keyTo) + 1;
  const comments = text.slice(colon, present.from).trimEnd();
  return splice(text, colon, present.to, ` ${written}${comments}`);
}

/** Whether a value is there already, however it is quoted. */
function isSame(present: TextNode, value: Value, place: Among): boolean {
  if (present.kind !== "word") {
    return false;
  }
  return value instanceof Typed ? present.text === value.text && present.style === "plain" : present.text === value && (present.style !== "plain" || word(value, place) === value);
}

/** Whether a path leads into brackets or braces. */
function among(root: TextNode, path: Path): Among {
  const above = path.map((_, depth) => nodeAt(root, path.slice(0, depth)));
  return above.some((node) => (node?.kind === "mapping" || node?.kind === "sequence") && node.flow) ? "flow" : "block";
}

/** Writes the items of a list that differ, and leaves the others with their comments. */
function setItems(text: string, present: Sequence, value: readonly Value[]): string {
  const known = present.items;
  if (known.length === value.length && known.every((one, index) => says(one, value[index] ?? ""))) {
    return text;
  }
  const asTyped = value.map((one) => {
    const same = known.find((before) => says(before, one));
    return same === undefined ? item(one) : text.slice(same.from, same.to);
  });
  if (present.flow) {
    const inner = text.slice(present.from, present.to);
    return inner.includes("\n") && inner.includes("#") ? itemByItem(text, present, asTyped) : splice(text, present.from, present.to, `[${asTyped.join(", ")}]`);
  }
  return itemByItem(text, present, asTyped);
}

/** Whether a node says a value, in whatever form. */
function says(node: TextNode, value: Value): boolean {
  switch (node.kind) {
    case "word":
      return node.text === (value instanceof Typed ? value.text : value);
    case "sequence":
      return Array.isArray(value) && value.length === node.items.length && node.items.every((one, index) => says(one, value[index] as Value));
    case "mapping":
      return isKeys(value) && Object.keys(value).length === node.entries.length && node.entries.every(({ key, value: one }) => key in value && says(one, value[key] as Value));
    case "broken":
      return false;
  }
}

/** Overwrites, adds and takes away items one by one, from the last to the first. */
function itemByItem(text: string, present: Sequence, written: readonly string[]): string {
  let so = text;
  const items = present.items;
  const last = items.at(-1);
  if (written.length > items.length && last !== undefined) {
    const added = written.slice(items.length);
    const start = lineStart(text, last.from);
    const dash = text.slice(start, last.from);
    so = present.flow ? splice(so, last.to, last.to, added.map((one) => `, ${one}`).join("")) : splice(so, lineEnd(so, last.to), lineEnd(so, last.to), added.map((one) => `\n${dash}${one}`).join(""));
  }
  for (let index = items.length - 1; index >= 0; index--) {
    const before = items[index] as TextNode;
    const one = written[index];
    so = one === undefined ? withoutItem(so, present, index) : splice(so, before.from, before.to, one);
  }
  return so;
}

function withoutItem(text: string, list: Sequence, index: number): string {
  const gone = list.items[index] as TextNode;
  if (!list.flow) {
    return splice(text, lineStart(text, gone.from), Math.min(text.length, lineEnd(text, gone.to) + 1), "");
  }
  const before = list.items[index - 1];
  const after = list.items[index + 1];
  return before !== undefined ? splice(text, before.to, gone.to, "") : after !== undefined ? splice(text, gone.from, after.from, "") : splice(text, gone.from, gone.to, "");
}

function withoutFlowEntry(text: string, parent: Mapping, entry: Entry): string {
  const index = parent.entries.indexOf(entry);
  const before = parent.entries[index - 1];
  const after = parent.entries[index + 1];
  const end = Math.max(entry.value.to, entry.keyTo);
  return before !== undefined ? splice(text, Math.max(before.value.to, before.keyTo), end, "") : after !== undefined ? splice(text, entry.keyFrom, after.keyFrom, "") : text;
}

/** Takes the lines of a key away; of empty lines on both sides one is enough, and none below the key above the first. */
function withoutLines(text: string, entry: Entry, isFirst: boolean): string {
  const from = lineStart(text, entry.keyFrom);
  const to = Math.min(text.length, contentEnd(text, entry) + 1);
  const emptyBefore = isFirst || /\n[ \t]*\n$/.test(text.slice(0, from));
  const emptyAfter = /^[ \t]*\n/.exec(text.slice(to))?.[0];
  if (emptyBefore && emptyAfter !== undefined) {
    return splice(text, from, to + emptyAfter.length, "");
  }
  const trailing = emptyBefore && to === text.length ? /\n[ \t]*\n$/.exec(text.slice(0, from)) : null;
  return trailing === null ? splice(text, from, to, "") : splice(text, trailing.index + 1, to, "");
}

function insert(text: string, parent: Mapping | Word, at: Path, path: Path, value: Value, order: readonly string[]): string {
  const rest = path.slice(at.length + 1);
  const whole = rest.reduceRight<Value>((inner, key) => ({ [String(key)]: inner }), value);
  const key = String(path[at.length]);
  if (parent.kind === "mapping" && parent.flow && (parent.entries.length > 0 || !isTall({ [key]: whole }, at, 0))) {
    return intoFlow(text, parent, key, whole, order);
  }
  return insertLines(text, parent, key, lines(key, whole, [...at, key], 0), order);
}

function intoFlow(text: string, parent: Mapping, key: string, value: Value, order: readonly string[]): string {
  const added = `${word(key, "flow")}: ${inline(value, "flow")}`;
  if (text[parent.from] !== "{") {
    // one key in a list needs no braces, two do
    return splice(text, parent.from, parent.to, `{ ${text.slice(parent.from, parent.to)}, ${added} }`);
  }
  const before = predecessor(parent, key, order);
  if (before !== undefined) {
    const end = Math.max(before.value.to, before.keyTo);
    return splice(text, end, end, `, ${added}`);
  }
  const [first] = parent.entries;
  return first === undefined ? splice(text, parent.from, parent.to, `{ ${added} }`) : splice(text, first.keyFrom, first.keyFrom, `${added}, `);
}

/** Writes the lines of a new key, which are given without margin, below a parent. */
function insertLines(text: string, parent: Mapping | Word, key: string, added: readonly string[], order: readonly string[]): string {
  const [first] = parent.kind === "mapping" ? parent.entries : [];
  if (parent.kind === "word" || first === undefined) {
    return belowNothing(text, parent, added);
  }
  const body = added.map((line) => indented(line, margin(text, first))).join("\n");
  const before = predecessor(parent, key, order) ?? (beginsLine(text, first) ? undefined : first);
  if (before === undefined) {
    const start = withComments(text, first);
    return splice(text, start, start, `${body}\n`);
  }
  const end = contentEnd(text, before);
  return splice(text, end, end, `\n${isApart(text, parent) ? "\n" : ""}${body}`);
}

const indented = (line: string, by: number): string => (line === "" ? line : " ".repeat(by) + line);

/** Whether empty lines stand between the keys of a mapping. */
function isApart(text: string, { entries }: Mapping): boolean {
  const [first, second] = entries;
  return first !== undefined && second !== undefined && /\n[ \t]*\n/.test(text.slice(contentEnd(text, first), second.keyFrom));
}

/** Below a key that has no value, or nothing in its braces. */
function belowNothing(text: string, parent: Mapping | Word, added: readonly string[]): string {
  const start = lineStart(text, parent.from);
  const space = (/^ */.exec(text.slice(start))?.[0].length ?? 0) + (text.trim() === "" ? 0 : 2);
  const body = added.map((line) => indented(line, space)).join("\n");
  const cleared = parent.kind === "mapping" ? splice(text, trimmedBefore(text, parent.from), parent.to, "") : text;
  const end = lineEnd(cleared, trimmedBefore(text, parent.from));
  return cleared === "" ? `${body}\n` : splice(cleared, end, end, `\n${body}`);
}

function trimmedBefore(text: string, at: number): number {
  return text.slice(0, at).trimEnd().length;
}

/** The last key that stands before a new one by the order of keys; the last of all for one that has no place in it. */
function predecessor(parent: Mapping, key: string, order: readonly string[]): Entry | undefined {
  const place = order.indexOf(key);
  if (place < 0) {
    return parent.entries.at(-1);
  }
  return parent.entries.findLast((entry) => order.indexOf(entry.key) >= 0 && order.indexOf(entry.key) < place);
}

/** The keys of a mapping in another order; what stands between their lines stays where it is. */
function moved(text: string, parent: Mapping, key: string, before: string | undefined): string {
  const { entries } = parent;
  const from = entries.findIndex((entry) => entry.key === key);
  const target = before === undefined ? entries.length : entries.findIndex((entry) => entry.key === before);
  if (from < 0 || target < 0 || target === from || target === from + 1 || !entries.every((entry) => beginsLine(text, entry))) {
    return text;
  }
  const spans = entries.map((entry) => [withComments(text, entry), contentEnd(text, entry)] as const);
  const chunks = spans.map(([start, end]) => text.slice(start, end));
  const between = spans.map(([, end], index) => text.slice(end, spans[index + 1]?.[0] ?? end));
  const [chunk = ""] = chunks.splice(from, 1);
  chunks.splice(target > from ? target - 1 : target, 0, chunk);
  const whole = chunks.map((one, index) => one + (between[index] ?? "")).join("");
  return splice(text, spans[0]?.[0] ?? 0, spans.at(-1)?.[1] ?? 0, whole);
}
