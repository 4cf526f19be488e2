import { describe, expect, it } from "vitest";
import { beginning, reduce, refusalOf, type SignInState } from "./signInState";

describe("signing in", () => {
  it("begins with the name, or with the link somebody came by", () => {
    expect(beginning("")).toEqual({ step: "name", busy: false });
    expect(beginning("abc")).toEqual({ step: "link", busy: true });
  });

  it("asks for the code of a second factor and keeps what was typed before", () => {
    const asked = reduce({ step: "name", busy: true }, { type: "factorNeeded", name: "mara", password: "secret" });
    expect(asked).toEqual({ step: "factor", busy: false, name: "mara", password: "secret" });
    expect(reduce(asked, { type: "failed", message: "wrong" })).toEqual({ ...asked, error: "wrong" });
  });

  it("forgets an error when something else is sent", () => {
    const failed: SignInState = { step: "token", busy: false, error: "wrong" };
    expect(reduce(failed, { type: "sent" })).toEqual({ step: "token", busy: true, error: undefined });
  });

  it("lets a person choose a password by a link, and falls back to the name when the link is used up", () => {
    expect(reduce(beginning("c"), { type: "linkOfPerson", code: "c", person: "mara" })).toEqual({
      step: "password",
      busy: false,
      code: "c",
      person: "mara",
    });
    expect(reduce(beginning("c"), { type: "linkFailed", message: "used" })).toEqual({ step: "name", busy: false, error: "used" });
  });
});

describe("coming back from a provider", () => {
  it("says why it came to nothing in words of our own, whatever the address says", () => {
    expect(refusalOf(null)).toBeUndefined();
    expect(refusalOf("conflict")).toContain("somebody else's");
    expect(refusalOf("<b>call 555-0100</b>")).toContain("did not say who you are");
  });
});
