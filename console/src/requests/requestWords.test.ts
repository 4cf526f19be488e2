import { expect, test } from "vitest";
import { afterDay, lastDay, stateWords, whatIsAsked } from "./requestWords";

test("what ends with a day ends at its last moment", () => {
  expect(afterDay("2031-09-30")).toBe("2031-10-01T00:00:00.000Z");
  expect(lastDay("2031-10-01T00:00:00Z")).toBe("2031-09-30");
  expect(lastDay("2031-10-01T12:00:00Z")).toBe("2031-10-01");
  expect(afterDay("")).toBeUndefined();
  expect(afterDay(undefined)).toBeUndefined();
});

test("a request is told in words", () => {
  expect(whatIsAsked({ kind: "team" })).toBe("asks to become a client team");
  expect(whatIsAsked({ kind: "privileges", module: "moorings/v1" })).toBe("asks for moorings/v1");
  expect(stateWords({ state: "waiting" })).toBe("waits for an answer");
  expect(stateWords({ state: "allowed", endsAt: "2031-10-01T00:00:00Z" })).toBe("allowed, the last day is 2031-09-30");
});
