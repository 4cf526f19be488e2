import { describe, expect, it } from "vitest";
import type { Operation, Parameter } from "../api/http";
import { callBody } from "./body";

const parameter = (name: string, type: Parameter["type"], itemType?: string): Parameter => ({
  name,
  bind: "p",
  in: "body",
  type,
  required: false,
  allowed: [],
  ...(itemType === undefined ? {} : { itemType }),
});

const operation = (...parameters: Parameter[]): Operation => ({
  method: "POST",
  path: "/berths/search",
  answer: "rows",
  sqlFile: "a.sql",
  sql: "select 1",
  steps: [],
  access: "open",
  needs: [],
  changes: false,
  offers: { sorts: [], fields: [], formats: [], all: false },
  filters: [],
  fields: [],
  order: [],
  timeoutMillis: 10000,
  parameters,
});

describe("the body of a call", () => {
  it("is put together by pointers, with types", () => {
    const search = operation(
      parameter("/basins", "array", "string"),
      parameter("/locks", "array", "integer"),
      parameter("/vessel/length_m", "number"),
      parameter("/vessel/a~1b", "boolean"),
      parameter("/note", "string"),
    );
    const inputs = { "/basins": "Heron Pool, Alder Basin", "/locks": "1,2", "/vessel/length_m": "11.5", "/vessel/a~1b": "true" };
    expect(JSON.parse(callBody(search, inputs)?.text ?? "")).toEqual({
      basins: ["Heron Pool", "Alder Basin"],
      locks: [1, 2],
      vessel: { length_m: 11.5, "a/b": true },
    });
  });

  it("is an array of one row for an operation that takes many", () => {
    expect(callBody({ ...operation(parameter("/n", "number")), batch: true }, { "/n": "1" })?.text).toBe('[{"n":1}]');
  });

  it("keeps what does not fit as it was typed, for the service to judge", () => {
    expect(callBody(operation(parameter("/n", "number")), { "/n": "soon" })?.text).toBe('{"n":"soon"}');
  });

  it("can be taken as a whole, as a form, or be none at all", () => {
    expect(callBody(operation(parameter("", "object")), { "": '{"a":1}' })?.text).toBe('{"a":1}');
    const form = { ...parameter("tag", "array"), in: "form" as const };
    expect(callBody(operation(form), { tag: "a,b" })).toEqual({
      mediaType: "application/x-www-form-urlencoded",
      text: "tag=a&tag=b",
    });
    expect(callBody(operation(), {})).toBeUndefined();
  });
});
