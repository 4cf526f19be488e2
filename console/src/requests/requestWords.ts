import type { AccessRequest } from "../api/http";

/** "asks for moorings/v1" */
export function whatIsAsked({ kind, module }: Pick<AccessRequest, "kind" | "module">): string {
  return kind === "team" ? "asks to become a client team" : `asks for ${module ?? "a module"}`;
}

/** The last day, in UTC, on which something holds that ends at a moment. */
export function lastDay(end: string): string {
  return new Date(Date.parse(end) - 1).toISOString().slice(0, 10);
}

/** The first moment after a day, in UTC; undefined for no day. */
export function afterDay(day: string | undefined): string | undefined {
  return day === undefined || day === "" ? undefined : new Date(Date.parse(`${day}T00:00:00Z`) + 86_400_000).toISOString();
}

const words: Record<AccessRequest["state"], string> = {
  waiting: "waits for an answer",
  allowed: "allowed",
  refused: "refused",
  withdrawn: "withdrawn",
};

/** "allowed, the last day is 2031-09-30" */
export function stateWords({ state, endsAt }: Pick<AccessRequest, "state" | "endsAt">): string {
  return words[state] + (endsAt === undefined ? "" : `, the last day is ${lastDay(endsAt)}`);
}
