import { isMap, isScalar, isSeq, type Node, type Pair, parseDocument } from "yaml";

/** A piece of a module's text that knows where it stands: from its first character up to, and without, its end. */
export type TextNode = Mapping | Sequence | Word | Broken;

export interface Mapping {
  kind: "mapping";
  from: number;
  to: number;
  /** Whether it stands in braces. */
  flow: boolean;
  entries: readonly Entry[];
}

export interface Entry {
  key: string;
  keyFrom: number;
  keyTo: number;
  readonly value: TextNode;
}

export interface Sequence {
  kind: "sequence";
  from: number;
  to: number;
  /** Whether it stands in brackets. */
  flow: boolean;
  items: readonly TextNode[];
}

/** A single value. One that is not written has no length and stands behind its key's colon. */
export interface Word {
  kind: "word";
  from: number;
  to: number;
  text: string;
  style: "plain" | "single" | "double" | "block";
}

/** A piece that is no YAML as it stands. */
export interface Broken {
  kind: "broken";
  from: number;
  to: number;
  message: string;
}

/** Reads a text, quickly where it has read most of it before. */
export type ModuleReader = (text: string) => Mapping | Broken;

/** What was read of a piece, with places counted from the piece's start. */
type Known = Map<string, Mapping | Broken>;

/**
 * Makes a reader. It reads a module's text (YAML 1.2, lines ending in LF) in pieces, one for each key of the module and one for each route,
 * and keeps what it knows of them: whoever types in one route does not wait for 200 others. A broken piece leaves the others readable.
 */
export function moduleReader(): ModuleReader {
  let known: Known = new Map();
  return (text) => {
    const now: Known = new Map();
    const read = (piece: string): Mapping | Broken => {
      const found = known.get(piece) ?? readPiece(piece);
      now.set(piece, found);
      return found;
    };
    const root = isCut(text) ? cut(text, read) : read(text);
    known = now;
    return root;
  };
}

