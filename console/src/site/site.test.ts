import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addressOf, headersOf, type Typed } from "./call";
import { inLines } from "./json";

const input = (place: string, name: string, value: string, list = false): Typed => ({ place, name, value, list });

describe("a call from the page", () => {
  it("fills placeholders and sends what is typed, and nothing that is empty", () => {
    expect(
      addressOf("/api/quays/v1/quays/{quayId}/cranes", [
        input("path", "quayId", "A/1 ä"),
        input("query", "day", "2031-05-01"),
        input("query", "name[starts]", "a&b"),
        input("query", "limit", ""),
        input("query", "ids", "1, 2", true),
        input("header", "If-Match", '"x"'),
      ]),
    ).toBe("/api/quays/v1/quays/A%2F1%20%C3%A4/cranes?day=2031-05-01&name%5Bstarts%5D=a%26b&ids=1&ids=2");
  });

  it("shows a credential only when there is one", () => {
    expect(headersOf([input("header", "If-Match", '"x"'), input("header", "X-Quay", "")], "", undefined)).toEqual({ "If-Match": '"x"' });
    expect(headersOf([], "k", "application/json")).toEqual({ Authorization: "Bearer k", "Content-Type": "application/json" });
  });
});

describe("JSON in lines", () => {
  it("keeps every digit", () => {
    expect(inLines('{"a":34.20,"b":[12345678901234567890,1e3],"c":{},"d":[]}')).toBe(
      '{\n  "a": 34.20,\n  "b": [\n    12345678901234567890,\n    1e3\n  ],\n  "c": {},\n  "d": []\n}',
    );
  });

  it("is the same value for any JSON, and anything else as it is", () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const text = JSON.stringify(value);
        expect(JSON.stringify(JSON.parse(inLines(text)))).toBe(JSON.stringify(JSON.parse(text)));
      }),
    );
    expect(inLines("a,b\n1,2")).toBe("a,b\n1,2");
  });
});
