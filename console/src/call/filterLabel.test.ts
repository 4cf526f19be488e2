import { expect, it } from "vitest";
import { filterLabel } from "./filterLabel";

it("says a condition as people read it", () => {
  expect(filterLabel("length_m[gte]")).toBe("length_m \u2265");
  expect(filterLabel("berth.berth_no[in]")).toBe("berth.berth_no is one of");
  expect(filterLabel("odd")).toBe("odd");
});
