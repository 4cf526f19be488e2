import { describe, expect, it } from "vitest";
import type { Look } from "../api/http";
import { type Draft, moduleText, operationYaml, parametersOf, statementFile } from "./draft";

const draft: Draft = {
  source: "waterways",
  sql: "select id from berth where length_m >= :least and id in (:ids)",
  answer: "rows",
  order: "id",
  parameters: [
    { name: "least", limits: "type: number", list: false, optional: false },
    { name: "ids", limits: "type: integer, minimum: 0", list: true, optional: true },
  ],
  base: undefined,
};

const look: Look = {
  kind: "query",
  line: 0,
  column: 0,
  binds: [
    { name: "least", optional: true, list: false, limits: "type: number" },
    { name: "basin", optional: false, list: false, limits: "type: string, maxLength: 60", where: "basin.name" },
  ],
  fields: [],
  order: [],
};

describe("a draft", () => {
  it("becomes an operation to take along", () => {
    expect(operationYaml(draft)).toEqual([
      "get:",
      "  about: Say what it answers",
      "  sql: statement.sql",
      "  answer: rows",
      "  order: [id]",
      "  parameters:",
      "    least: { in: query, type: number, required: true }",
      "    ids: { in: query, type: array, items: { type: integer, minimum: 0 } }",
    ]);
    expect(operationYaml({ ...draft, answer: "row", parameters: [] })).toHaveLength(4);
  });

  it("becomes a module of its own, or takes a live statement's place", () => {
    expect(moduleText(draft).files["module.yaml"]).toContain("  /statement:\n    get:\n");
    expect(statementFile(draft)).toBe("workbench/statement.sql");
    const files = { "module.yaml": "module: m", "a.sql": "old", "b.sql": "kept" };
    const live = { ...draft, base: { folder: "modules/m/v1", files, method: "GET", path: "/a", sqlFile: "a.sql" } };
    expect(moduleText(live)).toEqual({ folder: "modules/m/v1", files: { ...files, "a.sql": draft.sql } });
    expect(statementFile(live)).toBe("modules/m/v1/a.sql");
  });

  it("follows the catalog until somebody says otherwise", () => {
    const before = [{ name: "least", limits: "type: integer", list: false, optional: false }];
    expect(parametersOf(look, before, new Set())[0]).toEqual({ name: "least", limits: "type: number", list: false, optional: true });
    expect(parametersOf(look, before, new Set(["least"]))[0]?.limits).toBe("type: integer");
    expect(parametersOf(look, before, new Set()).map((one) => one.name)).toEqual(["least", "basin"]);
  });
});
