import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Lexer } from "yaml";
import moorings from "../../../demo/workspace/modules/moorings/v1/module.yaml?raw";
import passages from "../../../demo/workspace/modules/passages/v1/module.yaml?raw";
import tolls from "../../../demo/workspace/modules/tolls/v1/module.yaml?raw";
import { type Path, textEdits } from "./edits";
import { moduleReader, nodeAt, type TextNode } from "./nodes";
import { moduleSchema, schemaOrder } from "./schema";
import { Typed, type Value } from "./words";

const read = moduleReader();
const edits = textEdits(read, schemaOrder(moduleSchema));
const demo = [moorings, passages, tolls];

const small = `# who looks after it: the harbour office
module: quays
version: 1.0.0   # the first
title: "Quays: all of them"
source: waterways

routes:
  /quays:
    # every quay
    get:
      sql: quays.sql # the long one
      answer: rows
      order:
        - name   # unique
        - id

  /quays/{id}:
    needs: quays.read
    get: { sql: quay.sql, answer: row, parameters: { id: { in: path, type: integer } } }
`;
const get: Path = ["routes", "/quays", "get"];

/** What a text says, as plain data. */
function data(node: TextNode): unknown {
  switch (node.kind) {
    case "mapping":
      return Object.fromEntries(node.entries.map(({ key, value }) => [key, data(value)]));
    case "sequence":
      return node.items.map(data);
    case "word":
      return node.text;
    case "broken":
      throw new Error(node.message);
  }
}

const said = (text: string): unknown => data(read(text));
const comments = (text: string): string[] => [...new Lexer().lex(text)].filter((token) => token.startsWith("#"));

/** How many lines of the first text, and of the second, are not in the other at their place. */
function changedLines(before: string, after: string): [number, number] {
  const [a, b] = [before.split("\n"), after.split("\n")];
  let head = 0;
  while (head < Math.min(a.length, b.length) && a[head] === b[head]) {
    head++;
  }
  let tail = 0;
  while (tail < Math.min(a.length, b.length) - head && a.at(-1 - tail) === b.at(-1 - tail)) {
    tail++;
  }
  return [a.length - head - tail, b.length - head - tail];
}

