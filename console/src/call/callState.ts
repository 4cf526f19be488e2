import type { Problem } from "../api/http";

/** One field of an answer's row, as JSON has it. */
export type Value = string | number | boolean | null | object;
export type Row = Readonly<Record<string, Value>>;

/** An answer as the page shows it. */
export interface Answer {
  status: number;
  millis: number;
  bytes: number;
  headers: ReadonlyArray<readonly [string, string]>;
  text: string;
  rows: ReadonlyArray<Row>;
  next: string | undefined;
  prev: string | undefined;
  /** How many rows all pages have, in words; undefined when nobody asked. */
  total: string | undefined;
  problem: Problem | undefined;
}

/** What became of the last call. */
export type CallState =
  | { state: "idle" }
  | { state: "calling"; address: string; page: number }
  | { state: "answered"; address: string; page: number; answer: Answer }
  | { state: "unanswered"; address: string; page: number };

export type CallEvent =
  | { event: "called"; address: string; page: number }
  | { event: "answered"; address: string; answer: Answer }
  | { event: "unanswered"; address: string }
  | { event: "operationChanged" };

export const idle: CallState = { state: "idle" };

/** Moves the state; an answer to a call that was replaced by a newer one is dropped. */
export function callReducer(state: CallState, event: CallEvent): CallState {
  switch (event.event) {
    case "called":
      return { state: "calling", address: event.address, page: event.page };
    case "answered":
      return state.state === "calling" && state.address === event.address
        ? { state: "answered", address: state.address, page: state.page, answer: event.answer }
        : state;
    case "unanswered":
      return state.state === "calling" && state.address === event.address
        ? { state: "unanswered", address: state.address, page: state.page }
        : state;
    case "operationChanged":
      return idle;
  }
}

/** The messages of a problem that belong beside a field, by parameter name. */
export function fieldErrors(state: CallState): Record<string, string> {
  const errors = state.state === "answered" ? (state.answer.problem?.errors ?? []) : [];
  return Object.fromEntries(errors.map((e) => [e.parameter ?? e.pointer ?? "", e.detail]));
}
