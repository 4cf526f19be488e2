import { expect, it } from "vitest";
import { quotaWords } from "./quotaWords";

it("says what is bounded and nothing of the rest", () => {
  expect(quotaWords(undefined)).toBe("none");
  expect(quotaWords({ calls: 1000, perSeconds: 60 })).toBe("1000 calls in 60 s");
  expect(quotaWords({ concurrent: 5 })).toBe("5 at a time");
  expect(quotaWords({ calls: 10, perSeconds: 1, concurrent: 2 })).toBe("10 calls in 1 s, 2 at a time");
});
