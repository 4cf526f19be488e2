import { describe, expect, it } from "vitest";
import type { Finding, Look } from "../api/http";
import { diagnostics, spot } from "./diagnostics";

const sql = "select id\nfrom berth where basin = :basin";

const finding: Finding = {
  code: "bind-undefined",
  severity: "error",
  file: "workbench/statement.sql",
  line: 2,
  column: 26,
  message: "':basin' has no parameter.",
  remedy: "Add one.",
};

const broken: Look = { line: 1, column: 1, trouble: "It cannot be read.", binds: [], fields: [], order: [] };

describe("what is underlined", () => {
  it("is the word at the place", () => {
    expect(sql.slice(...Object.values(spot(sql, 2, 26)))).toBe(":basin");
    expect(sql.slice(...Object.values(spot(sql, 0, 0)))).toBe("select id");
    expect(spot("", 3, 9)).toEqual({ from: 1, to: 1 });
  });

  it("comes from the findings about the statement", () => {
    const other = { ...finding, file: "workbench/module.yaml" };
    const accepted = { ...finding, accepted: "known" };
    expect(diagnostics(sql, "workbench/statement.sql", [finding, other, accepted], undefined)).toEqual([
      { from: 35, to: 41, severity: "error", message: "':basin' has no parameter. Add one.", source: "bind-undefined" },
    ]);
  });

  it("is the trouble of reading it when no finding says so yet", () => {
    expect(diagnostics(sql, "workbench/statement.sql", [], broken)[0]?.message).toBe("It cannot be read.");
    expect(diagnostics(sql, "workbench/statement.sql", [finding], broken)).toHaveLength(1);
  });
});
