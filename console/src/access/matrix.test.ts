import { describe, expect, it } from "vitest";
import type { Credential, Operation, Role } from "../api/http";
import { lastUse } from "./lastUse";
import { holds, opens } from "./matrix";

const role = (...held: string[]): Role => ({ name: "r", holds: held, from: "here", holders: 0 });
const operation = (access: Operation["access"], ...needs: string[]) => ({ access, needs }) as Operation;

describe("what a role holds", () => {
  it("is a privilege by its name, by its group, or every one", () => {
    expect(holds(role("moorings.book"), "moorings.book")).toBe(true);
    expect(holds(role("moorings.book"), "moorings.booking")).toBe(false);
    expect(holds(role("moorings.*"), "moorings.book")).toBe(true);
    expect(holds(role("moorings.*"), "mooringsextra.book")).toBe(false);
    expect(holds(role("*"), "tidy.publish")).toBe(true);
  });
});

describe("what a role opens", () => {
  it("says by which privilege", () => {
    expect(opens(role("moorings.*"), operation("protected", "tolls.read", "moorings.read"))).toBe("moorings.read");
    expect(opens(role("tolls.write"), operation("protected", "tolls.read"))).toBeUndefined();
  });
  it("tells what is open and what is closed from it", () => {
    expect(opens(role(), operation("open"))).toBe("open");
    expect(opens(role("moorings.*"), operation("closed"))).toBeUndefined();
    expect(opens(role("*"), operation("closed"))).toBe("every privilege");
  });
});

describe("the last use of an application", () => {
  it("is the latest of its keys", () => {
    const key = (used: { usedAt?: string }): Credential => ({ name: "k", id: "1", createdAt: "2031-01-01T00:00:00Z", ended: false, ...used });
    expect(lastUse([key({ usedAt: "2031-05-01T00:00:00Z" }), key({}), key({ usedAt: "2031-06-01T00:00:00Z" })])).toBe("2031-06-01T00:00:00Z");
    expect(lastUse([key({})])).toBeUndefined();
  });
});
