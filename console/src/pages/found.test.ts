import { describe, expect, it } from "vitest";
import type { Module, Operation } from "../api/http";
import { found } from "./found";

const operation = (method: Operation["method"], path: string, about: string) => ({ method, path, about }) as Operation;

const moorings = {
  name: "moorings",
  major: 1,
  title: "Berths and bookings",
  source: "waterways",
  operations: [operation("GET", "/berths", "Berths free for a whole stay"), operation("POST", "/bookings", "Book a berth")],
} as Module;
const tolls = { name: "tolls", major: 1, title: "Tolls", source: "waterways", operations: [operation("GET", "/toll", "The toll")] } as Module;

describe("what is looked for among modules", () => {
  it("is everything without a word", () => {
    expect(found([moorings, tolls], "  ")).toEqual([moorings, tolls]);
  });

  it("is a module with all of its operations, by its own words", () => {
    expect(found([moorings, tolls], "TOLLS/v1")).toEqual([tolls]);
    expect(found([moorings, tolls], "waterways berths")).toEqual([moorings]);
  });

  it("is an operation, by method, path or sentence", () => {
    expect(found([moorings, tolls], "post")).toEqual([{ ...moorings, operations: [moorings.operations[1]] }]);
    expect(found([moorings, tolls], "whole stay")).toEqual([{ ...moorings, operations: [moorings.operations[0]] }]);
  });

  it("is nothing where no module holds every word", () => {
    expect(found([moorings, tolls], "toll berth")).toEqual([]);
  });
});