describe("an edit of a form", () => {
  it("writes a value in the place of another, beside the comment", () => {
    expect(edits.set(small, ["version"], "1.1.0")).toBe(small.replace("1.0.0 ", "1.1.0 "));
    expect(edits.set(small, [...get, "sql"], "all quays.sql")).toContain("      sql: all quays.sql # the long one\n");
    expect(edits.set(small, ["title"], "Quays")).toContain('title: "Quays"\n');
  });

  it("writes a new key where the schema has it, below the comment of the one before", () => {
    expect(edits.set(small, [...get, "about"], "Every quay")).toContain("    get:\n      about: Every quay\n      sql: quays.sql # the long one\n");
    expect(edits.set(small, [...get, "page", "limit"], new Typed("50"))).toContain("        - id\n      page: { limit: 50 }\n");
    expect(edits.set(small, ["about"], "1")).toContain('title: "Quays: all of them"\nabout: "1"\nsource');
  });

  it("writes into braces what stands in braces", () => {
    const path: Path = ["routes", "/quays/{id}", "get", "parameters", "id"];
    expect(edits.set(small, [...path, "minimum"], new Typed("1"))).toContain("id: { in: path, type: integer, minimum: 1 }");
    expect(edits.set(small, [...path, "about"], "The number, once given")).toContain('type: integer, about: "The number, once given" }');
    expect(edits.remove(small, [...path, "in"])).toContain("id: { type: integer }");
    expect(edits.remove(small, path)).toContain("get: { sql: quay.sql, answer: row }");
  });

  it("leaves the other items of a list with their comments", () => {
    expect(edits.set(small, [...get, "order"], ["name", "id desc", "berth"])).toBe(small.replace("- id", "- id desc\n        - berth"));
    expect(edits.set(small, [...get, "order"], ["name"])).toBe(small.replace("        - id\n", ""));
  });

  it("leaves the other filters, and writes one key in a list without braces", () => {
    const text = "routes:\n  /x:\n    get:\n      filter: [a: [gte, lte], b]   # two\n";
    const path: Path = ["routes", "/x", "get", "filter"];
    expect(edits.set(text, path, [{ a: ["gte", "lte"] }, { b: "eq" }, "c"])).toBe(text.replace("b]", "b: eq, c]"));
    expect(edits.set(text, path, [{ a: ["gte", "lte"] }, "b"])).toBe(text);
  });

  it("adds parameters as lines, a route as a paragraph, a method where its route is", () => {
    const parameter = { in: "query", type: "string", enum: ["open", "on"] };
    expect(edits.set(small, [...get, "parameters", "state"], parameter)).toContain(
      '        - id\n      parameters:\n        state: { in: query, type: string, enum: [open, "on"] }\n',
    );
    expect(edits.set(small, ["routes", "/x/{y}", "get"], { sql: "x.sql", answer: "row" })).toMatch(
      /\} \} \}\n\n {2}\/x\/\{y\}:\n {4}get:\n {6}sql: x.sql\n {6}answer: row\n$/,
    );
    expect(edits.set(small, ["routes", "/quays", "delete"], { sql: "x.sql", answer: "nothing" })).toContain(
      "        - id\n    delete:\n      sql: x.sql\n      answer: nothing\n\n  /quays/{id}:",
    );
  });

  it("removes a route with one of the empty lines around it, and keeps the comment above a key", () => {
    expect(edits.remove(small, ["routes", "/quays"])).toContain("routes:\n  /quays/{id}:");
    expect(edits.remove(small, ["routes", "/quays/{id}"])).toMatch(/- id\n$/);
    expect(edits.remove(small, ["module"])).toMatch(/^# who looks/);
    expect(edits.remove(edits.remove(small, ["routes", "/quays"]), ["routes", "/quays/{id}"])).toContain("\nroutes: {}");
  });

  it("renames, moves and copies with what belongs to a key", () => {
    expect(edits.rename(small, ["routes", "/quays"], "/piers")).toBe(small.replace("  /quays:", "  /piers:"));
    const swapped = edits.move(small, ["routes", "/quays/{id}"], "/quays");
    expect(swapped).toMatch(/routes:\n {2}\/quays\/\{id\}:\n[^]*\n\n {2}\/quays:\n[^]*- id\n$/);
    expect(comments(swapped)).toEqual(comments(small));
    expect(edits.move(swapped, ["routes", "/quays/{id}"], undefined)).toBe(small);
    const copied = edits.copy(small, get, ["routes", "/piers", "post"]);
    expect(copied).toMatch(/\n\n {2}\/piers:\n {4}post:\n {6}sql: quays.sql # the long one\n[^]*- id\n$/);
  });

  it("begins where nothing stands yet", () => {
    expect(edits.set("", ["module"], "quays")).toBe("module: quays\n");
    expect(edits.set("routes: # later\n", [...get, "sql"], "a.sql")).toBe("routes: # later\n  /quays:\n    get:\n      sql: a.sql\n");
    expect(edits.set("module: a\nroutes: {}", [...get, "sql"], "a.sql")).toBe("module: a\nroutes:\n  /quays:\n    get:\n      sql: a.sql");
  });

  it("leaves a piece that cannot be read, and reads the others", () => {
    const broken = small.replace("order:", "order: [");
    expect(edits.set(broken, [...get, "sql"], "b.sql")).toBe(broken);
    expect(edits.set(broken, ["routes", "/quays/{id}", "needs"], "quays.list")).toContain("needs: quays.list");
  });
});

/** Every path of a text. */
function paths(node: TextNode, at: Path = []): Path[] {
  const below =
    node.kind === "mapping"
      ? node.entries.flatMap(({ key, value }) => paths(value, [...at, key]))
      : node.kind === "sequence"
        ? node.items.flatMap((item, index) => paths(item, [...at, index]))
        : [];
  return at.length === 0 ? below : [at, ...below];
}

