import { describe, expect, it } from "vitest";
import type { Module, Operation } from "../api/http";
import { counts, differences, rehearsalRequest, type TableChanges, wholeRows } from "./rehearsal";

const table: TableChanges = {
  table: "booking",
  inserted: 1,
  changed: 1200,
  deleted: 0,
  rows: [
    {
      kind: "changed",
      fields: [
        { name: "id", key: true, before: "7", after: "7" },
        { name: "note", key: false, before: null, after: "Dog on board" },
        { name: "status", key: false, before: "requested", after: "requested" },
      ],
    },
    { kind: "inserted", fields: [{ name: "id", key: true, before: null, after: "8" }] },
  ],
};

describe("a rehearsal", () => {
  it("shows the fields that differ, with the row's key", () => {
    expect(differences(table)).toEqual([{ row: "7", field: "note", before: null, after: "Dog on board" }]);
  });

  it("shows rows that came and went as a whole", () => {
    expect(wholeRows(table, "inserted")).toEqual([{ id: "8" }]);
    expect(wholeRows(table, "deleted")).toEqual([]);
    expect(counts(table)).toBe("1 inserted, 1,200 changed");
  });

  it("sends what was typed, the body as a call would have it", () => {
    const operation = {
      method: "PATCH",
      path: "/bookings/{bookingId}",
      parameters: [
        { name: "bookingId", bind: "bookingId", in: "path", type: "integer", required: true, allowed: [] },
        { name: "If-Match", bind: "If-Match", in: "header", type: "string", required: true, allowed: [] },
        { name: "/note", bind: "note", in: "body", type: "string", required: false, allowed: [] },
      ],
    } as unknown as Operation;
    const module = { name: "moorings", major: 1 } as Module;
    expect(rehearsalRequest(module, operation, { bookingId: "7", "If-Match": "*", "/note": "null" })).toEqual({
      live: "moorings/v1",
      method: "PATCH",
      path: "/bookings/{bookingId}",
      inputs: { bookingId: "7", "If-Match": "*" },
      body: '{"note":null}',
    });
  });
});
