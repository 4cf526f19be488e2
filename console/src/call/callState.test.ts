import { describe, expect, it } from "vitest";
import { type CallState, callReducer, fieldErrors, idle } from "./callState";
import { readAnswer } from "./readAnswer";

const collection = JSON.stringify({ data: [{ id: 1 }, { id: 2 }], page: { limit: 2, next: "/api/m/v1/x?after=abc" } });

describe("reading an answer", () => {
  it("takes rows and the next page from a collection", () => {
    const answer = readAnswer(200, 4, [], collection);
    expect(answer.rows).toEqual([{ id: 1 }, { id: 2 }]);
    expect(answer.next).toBe("/api/m/v1/x?after=abc");
    expect(answer.bytes).toBe(collection.length);
  });

  it("shows a single row as one row", () => {
    expect(readAnswer(200, 1, [], '{"id":7}').rows).toEqual([{ id: 7 }]);
  });

  it("keeps a problem apart from rows", () => {
    const answer = readAnswer(404, 1, [], '{"title":"Nothing found","detail":"Nothing.","status":404,"type":"/problems/x"}');
    expect(answer.rows).toEqual([]);
    expect(answer.problem?.title).toBe("Nothing found");
  });

  it("survives a body that is no JSON", () => {
    expect(readAnswer(502, 1, [], "<html>").problem).toBeUndefined();
  });
});

describe("the state of a call", () => {
  const calling = callReducer(idle, { event: "called", address: "/a", page: 1 });

  it("goes from calling to answered", () => {
    const answered = callReducer(calling, { event: "answered", address: "/a", answer: readAnswer(200, 1, [], "{}") });
    expect(answered.state).toBe("answered");
  });

  it("drops the answer to an older call", () => {
    const newer = callReducer(calling, { event: "called", address: "/b", page: 1 });
    expect(callReducer(newer, { event: "answered", address: "/a", answer: readAnswer(200, 1, [], "{}") })).toBe(newer);
    expect(callReducer(newer, { event: "unanswered", address: "/a" })).toBe(newer);
  });

  it("forgets everything with another operation", () => {
    expect(callReducer(calling, { event: "operationChanged" })).toEqual(idle);
  });

  it("puts each message beside its field", () => {
    const text = JSON.stringify({
      type: "/problems/bad-input",
      title: "Some inputs need mending",
      status: 400,
      detail: "2 inputs need mending.",
      errors: [
        { parameter: "from", in: "query", detail: "'from' is required." },
        { pointer: "/x", in: "body", detail: "elsewhere" },
      ],
    });
    const state: CallState = { state: "answered", address: "/a", page: 1, answer: readAnswer(400, 1, [], text) };
    expect(fieldErrors(state)).toEqual({ from: "'from' is required.", "/x": "elsewhere" });
    expect(fieldErrors(idle)).toEqual({});
  });
});
