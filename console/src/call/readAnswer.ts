import type { Problem } from "../api/http";
import type { Answer, Row } from "./callState";

/** Reads a body into what the page shows: the rows of a collection, the one row of anything else, or a problem. */
export function readAnswer(
  status: number,
  millis: number,
  headers: ReadonlyArray<readonly [string, string]>,
  text: string,
): Answer {
  const answer: Answer = {
    status,
    millis,
    bytes: new TextEncoder().encode(text).length,
    headers,
    text,
    rows: [],
    next: undefined,
    prev: undefined,
    total: undefined,
    problem: undefined,
  };
  const body = parse(text);
  if (body === undefined) {
    return answer;
  }
  if (status >= 400) {
    return { ...answer, problem: body as unknown as Problem };
  }
  const data = body["data"];
  if (Array.isArray(data)) {
    const page = body["page"] as PageEnd | undefined;
    return { ...answer, rows: data as Row[], next: page?.next, prev: page?.prev, total: page === undefined ? undefined : totalOf(page) };
  }
  return { ...answer, rows: [body as Row] };
}

/** What stands behind the rows of a page. */
interface PageEnd {
  next?: string;
  prev?: string;
  total?: number;
  estimate?: { rows: number };
}

function totalOf({ total, estimate }: PageEnd): string | undefined {
  if (total !== undefined) {
    return total.toLocaleString();
  }
  return estimate === undefined ? undefined : `about ${estimate.rows.toLocaleString()}`;
}

function parse(text: string): Record<string, unknown> | undefined {
  try {
    const body: unknown = JSON.parse(text, keepLiteral);
    return typeof body === "object" && body !== null ? (body as Record<string, unknown>) : undefined;
  } catch {
    return undefined;
  }
}

/** Decimals are shown as they were sent: 34.20 stays 34.20, where the browser can tell. */
function keepLiteral(_key: string, value: unknown, context?: { source?: string }): unknown {
  return typeof value === "number" && context?.source !== undefined && context.source !== String(value)
    ? new Literal(context.source)
    : value;
}

/** A number whose text says more than its value. */
export class Literal {
  constructor(readonly source: string) {}

  toString(): string {
    return this.source;
  }

  toJSON(): string {
    return this.source;
  }
}