/** A module's text as people write them: blocks and braces, comments anywhere, every kind of quotes. */
const moduleTexts = ((): fc.Arbitrary<string> => {
  const name = fc.stringMatching(/^[a-z][a-z_]{0,5}$/);
  const plain = fc.constantFrom("a.sql", "12", "true", "Berths free: none".replace(":", ""), "it's", "50 %", "2031-05-01", "/x/{id}", "-1", "a#b");
  const quotedWord = fc.constantFrom('"a: b"', "'it''s # not a comment'", '"with \\"quotes\\" and, [brackets]"', '"12"', "'{x}'");
  const flowWord = fc.oneof(fc.constantFrom("a", "12", "id desc", "x.y"), quotedWord);
  const flow: fc.Arbitrary<string> = fc.oneof(
    fc.array(flowWord, { minLength: 1, maxLength: 3 }).map((items) => `[${items.join(", ")}]`),
    fc.uniqueArray(name, { minLength: 1, maxLength: 3 }).chain((keys) =>
      fc.array(flowWord, { minLength: keys.length, maxLength: keys.length }).map((words) => `{ ${keys.map((key, i) => `${key}: ${words[i]}`).join(", ")} }`),
    ),
  );
  const comment = fc.constantFrom("", "", "", " # kept: this", "   # - and this");
  const above = fc.constantFrom("", "", "", "# above", "");
  const block = (depth: number): fc.Arbitrary<string[]> =>
    fc.uniqueArray(name, { minLength: 1, maxLength: 4 }).chain((keys) => fc.tuple(...keys.map((key) => entry(key, depth))).map((all) => all.flat()));
  const entry = (key: string, depth: number): fc.Arbitrary<string[]> => {
    const one = fc.tuple(fc.oneof(plain, quotedWord, flow), comment).map(([value, note]) => [`${key}: ${value}${note}`]);
    const list = fc.array(fc.tuple(fc.oneof(plain, quotedWord), comment), { minLength: 1, maxLength: 3 }).map((items) => [`${key}:`, ...items.map(([item, note]) => `  - ${item}${note}`)]);
    const text = fc.constant<string[]>([`${key}: |`, "  several lines", "", "  # no comment"]);
    const nested = block(depth - 1).chain((lines) => comment.map((note) => [`${key}:${note}`, ...lines.map((line) => (line === "" ? "" : `  ${line}`))]));
    const kinds = depth > 0 ? [one, list, text, nested, nested] : [one, one, list, text];
    return fc.tuple(above, fc.oneof(...kinds)).map(([head, lines]) => (head === "" ? lines : [head, ...lines]));
  };
  return fc
    .tuple(fc.uniqueArray(name, { minLength: 1, maxLength: 3 }), block(3), fc.boolean(), fc.boolean())
    .map(([routes, lines, apart, ended]) =>
      ["module: x # here", "title: X", "routes:", ...routes.flatMap((route) => [`  /${route}:`, ...lines.map((line) => (line === "" ? "" : `    ${line}`)), ...(apart ? [""] : [])])].join("\n") + (ended ? "\n" : ""),
    );
})();
const texts = fc.oneof({ weight: 9, arbitrary: moduleTexts }, { weight: 1, arbitrary: fc.constantFrom(...demo) });
const newWords = fc.oneof(fc.string(), fc.constantFrom("12", "true", "a: b", "- x", "# y", "", " ", "null", "it's", "[", "2031-05-01", "a,b", "line\nline", "\t", "é\u0085\ufeff"));

/** What data says after a change of what stands under a path. */
function withValue(from: unknown, path: Path, value: unknown): unknown {
  const [step, ...rest] = path;
  if (step === undefined) {
    return value;
  }
  if (Array.isArray(from)) {
    return from.map((one: unknown, index) => (index === step ? withValue(one, rest, value) : one));
  }
  const keys = (from ?? {}) as Record<string, unknown>;
  return { ...keys, [step]: withValue(keys[step], rest, value) };
}

