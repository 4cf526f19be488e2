import { describe, expect, it } from "vitest";
import type { Module, Operation } from "../api/http";
import { allModules, found, sieved, statesOf } from "./found";

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

describe("the choices beside words", () => {
  const plain = { source: "waterways", served: true, drift: [], publishedBy: "mara.holt" } as unknown as Module;
  const ending = { ...plain, source: "tolls", deprecated: {}, publishedBy: "joss.wren" } as Module;
  const broken = { ...plain, served: false, drift: [{ breaking: true, words: "gone" }] } as Module;
  const all = [plain, ending, broken];

  it("are what modules are", () => {
    expect(all.map(statesOf)).toEqual([["served"], ["served", "deprecated"], ["not served", "drifted"]]);
  });

  it("leave those that fit all of them", () => {
    expect(sieved(all, allModules)).toEqual(all);
    expect(sieved(all, { ...allModules, source: "tolls" })).toEqual([ending]);
    expect(sieved(all, { ...allModules, state: "drifted" })).toEqual([broken]);
    expect(sieved(all, { ...allModules, state: "served", publishedBy: "mara.holt" })).toEqual([plain]);
  });
});
