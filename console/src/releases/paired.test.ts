import { expect, test } from "vitest";
import { paired } from "./paired";

test("lines that are gone stand beside those in their place", () => {
  const same = { before: 1, now: 1, text: "a" };
  const gone = { before: 2, text: "b" };
  const alsoGone = { before: 3, text: "c" };
  const come = { now: 2, text: "B" };
  const after = { before: 4, now: 3, text: "d" };
  expect(paired([same, gone, alsoGone, come, after])).toEqual([
    { before: same, now: same },
    { before: gone, now: come },
    { before: alsoGone, now: undefined },
    { before: after, now: after },
  ]);
});

test("two changes without a line between them stay two", () => {
  const gone = { before: 1, text: "a" };
  const come = { now: 1, text: "A" };
  const goneNext = { before: 2, text: "b" };
  expect(paired([gone, come, goneNext])).toEqual([
    { before: gone, now: come },
    { before: goneNext, now: undefined },
  ]);
});

test("nothing is nothing", () => {
  expect(paired([])).toEqual([]);
});