describe("any edit of any text", { timeout: 60_000 }, () => {
  const somewhere = texts.chain((text) => fc.record({ text: fc.constant(text), path: fc.constantFrom(...paths(read(text))) }));

  it("changes what is said there, on the lines it stands on, and keeps every comment", () => {
    fc.assert(
      fc.property(somewhere, newWords, ({ text, path }, value) => {
        const present = nodeAt(read(text), path);
        fc.pre(present?.kind === "word");
        const after = edits.set(text, path, value);
        expect(said(after)).toEqual(withValue(said(text), path, value));
        const own = present?.kind === "word" ? text.slice(present.from, present.to).split("\n").length : 0;
        expect(changedLines(text, after)[0]).toBeLessThanOrEqual(own);
        const kept = present?.kind === "word" && present.style === "block" ? text.slice(0, present.from) + text.slice(present.to) : text;
        expect(comments(after)).toEqual(expect.arrayContaining(comments(kept)));
      }),
      { numRuns: 300 },
    );
  });

  it("adds a key by new lines alone, or within the line of its braces", () => {
    fc.assert(
      fc.property(somewhere, newWords, ({ text, path }, value) => {
        const present = nodeAt(read(text), path);
        fc.pre(present?.kind === "mapping" && !present.entries.some(({ key }) => key === "added"));
        const after = edits.set(text, [...path, "added"], value);
        expect(said(after)).toEqual(withValue(said(text), [...path, "added"], value));
        expect(changedLines(text, after)[0]).toBeLessThanOrEqual(present?.kind === "mapping" && present.flow ? 1 : 0);
        expect(comments(after)).toEqual(expect.arrayContaining(comments(text)));
      }),
      { numRuns: 300 },
    );
  });

  it("removes what stands there and nothing else", () => {
    fc.assert(
      fc.property(somewhere, ({ text, path }) => {
        const after = edits.remove(text, path);
        const left = (from: unknown, [step, ...rest]: Path): unknown => {
          if (Array.isArray(from)) {
            const items = from.flatMap((one: unknown, index) => (index !== step ? [one] : rest.length === 0 ? [] : [left(one, rest)]));
            const kept = items.filter((one) => one !== undefined);
            return kept.length === 0 ? undefined : kept;
          }
          const { [String(step)]: below, ...others } = from as Record<string, unknown>;
          const inner = rest.length === 0 ? undefined : left(below, rest);
          const so = inner === undefined ? others : { ...(from as Record<string, unknown>), [String(step)]: inner };
          return Object.keys(so).length === 0 ? undefined : so;
        };
        const expected = left(said(text), path) as Record<string, unknown>;
        expect(said(after)).toEqual("routes" in expected || path.length === 1 ? expected : { ...expected, routes: {} });
        expect(changedLines(text, after)[1]).toBeLessThanOrEqual(1);
      }),
      { numRuns: 300 },
    );
  });

  it("moves a key without a change of what is said or noted", () => {
    fc.assert(
      fc.property(somewhere, fc.nat(5), ({ text, path }, target) => {
        const siblings = nodeAt(read(text), path.slice(0, -1));
        fc.pre(siblings?.kind === "mapping" && !siblings.flow);
        const before = siblings?.kind === "mapping" ? siblings.entries[target]?.key : undefined;
        const after = edits.move(text, path, before);
        expect(said(after)).toEqual(said(text));
        expect(comments(after).sort()).toEqual(comments(text).sort());
        expect(after.length).toBe(text.length);
      }),
      { numRuns: 300 },
    );
  });

  it("reads a text in pieces as it reads it whole", () => {
    fc.assert(
      fc.property(somewhere, newWords, ({ text, path }, value) => {
        const after = edits.set(text, path, value as Value);
        expect(said(after)).toEqual(data(moduleReader()(after)));
      }),
      { numRuns: 500 },
    );
  });
});
