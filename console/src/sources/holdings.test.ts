import { describe, expect, it } from "vitest";
import type { Contents } from "../api/http";
import { holdings, matching } from "./holdings";

const contents: Contents = {
  source: "waterways",
  schema: "waterways",
  readAt: "2031-05-01T00:00:00Z",
  relations: ["berth", "booking", "passage_log"].map((name) => ({
    name,
    kind: name.endsWith("log") ? "view" : "table",
    about: "",
    columns: [
      { name: name === "booking" ? "berth_id" : "id", type: "int", nullable: false, generated: false, numbered: false, about: "" },
    ],
    indexes: [],
    foreignKeys: [],
    statement: "",
  })),
  routines: [{ name: "book_berth", kind: "procedure", access: "modifies-data", about: "Books", parameters: [], statement: "" }],
};

describe("holdings", () => {
  it("lists tables, views and routines", () => {
    expect(holdings(contents).map((one) => `${one.name} ${one.kind}`)).toEqual([
      "berth table",
      "booking table",
      "passage_log view",
      "book_berth procedure",
    ]);
  });

  it("finds by name before column, and by every word", () => {
    const all = holdings(contents);
    expect(matching(all, "berth").map((one) => one.name)).toEqual(["berth", "book_berth", "booking"]);
    expect(matching(all, "BOOK berth").map((one) => one.name)).toEqual(["booking", "book_berth"]);
    expect(matching(all, "nothing")).toEqual([]);
    expect(matching(all, " ")).toHaveLength(4);
  });
});
