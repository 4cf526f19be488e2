// /*ABOUT*/
// Made from what is live. Get it anew when the module has news; what is gone or changed then shows when you compile.
// It needs nothing but fetch, which browsers, Node.js, Deno and Bun have.

/*TYPES*/

/** What was answered. */
export interface Reply<T> {
  readonly body: T;
  readonly status: number;
  readonly headers: Headers;
  /** The state that was read or made, for If-Match; null where none is told. */
  readonly etag: string | null;
}

/** Anything but what was hoped for. Its `problem` says what to do (RFC 9457); quote its `requestId` to the owner of the module. */
export class ProblemError extends Error {
  readonly problem: Problem;
  readonly headers: Headers;

  constructor(problem: Problem, headers: Headers) {
    super(`${problem.status} ${problem.title}: ${problem.detail}`);
    this.name = "ProblemError";
    this.problem = problem;
    this.headers = headers;
  }
}

/** How the module is called. */
export interface Settings {
  /** Where it is; where this file was made unless set. */
  base?: string | undefined;
  /** A key or a token, or what gets one for each call. Without it, calls are anybody's. */
  credential?: string | (() => string | Promise<string>) | undefined;
  /** What sends requests; the one of the platform unless set. */
  fetch?: typeof globalThis.fetch | undefined;
}

type Part = readonly [place: "query" | "header" | "cookie", name: string, value: unknown];

export class /*CLIENT*/ {
  private readonly settings: Settings;

  constructor(settings: Settings = {}) {
    this.settings = settings;
  }

/*METHODS*/
  private async call<T>(
    method: string,
    path: string,
    kind: "json" | "file" | "nothing",
    init: RequestInit,
    parts: readonly Part[],
    body?: unknown,
    type?: string,
  ): Promise<Reply<T>> {
    const query = new URLSearchParams();
    const headers = new Headers(init.headers);
    const cookies: string[] = [];
    for (const [place, name, value] of parts) {
      if (value === undefined || value === null) {
        continue;
      }
      if (place === "header") {
        headers.set(name, String(value));
      } else if (place === "cookie") {
        cookies.push(`${name}=${encodeURIComponent(String(value))}`);
      } else if (Array.isArray(value)) {
        value.forEach((one) => query.append(name, String(one)));
      } else if (typeof value === "object") {
        for (const [operator, operand] of Object.entries(value)) {
          if (operand !== undefined) {
            query.append(`${name}[${operator}]`, String(operand));
          }
        }
      } else {
        query.append(name, String(value));
      }
    }
    if (cookies.length > 0) {
      headers.set("Cookie", cookies.join("; "));
    }
    headers.set("Accept", kind === "file" ? "*/*" : "application/json");
    const { credential } = this.settings;
    if (credential !== undefined) {
      headers.set("Authorization", `Bearer ${typeof credential === "string" ? credential : await credential()}`);
    }
    const sent: RequestInit = { ...init, method, headers };
    if (body !== undefined && type !== undefined) {
      headers.set("Content-Type", type);
      sent.body =
        type === "application/x-www-form-urlencoded"
          ? new URLSearchParams(Object.entries(body as object).flatMap(([name, value]) => formFields(name, value)))
          : JSON.stringify(body);
    }
    const asked = query.toString();
    const address = (this.settings.base ?? "/*BASE*/") + path + (asked === "" ? "" : `?${asked}`);
    const response = await (this.settings.fetch ?? globalThis.fetch)(address, sent);
    if (!response.ok) {
      throw new ProblemError(await readProblem(response), response.headers);
    }
    const read: unknown =
      kind === "nothing" || response.status === 204 ? undefined : kind === "file" ? await response.blob() : await response.json();
    return {
      body: read as T,
      status: response.status,
      headers: response.headers,
      etag: response.headers.get("ETag"),
    };
  }
}

function formFields(name: string, value: unknown): string[][] {
  if (value === undefined || value === null) {
    return [];
  }
  return Array.isArray(value) ? value.map((one) => [name, String(one)]) : [[name, String(value)]];
}

/** What stands between may answer something of its own. */
async function readProblem(response: Response): Promise<Problem> {
  const text = await response.text();
  try {
    const problem: unknown = JSON.parse(text);
    if (typeof problem === "object" && problem !== null && "title" in problem && "code" in problem) {
      return problem as Problem;
    }
  } catch {
    // no JSON
  }
  return {
    type: "about:blank",
    title: response.statusText || "No answer of the service",
    status: response.status,
    detail: text.slice(0, 200),
    code: "unknown",
  } as Problem;
}
