import { describe, expect, it } from "vitest";
import { choiceReducer, moduleName, nothingChosen, requestFor } from "./choices";
import { chosenNow, kindOf, matchedOf, pathOf, titleOf, withColumn } from "./documents";

const operation = {
  operation: "GET /berths",
  about: "",
  table: "berth",
  names: [
    { name: "id", type: "integer", shown: true, sent: false, column: "id" },
    { name: "place", type: "string", shown: true, sent: false, column: "" },
  ],
};

describe("documents that texts are made from", () => {
  it("tell what they are", () => {
    expect(kindOf('{"info":{},"openapi":"3.1.0"}')).toBe("openapi");
    expect(kindOf("openapi: 3.0.3\n")).toBe("openapi");
    expect(kindOf('[{"id":1}]')).toBe("sample");
    expect(kindOf("hello")).toBe("openapi");
    expect(titleOf('{"info":{"title":"Stays of boats","version":"1"}}')).toBe("Stays of boats");
    expect(titleOf("openapi: 3.1.0\ninfo: { title: Stays, version: 1 }")).toBe("Stays");
    expect(titleOf("[1]")).toBe("");
    expect(pathOf("Our Berths.v2.json")).toBe("/our-berths.v2");
    expect(pathOf("???")).toBe("/rows");
  });

  it("say nothing of the columns that nobody chose, as a proposal may come later", () => {
    const first = withColumn(undefined, "berth", "place", "berth_no");
    expect(first).toEqual({ table: "berth", columns: { place: "berth_no" } });
    expect(withColumn(first, "berth", "id", "")).toEqual({ table: "berth", columns: { id: "", place: "berth_no" } });
    expect(withColumn(first, "basin", "id", "no")).toEqual({ table: "basin", columns: { id: "no" } });
    expect(matchedOf(chosenNow(operation, first))).toBe("2 of 2");
    expect(chosenNow(operation, { table: "basin" }).names.map(({ column }) => column)).toEqual(["", ""]);
    expect(matchedOf(operation)).toBe("1 of 2");
    expect(matchedOf({ ...operation, table: "" })).toBe("to be written");
  });

  it("are asked for with what was matched, which another text takes away", () => {
    const read = choiceReducer(nothingChosen("waterways"), { event: "document", wish: { text: "openapi: 3.1.0\ninfo: { title: Stays }" } });
    expect(moduleName(read)).toBe("stays");
    const matched = choiceReducer(read, { event: "match", operation: "GET /berths", match: { table: "berth" } });
    expect(requestFor(matched)).toMatchObject({ document: { kind: "openapi", matches: [{ operation: "GET /berths", table: "berth" }] } });
    const other = choiceReducer(matched, { event: "document", wish: { text: '[{"id":1}]', kind: "sample", path: "/places" } });
    expect(requestFor(other)).toMatchObject({ document: { kind: "sample", path: "/places", matches: [] } });
    expect(moduleName(other)).toBe("places");
  });
});
