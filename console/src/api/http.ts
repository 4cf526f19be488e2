import type { components } from "../desk";

export type Problem = components["schemas"]["Problem"];
export type Module = components["schemas"]["Module"];
export type Operation = components["schemas"]["Operation"];
export type Parameter = components["schemas"]["Parameter"];
export type Field = components["schemas"]["Field"];
export type Source = components["schemas"]["Source"];
export type SourceTest = components["schemas"]["SourceTest"];
export type Contents = components["schemas"]["Contents"];
export type Relation = components["schemas"]["Relation"];
export type Routine = components["schemas"]["Routine"];
export type Sample = components["schemas"]["Sample"];
export type Finding = components["schemas"]["Finding"];
export type Look = components["schemas"]["Statement"];
export type Trial = components["schemas"]["Trial"];
export type ModuleText = components["schemas"]["ModuleText"];

/** A call of the management API that was answered with a problem, or not at all (then `status` is 0). */
export class DeskError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

const unreachable = "The service does not answer. Check that it runs, then try again.";

async function send(path: string, init: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, { ...init, credentials: "same-origin" });
  } catch {
    throw new DeskError(0, unreachable);
  }
  if (!response.ok) {
    throw new DeskError(response.status, await problemDetail(response));
  }
  return response;
}

async function problemDetail(response: Response): Promise<string> {
  try {
    return ((await response.json()) as Problem).detail;
  } catch {
    return `The service answered ${response.status} without saying why.`;
  }
}

async function read<T>(path: string): Promise<T> {
  const response = await send(path, { headers: { Accept: "application/json" } });
  return (await response.json()) as T;
}

async function post<T>(path: string, body: unknown): Promise<T> {
  const response = await send(path, {
    method: "POST",
    headers: { Accept: "application/json", "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
  return (await response.json()) as T;
}

export const readModules = (): Promise<{ modules: Module[] }> => read("/desk/modules");

export const readModule = (name: string, version: string): Promise<Module> =>
  read(`/desk/modules/${encodeURIComponent(name)}/${encodeURIComponent(version)}`);

export const readSources = (): Promise<{ sources: Source[] }> => read("/desk/sources");

const atSource = (name: string): string => `/desk/sources/${encodeURIComponent(name)}`;

export const testSource = (name: string): Promise<SourceTest> => post(`${atSource(name)}/test`, {});

export const readContents = (name: string): Promise<Contents> => read(`${atSource(name)}/contents`);

export const refreshContents = (name: string): Promise<Contents> => post(`${atSource(name)}/refresh`, {});

export const readSample = (name: string, relation: string): Promise<Sample> =>
  read(`${atSource(name)}/contents/${encodeURIComponent(relation)}/sample`);

export const readText = (name: string, major: number): Promise<ModuleText> =>
  read(`/desk/releases/live/${encodeURIComponent(name)}/v${major}`);

export const lookAt = (source: string, sql: string): Promise<Look> => post("/desk/statements", { source, sql });

export const checkText = (module: ModuleText): Promise<{ findings: Finding[] }> => post("/desk/checks", { modules: [module] });

export const tryOperation = (request: components["schemas"]["TrialRequest"]): Promise<Trial> => post("/desk/trials", request);

export async function signIn(by: components["schemas"]["SignIn"]): Promise<void> {
  await send("/desk/sessions", {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(by),
  });
}

export async function signOut(): Promise<void> {
  await send("/desk/sessions/current", { method: "DELETE" });
}
