import { describe, expect, it } from "vitest";
import moorings from "../../../demo/workspace/modules/moorings/v1/module.yaml?raw";
import { textEdits } from "../moduletext/edits";
import { moduleReader, nodeAt, wordAt } from "../moduletext/nodes";
import { moduleSchema, schemaOrder } from "../moduletext/schema";
import { actions, main, objection } from "./actions";
import { foundRoutes, nameOf, parametersOf, routesOf, selectionOf, usersOf } from "./routes";
import type { Files } from "./work";

const read = moduleReader();
const act = actions(read, textEdits(read, schemaOrder(moduleSchema)));
const files: Files = { [main]: moorings, "basins.sql": "select 1", "booking.sql": "select 2", "change-booking.sql": "update x" };
const rootOf = (from: Files) => read(from[main] ?? "");
const names = (from: Files) => routesOf(rootOf(from)).flatMap(({ path, operations }) => operations.map(({ method }) => `${method} ${path}`));

describe("the buttons of the module page", () => {
  it("add an operation with a statement to begin with", () => {
    const more = act.add(files, "get", "/piers/{pierId}", "row");
    expect(names(more)).toEqual([...names(files), "get /piers/{pierId}"]);
    expect(more["get-piers-pierid.sql"]).toBe("select 1 as id\n");
    expect(more[main]).toMatch(/\n\n {2}\/piers\/\{pierId\}:\n {4}get:\n {6}about: Say what it does\n {6}sql: get-piers-pierid.sql\n {6}answer: row\n$/);
    expect(objection(read, more, "get", "/piers/{pierId}")).toContain("there already");
    expect(objection(read, more, "put", "piers")).toContain("begins with");
  });

  it("duplicate an operation with copies of its statements", () => {
    const more = act.duplicate(files, { part: "operation", route: "/bookings/{bookingId}", method: "patch" }, "put", "/stays/{bookingId}");
    expect(more["booking-2.sql"]).toBe("select 2");
    expect(more["change-booking-2.sql"]).toBe("update x");
    expect(wordAt(rootOf(more), ["routes", "/stays/{bookingId}", "put", "steps", "booking", "sql"])).toBe("booking-2.sql");
    expect(more[main]).toContain('about: null removes it }\n    delete:');
  });

  it("remove an operation with the statements that nothing else uses", () => {
    const less = act.drop(files, { part: "operation", route: "/bookings/{bookingId}", method: "patch" });
    expect(Object.keys(less)).toEqual([main, "basins.sql", "booking.sql"]);
    expect(nodeAt(rootOf(act.drop(files, { part: "operation", route: "/basins", method: "get" })), ["routes", "/basins"])).toBeUndefined();
  });

  it("move a route or an operation one place", () => {
    const down = act.shift(files, { part: "route", route: "/basins" }, 1);
    expect(routesOf(rootOf(down)).map(({ path }) => path).slice(0, 2)).toEqual(["/berths", "/basins"]);
    expect(act.shift(down, { part: "route", route: "/basins" }, -1)).toEqual(files);
    expect(act.shift(files, { part: "route", route: "/basins" }, -1)).toBe(files);
    const first = act.shift(files, { part: "operation", route: "/bookings", method: "post" }, -1);
    expect(names(first).filter((name) => name.endsWith(" /bookings"))).toEqual(["post /bookings", "get /bookings", "delete /bookings"]);
  });
});

describe("the tree", () => {
  it("finds operations by any word of them", () => {
    const found = foundRoutes(routesOf(rootOf(files)), "cancel BOOKING");
    expect(found).toMatchObject([{ path: "/bookings/{bookingId}", operations: [{ method: "delete" }] }]);
  });

  it("names what is looked at as addresses and findings do", () => {
    const routes = routesOf(rootOf(files));
    for (const name of ["", "/berths", "GET /berths", "DELETE /bookings/{bookingId}"]) {
      expect(nameOf(selectionOf(name, routes))).toBe(name);
    }
    expect(selectionOf("GET /nowhere", routes)).toEqual({ part: "module" });
    expect(selectionOf("PUT /berths", routes)).toEqual({ part: "route", route: "/berths" });
  });

  it("knows who uses a statement, and what an operation asks for", () => {
    expect(usersOf(rootOf(files)).get("booking.sql")).toEqual(["POST /bookings", "GET /bookings/{bookingId}", "PATCH /bookings/{bookingId}"]);
    expect(parametersOf(nodeAt(rootOf(files), ["routes", "/berths/search", "post"]))).toMatchObject([
      { bind: "basins", in: "body", example: "Heron Pool,Alder Basin" },
      { bind: "length", required: true },
      { bind: "beam", example: "3.2" },
      { bind: "power", choices: ["true", "false"] },
    ]);
    expect(parametersOf(nodeAt(rootOf(files), ["routes", "/bookings/{bookingId}", "patch"])).at(-1)).toMatchObject({ bind: "If-Match", example: "*", required: true });
  });
});
