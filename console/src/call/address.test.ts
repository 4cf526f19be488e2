import { describe, expect, it } from "vitest";
import type { Operation, Parameter } from "../api/http";
import { callAddress, callHeaders, curlLine, exampleInputs, startingInputs } from "./address";

const parameter = (part: Partial<Parameter> & Pick<Parameter, "name" | "in">): Parameter => ({
  type: "string",
  bind: part.name,
  required: false,
  allowed: [],
  ...part,
});

const operation: Operation = {
  method: "GET",
  path: "/basins/{basin}/berths",
  answer: "rows",
  sqlFile: "berths.sql",
  sql: "select 1",
  steps: [],
  access: "open",
  needs: [],
  changes: false,
  filters: [parameter({ name: "length_m[gte]", in: "query", type: "number" })],
  fields: [],
  order: [],
  page: { limit: 25, most: 200 },
  timeoutMillis: 10000,
  parameters: [
    parameter({ name: "basin", in: "path", required: true, example: "Cooper's Reach" }),
    parameter({ name: "from", in: "query", type: "date", required: true, example: "2031-05-01" }),
    parameter({ name: "minLength", in: "query", type: "number", example: "12.5" }),
    parameter({ name: "X-Quay", in: "header" }),
  ],
};

describe("the address of a call", () => {
  it("fills placeholders and leaves out what is not given", () => {
    const address = callAddress("/api/moorings/v1", operation, { basin: "a/b", from: "2031-05-01", minLength: "" });
    expect(address).toBe("/api/moorings/v1/basins/a%2Fb/berths?from=2031-05-01");
  });

  it("takes the page size along", () => {
    expect(callAddress("/api/m/v1", operation, { basin: "x", limit: "5" })).toBe("/api/m/v1/basins/x/berths?limit=5");
  });

  it("takes the conditions along", () => {
    expect(callAddress("/api/m/v1", operation, { basin: "x", "length_m[gte]": "12" })).toBe(
      "/api/m/v1/basins/x/berths?length_m%5Bgte%5D=12",
    );
  });

  it("starts from the examples of what is required, and can fill all of them", () => {
    expect(startingInputs(operation)).toEqual({ basin: "Cooper's Reach", from: "2031-05-01" });
    expect(exampleInputs(operation)).toEqual({ basin: "Cooper's Reach", from: "2031-05-01", minLength: "12.5" });
  });

  it("makes a line that survives a shell", () => {
    const headers = callHeaders(operation, { "X-Quay": "north" });
    expect(curlLine("GET", "http://localhost:8480", "/api/x?name=it's", headers)).toBe(
      "curl -H 'X-Quay: north' 'http://localhost:8480/api/x?name=it'\\''s'",
    );
    expect(curlLine("DELETE", "http://localhost:8480", "/api/x", {})).toBe("curl -X DELETE 'http://localhost:8480/api/x'");
  });
});
