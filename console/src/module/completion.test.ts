import { describe, expect, it } from "vitest";
import { optionsAt } from "./completion";

const known = { files: ["quays.sql", "quay.sql"], sources: ["waterways"], columns: ["id", "berth_no"] };
const head = "module: quays\nversion: 1.0.0\n";
const operation = `${head}routes:\n  /quays/{id}:\n    get:\n      answer: row\n`;
const labels = (before: string, behind = "") => optionsAt(before, behind, known).map(({ label }) => label);

describe("completion of module.yaml", () => {
  it("offers the keys that are not there yet, with what they are for", () => {
    expect(labels(head)).toContain("title");
    expect(labels(head)).not.toContain("module");
    expect(labels(`${operation}      `, "\n      sql: quay.sql\n    delete:\n")).toContain("parameters");
    expect(labels(`${operation}      `, "\n      sql: quay.sql\n    delete:\n")).not.toContain("sql");
    expect(labels(`${operation}    `)).toEqual(["needs", "public", "post", "put", "patch", "delete"]);
    expect(optionsAt(head, "", known).find(({ label }) => label === "title")).toMatchObject({ apply: "title: ", info: "The heading of the reference." });
  });

  it("offers words, files, sources and columns as values", () => {
    expect(labels(`${operation}      sql: `)).toEqual(["quays.sql", "quay.sql"]);
    expect(labels(`${head}source: `)).toEqual(["waterways"]);
    expect(labels(`${operation}      precondition: `)).toEqual(["optional", "required"]);
    expect(labels(`${operation}      order: [id, `)).toEqual(["id", "berth_no"]);
    expect(labels(`${operation}      formats: [csv, `)).toEqual(["json", "ndjson", "csv", "xlsx"]);
    expect(labels(`${head}public: `)).toEqual(["true", "false"]);
  });

  it("knows braces on a line", () => {
    const parameters = `${operation}      parameters:\n        id: `;
    expect(labels(`${parameters}{ in: `)).toContain("path");
    expect(labels(`${parameters}{ in: path, type: `)).toContain("date-time");
    expect(labels(`${parameters}{ in: path, `)).toContain("minimum");
    expect(labels(`${parameters}{ in: path, `)).not.toContain("in");
    expect(labels(`${head}page: { limit: 5, `)).toEqual(["most", "all", "most-all", "all-timeout", "jumps"]);
    expect(labels(`${operation}      filter: [berth_no: [eq, `)).toContain("starts");
  });

  it("offers the findings that can be accepted, and nothing in a comment", () => {
    expect(labels(`${head}accept:\n  `)).toContain("open-to-everybody");
    expect(labels(`${head}accept:\n  `)).not.toContain("yaml-broken");
    expect(labels(`${head}title: x # `)).toEqual([]);
    expect(labels(`${head}title: Quays and `)).toEqual([]);
  });
});
