import fc from "fast-check";
import { expect, it } from "vitest";
import { read, written } from "./start";

it("keeps every byte of a text, however its lines end", () => {
  const line = fc.constantFrom("\r\n", "\n", "\r", "a", "é", " ", "#");
  const file = fc.array(line).map((parts) => parts.join(""));
  fc.assert(
    fc.property(fc.dictionary(fc.constantFrom("module.yaml", "a.sql"), file), (files) => {
      const start = read({ folder: "x", files });
      expect(written(start, start.files)).toEqual({ folder: "x", files });
    }),
  );
  expect(read({ folder: "x", files: { "a.sql": "select 1\r\nfrom a\r\n" } }).files).toEqual({ "a.sql": "select 1\nfrom a\n" });
});
