import { describe, expect, it } from "vitest";
import { moduleSchema, schemaAt } from "../moduletext/schema";
import { keysOf } from "../moduletext/shape";
import { groupsOfModule, groupsOfOperation } from "./groups";

const operation = schemaAt(moduleSchema, ["routes", "/", "get"]) ?? {};

describe("the forms", () => {
  it("have a place for everything that an operation and a module can say", () => {
    const keys = keysOf(operation, moduleSchema).map(({ key }) => key);
    const shown = groupsOfOperation(keysOf(operation, moduleSchema)).flatMap((group) => group.keys.map(({ key }) => key));
    expect([...shown].sort()).toEqual([...keys].sort());
    expect(groupsOfOperation(keysOf(operation, moduleSchema)).map(({ title }) => title)).not.toContain("More");
    const ofModule = groupsOfModule(keysOf(moduleSchema, moduleSchema)).flatMap((group) => group.keys.map(({ key }) => key));
    expect([...ofModule, "routes"].sort()).toEqual(Object.keys(moduleSchema.properties ?? {}).sort());
  });

  it("show each key by what it can be", () => {
    const shapes = Object.fromEntries(keysOf(operation, moduleSchema).map(({ key, shape }) => [key, shape.kind]));
    expect(shapes).toMatchObject({
      about: "text",
      answer: "choice",
      order: "list",
      needs: "list",
      page: "group",
      parameters: "named",
      steps: "named",
      preview: "flag",
      tag: "anything",
      deprecated: "anything",
      quota: "group",
    });
  });

  it("know all that a parameter can say, in the order of the text", () => {
    const parameter = schemaAt(moduleSchema, ["routes", "/", "get", "parameters", "any"]) ?? {};
    const keys = keysOf(parameter, moduleSchema).map(({ key }) => key);
    expect(keys.slice(0, 4)).toEqual(["in", "name", "pointer", "type"]);
    expect(keys.indexOf("minimum")).toBeLessThan(keys.indexOf("required"));
    expect(keys.at(-1)).toBe("deprecated");
  });
});
