import { describe, expect, it } from "vitest";
import type { Operation, Parameter } from "../api/http";
import { allRowsAddress, callAddress, callHeaders, curlLine, exampleInputs, inFormat, sortedAddress, startingInputs } from "./address";

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
  offers: { sorts: [], fields: [], formats: [], all: false },
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

  it("takes the first choice of what must be chosen and has no example", () => {
    const choosing = {
      ...operation,
      parameters: [
        parameter({ name: "direction", in: "body", required: true, allowed: ["up", "down"] }),
        parameter({ name: "urgent", in: "body", required: true, type: "boolean" }),
        parameter({ name: "state", in: "query", allowed: ["open"] }),
      ],
    };
    expect(exampleInputs(choosing)).toEqual({ direction: "up", urgent: "true" });
  });

  it("makes a line that survives a shell", () => {
    const headers = callHeaders(operation, { "X-Quay": "north" });
    expect(curlLine("GET", "http://localhost:8480", "/api/x?name=it's", headers)).toBe(
      "curl -H 'X-Quay: north' 'http://localhost:8480/api/x?name=it'\\''s'",
    );
    expect(curlLine("DELETE", "http://localhost:8480", "/api/x", {})).toBe("curl -X DELETE 'http://localhost:8480/api/x'");
  });
});

describe("the same call", () => {
  const jumping: Operation = {
    ...operation,
    parameters: [parameter({ name: "from", in: "query", own: true }), parameter({ name: "last", in: "query", own: true })],
  };

  it("in another format", () => {
    const address = "/api/m/v1/berths?basin=Heron%20Pool&limit=5&after=x";
    expect(inFormat(address, "csv")).toBe("/api/m/v1/berths?basin=Heron%20Pool&limit=5&after=x&format=csv");
  });

  it("with all rows, wherever the page began", () => {
    expect(allRowsAddress(jumping, "/api/m/v1/berths?last=true&limit=5", "xlsx")).toBe("/api/m/v1/berths?limit=all&format=xlsx");
    expect(allRowsAddress(jumping, "/api/m/v1/berths?after=x", "csv")).toBe("/api/m/v1/berths?limit=all&format=csv");
  });

  it("sorted, with its own parameters as they are", () => {
    expect(sortedAddress(operation, "/api/m/v1/berths?from=2031-05-01&after=x", "-rate")).toBe(
      "/api/m/v1/berths?from=2031-05-01&sort=-rate",
    );
    expect(sortedAddress(jumping, "/api/m/v1/berths?from=7&sort=rate", "")).toBe("/api/m/v1/berths");
  });
});
