import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { begin, type Files, type Work, workReducer } from "./work";

const type = (work: Work, files: Files, at: number, place = "GET /quays"): Work => workReducer(work, { event: "changed", files, place, at });
const undo = (work: Work): Work => workReducer(work, { event: "undone" });
const redo = (work: Work): Work => workReducer(work, { event: "redone" });

describe("steps", () => {
  it("are one for a word that is typed, and another after a pause", () => {
    let work = begin({ "a.sql": "" });
    for (const [index, text] of ["s", "se", "sel", "se", "sel"].entries()) {
      work = type(work, { "a.sql": text }, index * 100);
    }
    work = type(work, { "a.sql": "sel 1" }, 5000);
    expect(work.past.length).toBe(2);
    expect(undo(work).files).toEqual({ "a.sql": "sel" });
    expect(undo(undo(work)).files).toEqual({ "a.sql": "" });
    expect(redo(redo(undo(undo(work)))).files).toEqual({ "a.sql": "sel 1" });
  });

  it("are apart for the text and a form, and for two operations", () => {
    let work = begin({ "module.yaml": "about: x", "a.sql": "1" });
    work = type(work, { "module.yaml": "about: xy", "a.sql": "1" }, 0);
    work = type(work, { "module.yaml": "about: xy", "a.sql": "12" }, 10);
    work = type(work, { "module.yaml": "about: xy", "a.sql": "123" }, 20, "GET /piers");
    expect(work.past.length).toBe(3);
  });

  it("are forgotten ahead once something else is done", () => {
    const work = type(undo(type(begin({ a: "1" }), { a: "12" }, 0)), { a: "13" }, 1);
    expect(redo(work)).toBe(work);
  });

  it("go back over any changes to where they began, and forth again", () => {
    const names = fc.constantFrom("module.yaml", "a.sql", "b.sql");
    const anyFiles = fc.dictionary(names, fc.string(), { maxKeys: 3 });
    fc.assert(
      fc.property(anyFiles, fc.array(fc.tuple(anyFiles, fc.nat(900))), (start, changes) => {
        let work = begin(start);
        let at = 0;
        for (const [files, pause] of changes) {
          at += pause;
          work = type(work, files, at);
          expect(work.files).toEqual(files);
        }
        const end = work.files;
        const steps = work.past.length;
        for (let step = 0; step < steps; step++) {
          work = undo(work);
        }
        expect(work.files).toEqual(start);
        for (let step = 0; step < steps; step++) {
          work = redo(work);
        }
        expect(work.files).toEqual(end);
      }),
    );
  });
});