/** Whether a text is one block of keys, which can be read key by key. */
function isCut(text: string): boolean {
  const first = /^(?![ \t]*(#|$))(.)/m.exec(text)?.[2] ?? "";
  return /[a-z]/.test(first) && !/^(---|\.\.\.|%)/m.test(text);
}

function cut(text: string, read: (piece: string) => Mapping | Broken): Mapping {
  const entries: Entry[] = [];
  for (const [from, to] of pieces(text, 0, text.length, 0)) {
    const piece = text.slice(from, to);
    const head = /^routes:[ \t]*(#.*)?\n/.exec(piece)?.[0];
    const routes = head === undefined ? undefined : cutRoutes(text, from + head.length, to, read);
    if (routes === undefined) {
      entries.push(...entriesOf(read(piece), from, piece));
    } else {
      entries.push({ key: "routes", keyFrom: from, keyTo: from + "routes".length, value: routes });
    }
  }
  return blockMapping(entries, 0);
}

function cutRoutes(text: string, from: number, to: number, read: (piece: string) => Mapping | Broken): Mapping | undefined {
  const margin = /^( +)(?![ #\n])/m.exec(text.slice(from, to))?.[1]?.length;
  if (margin === undefined) {
    return undefined;
  }
  const found = pieces(text, from, to, margin);
  const entries = found.flatMap(([start, end]) => {
    const piece = text.slice(start, end);
    return entriesOf(read(piece), start, piece);
  });
  return entries.length === 0 ? undefined : blockMapping(entries, from);
}

function blockMapping(entries: Entry[], otherwise: number): Mapping {
  const last = entries.at(-1);
  return { kind: "mapping", from: entries[0]?.keyFrom ?? otherwise, to: last?.value.to ?? otherwise, flow: false, entries };
}

/** The parts of a text that begin with a key at a margin; what stands before the first is part of none. */
function pieces(text: string, from: number, to: number, margin: number): Array<[number, number]> {
  const starts: number[] = [];
  for (let at = from; at < to; at = endOfLine(text, at) + 1) {
    if (isKeyAt(text, at, margin)) {
      starts.push(at);
    }
  }
  return starts.map((start, index) => [start, starts[index + 1] ?? to]);
}

/** Whether a line begins a key at a margin: no comment, no item of a list, no bracket that closes what is above. */
function isKeyAt(text: string, line: number, margin: number): boolean {
  for (let at = line; at < line + margin; at++) {
    if (text[at] !== " ") {
      return false;
    }
  }
  const first = text[line + margin];
  return first !== undefined && !" \t#\n}]".includes(first) && !/^-([ \n]|$)/.test(text.slice(line + margin, line + margin + 2));
}

function endOfLine(text: string, at: number): number {
  const end = text.indexOf("\n", at);
  return end < 0 ? text.length : end;
}

/** The entries of a piece, moved to where the piece stands; a broken one is an entry too, by the word it begins with. */
function entriesOf(read: Mapping | Broken, offset: number, piece: string): Entry[] {
  if (read.kind === "mapping") {
    return read.entries.map((entry) => movedEntry(entry, offset));
  }
  const begun = /^\s*(.*?)\s*(:|$)/m.exec(piece);
  const key = begun?.[1] ?? "";
  const keyFrom = offset + piece.indexOf(key);
  return [{ key, keyFrom, keyTo: keyFrom + key.length, value: moved(read, offset) }];
}

/** The value is moved only once somebody looks at it. */
function movedEntry(entry: Entry, offset: number): Entry {
  let value: TextNode | undefined;
  return {
    key: entry.key,
    keyFrom: entry.keyFrom + offset,
    keyTo: entry.keyTo + offset,
    get value() {
      value ??= moved(entry.value, offset);
      return value;
    },
  };
}

function moved(node: TextNode, offset: number): TextNode {
  const place = { from: node.from + offset, to: node.to + offset };
  switch (node.kind) {
    case "mapping":
      return { ...node, ...place, entries: node.entries.map((entry) => movedEntry(entry, offset)) };
    case "sequence":
      return { ...node, ...place, items: node.items.map((item) => moved(item, offset)) };
    case "word":
    case "broken":
      return { ...node, ...place };
  }
}

function readPiece(text: string): Mapping | Broken {
  const document = parseDocument(text, { version: "1.2", schema: "core", prettyErrors: false, logLevel: "silent", resolveKnownTags: false });
  const [error] = document.errors;
  if (error !== undefined) {
    return { kind: "broken", from: 0, to: text.trimEnd().length, message: error.message };
  }
  const root = document.contents;
  if (root === null) {
    return { kind: "mapping", from: 0, to: 0, flow: false, entries: [] };
  }
  if (!isMap(root)) {
    return { kind: "broken", from: 0, to: text.trimEnd().length, message: "Here a key is expected" };
  }
  return converted(root, text, 0) as Mapping;
}

function converted(node: Node | null, text: string, otherwise: number): TextNode {
  const [from, end] = node?.range ?? [otherwise, otherwise];
  if (isMap(node)) {
    const entries = node.items.map((pair) => entry(pair as Pair<Node, Node | null>, text));
    const flow = node.flow === true;
    return { kind: "mapping", from, to: flow ? end : (entries.at(-1)?.value.to ?? end), flow, entries };
  }
  if (isSeq(node)) {
    const items = node.items.map((item) => converted(item as Node, text, from));
    const flow = node.flow === true;
    return { kind: "sequence", from, to: flow ? end : Math.max(from + 1, items.at(-1)?.to ?? end), flow, items };
  }
  if (isScalar(node) && node.source !== undefined && end > from) {
    const style = styles[node.type ?? "PLAIN"] ?? "plain";
    const plain = style === "plain" || typeof node.value !== "string";
    const to = style === "block" ? from + text.slice(from, end).trimEnd().length : end;
    return { kind: "word", from, to, text: plain ? node.source : String(node.value), style };
  }
  return node === null || isScalar(node)
    ? { kind: "word", from: otherwise, to: otherwise, text: "", style: "plain" }
    : { kind: "broken", from, to: end, message: "Write the value out in place of an alias" };
}

const styles: Readonly<Record<string, Word["style"]>> = {
  PLAIN: "plain",
  QUOTE_SINGLE: "single",
  QUOTE_DOUBLE: "double",
  BLOCK_LITERAL: "block",
  BLOCK_FOLDED: "block",
};

function entry(pair: Pair<Node, Node | null>, text: string): Entry {
  const [keyFrom, keyTo] = pair.key.range ?? [0, 0];
  const colon = text.indexOf(":", keyTo);
  const key = isScalar(pair.key) ? (pair.key.type === "PLAIN" ? (pair.key.source ?? "") : String(pair.key.value)) : "";
  return { key, keyFrom, keyTo, value: converted(pair.value, text, colon < 0 ? keyTo : colon + 1) };
}

/** What stands under a path of keys and places in lists; undefined where nothing does. */
export function nodeAt(root: TextNode, path: ReadonlyArray<string | number>): TextNode | undefined {
  let node: TextNode | undefined = root;
  for (const step of path) {
    node = node === undefined ? undefined : child(node, step);
  }
  return node;
}

function child(node: TextNode, step: string | number): TextNode | undefined {
  if (node.kind === "mapping") {
    return node.entries.find(({ key }) => key === step)?.value;
  }
  return node.kind === "sequence" && typeof step === "number" ? node.items[step] : undefined;
}

/** The text of a single value under a path; empty where there is none. */
export function wordAt(root: TextNode, path: ReadonlyArray<string | number>): string {
  const node = nodeAt(root, path);
  return node?.kind === "word" ? node.text : "";
}

/** The single values of a list, or of one that stands for a list. */
export function wordsOf(node: TextNode | undefined): string[] {
  switch (node?.kind) {
    case "word":
      return node.text === "" ? [] : [node.text];
    case "sequence":
      return node.items.flatMap((item) => (item.kind === "word" ? [item.text] : []));
    case "mapping":
    case "broken":
    case undefined:
      return [];
  }
}

/** The entries of a mapping; none for anything else. */
export const entriesIn = (node: TextNode | undefined): readonly Entry[] => (node?.kind === "mapping" ? node.entries : []);
