import { expect, test } from "vitest";
import { directionOf, sortBy } from "./sorting";

test("a column shows the way it is sorted", () => {
  expect(directionOf("-nightly_rate,basin", "nightly_rate")).toBe("descend");
  expect(directionOf("nightly_rate", "nightly_rate")).toBe("ascend");
  expect(directionOf("-nightly_rate,basin", "basin")).toBeNull();
  expect(directionOf("", "basin")).toBeNull();
});

test("a click is a sort", () => {
  expect(sortBy("basin", "ascend")).toBe("basin");
  expect(sortBy("basin", "descend")).toBe("-basin");
  expect(sortBy("basin", null)).toBe("");
});
