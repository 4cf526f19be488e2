import { describe, expect, it } from "vitest";
import { type ChoiceEvent, choiceReducer, moduleName, moduleTitle, nothingChosen, requestFor } from "./choices";

const chosen = (...events: ChoiceEvent[]) => events.reduce(choiceReducer, nothingChosen("waterways"));
const isView = (name: string) => name.endsWith("_view");

describe("choices for a first text", () => {
  it("ask for everything of a table and for reading a view", () => {
    const request = requestFor(chosen({ event: "tables", names: ["Order Lines", "toll_view"], isView }));
    expect(request).toEqual({
      source: "waterways",
      module: "order-lines",
      title: "Order lines",
      tables: [
        { name: "Order Lines", deeds: ["list", "read", "add", "change", "remove"], columns: [], parents: false },
        { name: "toll_view", deeds: ["list", "read"], columns: [], parents: false },
      ],
      routines: [],
    });
    expect(requestFor(nothingChosen("waterways"))).toBeUndefined();
  });

  it("keep what was wished of a table while others come and go", () => {
    const choices = chosen(
      { event: "tables", names: ["berth"], isView },
      { event: "wish", table: "berth", wish: { deeds: ["list"], columns: ["id"], parents: true } },
      { event: "tables", names: ["berth", "basin"], isView },
      { event: "named", module: "quays" },
      { event: "reach", of: "reads", reach: { kind: "everybody" } },
      { event: "reach", of: "changes", reach: { kind: "privilege", privilege: "quays.change" } },
    );
    expect(choices.tables["berth"]).toEqual({ deeds: ["list"], columns: ["id"], parents: true });
    expect(moduleName(choices)).toBe("quays");
    expect(moduleTitle(choices)).toBe("Quays");
    expect(requestFor(choices)).toMatchObject({ reads: { everybody: true }, changes: { privilege: "quays.change" } });
  });

  it("take routines and a statement", () => {
    const choices = chosen({ event: "routines", names: ["toll_due"] }, { event: "statement", sql: "select 1 as id" }, { event: "statement", path: " /one " });
    expect(requestFor(choiceReducer(choices, { event: "results", results: { toll_due: 2 } }))).toMatchObject({ results: { toll_due: 2 } });
    expect(moduleName(choices)).toBe("toll-due");
    expect(requestFor(choices)).toMatchObject({ routines: ["toll_due"], statement: { sql: "select 1 as id", path: "/one" } });
  });

  it("begin anew with another source", () => {
    const choices = chosen({ event: "tables", names: ["berth"], isView }, { event: "named", module: "quays" }, { event: "source", source: "tolls" });
    expect(choices).toMatchObject({ source: "tolls", tables: {}, module: "quays" });
  });

  it("leave an unnamed privilege out, and are added to a text without a name", () => {
    const choices = chosen({ event: "tables", names: ["berth"], isView }, { event: "reach", of: "reads", reach: { kind: "privilege", privilege: "" } });
    const request = requestFor(choices, { folder: "x", files: {} });
    expect(request).not.toHaveProperty("reads");
    expect(request).not.toHaveProperty("module");
    expect(request).toHaveProperty("text");
  });
});
