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
export type Release = components["schemas"]["Release"];
export type LiveChange = components["schemas"]["History"]["changes"][number];
export type History = components["schemas"]["History"];
export type DriftNote = components["schemas"]["DriftNote"];
export type Draft = components["schemas"]["Draft"];
export type DraftMerge = components["schemas"]["DraftMerge"];
export type FirstText = components["schemas"]["FirstText"];
export type FirstTextRequest = components["schemas"]["FirstTextRequest"];
export type ReadDocument = components["schemas"]["ReadDocument"];
export type MatchedOperation = components["schemas"]["MatchedOperation"];
export type Prospect = components["schemas"]["Prospect"];
export type Review = components["schemas"]["Review"];
export type ReviewDetail = components["schemas"]["ReviewDetail"];
export type Node = components["schemas"]["Node"];
export type Difference = components["schemas"]["Difference"];
export type FileDifference = components["schemas"]["FileDifference"];
export type Comparison = components["schemas"]["Comparison"];
export type Role = components["schemas"]["Role"];
export type Person = components["schemas"]["Person"];
export type Client = components["schemas"]["Client"];
export type Given = components["schemas"]["Given"];
export type Team = components["schemas"]["Team"];
export type AccessRequest = components["schemas"]["AccessRequest"];
export type AnsweredRequest = components["schemas"]["AnsweredRequest"];
export type AccessAnswer = components["schemas"]["AccessAnswer"];
export type Holders = components["schemas"]["Holders"];
export type Holder = components["schemas"]["Holder"];
export type AuditEntry = components["schemas"]["AuditEntry"];
export type RefusedCall = components["schemas"]["RefusedCall"];
export type Credential = components["schemas"]["Credential"];
export type MadeCredential = components["schemas"]["MadeCredential"];
export type Account = components["schemas"]["Account"];
export type Session = components["schemas"]["Session"];
export type Factor = components["schemas"]["Factor"];

/** A call of the management API that was answered with a problem, or not at all (then `status` is 0). */
export class DeskError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly code = "",
  ) {
    super(message);
  }
}

const unreachable = "The service does not answer. Check that it runs, then try again.";

export async function send(path: string, init: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, { ...init, credentials: "same-origin" });
  } catch {
    throw new DeskError(0, unreachable);
  }
  if (!response.ok) {
    throw await problemOf(response);
  }
  return response;
}

async function problemOf(response: Response): Promise<DeskError> {
  try {
    const { detail, code } = (await response.json()) as Problem;
    return new DeskError(response.status, detail, code);
  } catch {
    return new DeskError(response.status, `The service answered ${response.status} without saying why.`);
  }
}

async function read<T>(path: string): Promise<T> {
  const response = await send(path, { headers: { Accept: "application/json" } });
  return (await response.json()) as T;
}

async function write(
  method: "POST" | "PUT",
  path: string,
  body: unknown,
  condition: Record<string, string> = {},
): Promise<Response> {
  return send(path, {
    method,
    headers: { Accept: "application/json", "Content-Type": "application/json", ...condition },
    body: JSON.stringify(body),
  });
}

async function post<T>(path: string, body: unknown): Promise<T> {
  return (await (await write("POST", path, body)).json()) as T;
}

async function put<T>(path: string, body: unknown): Promise<T> {
  return (await (await write("PUT", path, body)).json()) as T;
}

async function remove(path: string): Promise<void> {
  await send(path, { method: "DELETE" });
}

export const readModules = (): Promise<{ modules: Module[] }> => read("/desk/modules");

export const readModule = (name: string, version: string): Promise<Module> =>
  read(`/desk/modules/${encodeURIComponent(name)}/${encodeURIComponent(version)}`);

export const readHistory = (name: string): Promise<History> => read(`/desk/releases/${encodeURIComponent(name)}`);

export const compareReleases = (module: string, from: string, to: string): Promise<Comparison> =>
  read(`/desk/comparisons?${new URLSearchParams({ module, from, to })}`);

const atRelease = (name: string, major: number): string => `/desk/modules/${encodeURIComponent(name)}/v${major}/release`;

/** Makes an earlier release live again; without a reason only when no caller is let down. */
export async function revert(release: Release, reason: string): Promise<void> {
  await write("PUT", atRelease(release.name, release.major), { version: release.version, reason });
}

export const retire = ({ name, major, version }: Release, reason: string): Promise<void> =>
  remove(`${atRelease(name, major)}?${new URLSearchParams({ version, reason })}`);

export const readNodes = (): Promise<{ nodes: Node[] }> => read("/desk/nodes");

export const readDrafts = (): Promise<{ drafts: Draft[] }> => read("/desk/drafts");

const atDraft = (name: string, major: number): string => `/desk/drafts/${encodeURIComponent(name)}/v${major}`;

export const readDraft = (name: string, major: number): Promise<Draft> => read(atDraft(name, major));

export const readRevisions = (name: string, major: number): Promise<{ drafts: Draft[] }> =>
  read(`${atDraft(name, major)}/revisions`);

/** Gives a draft the text of an earlier revision, unless somebody changed it since it was seen. */
export async function restoreRevision(seen: Draft, revision: number): Promise<void> {
  await write("POST", `${atDraft(seen.name, seen.major)}/restored`, { revision }, { "If-Match": `"${seen.revision}"` });
}

/** Changes the draft that was seen, or begins one. */
export async function saveDraft(name: string, major: number, text: ModuleText, seen: number | undefined): Promise<Draft> {
  const condition: Record<string, string> = seen === undefined ? { "If-None-Match": "*" } : { "If-Match": `"${seen}"` };
  return (await (await write("PUT", atDraft(name, major), text, condition)).json()) as Draft;
}

/** A text together with what others made of the draft since a revision; nothing is saved. */
export const mergeDraft = (name: string, major: number, revision: number, text: ModuleText): Promise<DraftMerge> =>
  post(`${atDraft(name, major)}/merged`, { revision, text });

/** The first text of a module, or a text with more operations, from tables and views; nothing is saved. */
export const makeFirstText = (request: FirstTextRequest): Promise<FirstText> => post("/desk/first-texts", request);

/** What publishing a text would mean for callers of what is live. */
export async function lookAhead(text: ModuleText): Promise<Prospect> {
  const { modules } = await post<{ modules: Prospect[] }>("/desk/comparisons", { modules: [text] });
  const [prospect] = modules;
  if (prospect === undefined) {
    throw new DeskError(0, "The service answered without the module that was asked for.");
  }
  return prospect;
}

/** Publishes a text, or asks a second person first where that is needed. */
export const publishText = (text: ModuleText, note: string, breaking: string, review: boolean): Promise<unknown> =>
  post(review ? "/desk/reviews" : "/desk/releases", { modules: [text], note, breaking });

export const readReviews = (): Promise<{ reviews: Review[] }> => read("/desk/reviews");

const atReview = (id: number): string => `/desk/reviews/${id}`;

export const readReview = (id: number): Promise<ReviewDetail> => read(atReview(id));

/** Says of the text that was read whether it may be published. */
export async function decideReview({ id, hash }: Review, decision: "approve" | "decline", words: string): Promise<void> {
  await write("PUT", `${atReview(id)}/decision`, { decision, hash, words });
}

export const withdrawReview = ({ id }: Review): Promise<void> => remove(atReview(id));

export const publishReview = ({ id }: Review): Promise<unknown> => post("/desk/releases", { review: id });

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
  await write("POST", "/desk/sessions", by);
}

export const lookAtCode = (code: string): Promise<components["schemas"]["SignInCodeUse"]> =>
  post("/desk/sign-in-codes/look", { code });

export const readProvider = (): Promise<components["schemas"]["Provider"]> => read("/desk/provider");

export async function signOut(): Promise<void> {
  await remove("/desk/sessions/current");
}

export const readAccount = (): Promise<Account> => read("/desk/account");

export async function changePassword(password: string, chosen: string): Promise<void> {
  await write("PUT", "/desk/account/password", { password, chosen });
}

export const newFactor = (): Promise<Factor> => post("/desk/account/factor", {});

export async function setFactor(factor: components["schemas"]["FactorRequest"]): Promise<void> {
  await write("PUT", "/desk/account/factor", factor);
}

export const readSessions = (): Promise<{ sessions: Session[] }> => read("/desk/sessions");

export const endSession = (id: string): Promise<void> => remove(`/desk/sessions/${encodeURIComponent(id)}`);

const askedFor = ({ module, method, path }: { module: string; method: string; path: string }) =>
  new URLSearchParams({ module, method, path });

export const readHolders = (operation: { module: string; method: string; path: string }): Promise<Holders> =>
  read(`/desk/access/holders?${askedFor(operation)}`);

/** Without a name it is asked of somebody unknown. */
export const explainAccess = (
  operation: { module: string; method: string; path: string },
  kind: "client" | "person",
  name?: string,
  address?: string,
): Promise<AccessAnswer> => {
  const query = askedFor(operation);
  if (name) {
    query.set(kind, name);
  }
  if (address) {
    query.set("address", address);
  }
  return read(`/desk/access/answers?${query}`);
};

/** Those of one request, or the last ones when it is empty. */
export const readRefusedCalls = (request: string): Promise<{ calls: RefusedCall[] }> =>
  read(`/desk/refused-calls${request === "" ? "" : `?request=${encodeURIComponent(request)}`}`);

/** What is looked for; everything unless given. */
export interface AuditSearch {
  who?: string;
  action?: string;
  text?: string;
}

const wanted = (search: AuditSearch): URLSearchParams => {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(search)) {
    if (typeof value === "string" && value.trim() !== "") {
      query.set(name, value.trim());
    }
  }
  return query;
};

/** The newest first, or those before one. */
export const readAudit = (search: AuditSearch, before?: number): Promise<components["schemas"]["AuditEntries"]> => {
  const query = wanted(search);
  query.set("limit", "50");
  if (before !== undefined) {
    query.set("before", String(before));
  }
  return read(`/desk/audit?${query}`);
};

export const auditExport = (search: AuditSearch, format: "csv" | "ndjson"): string => {
  const query = wanted(search);
  query.set("format", format);
  return `/desk/audit/export?${query}`;
};

export const readRoles = (): Promise<{ roles: Role[] }> => read("/desk/roles");

export const putRole = (name: string, role: components["schemas"]["RoleRequest"]): Promise<Role> =>
  put(`/desk/roles/${encodeURIComponent(name)}`, role);

export const removeRole = (name: string): Promise<void> => remove(`/desk/roles/${encodeURIComponent(name)}`);

export const readPeople = (): Promise<{ people: Person[] }> => read("/desk/people");

const atPerson = (name: string): string => `/desk/people/${encodeURIComponent(name)}`;

export const putPerson = (name: string, person: components["schemas"]["PersonRequest"]): Promise<Person> =>
  put(atPerson(name), person);

export const removePerson = (name: string): Promise<void> => remove(atPerson(name));

export const makeLink = (name: string): Promise<components["schemas"]["SignInCode"]> => post(`${atPerson(name)}/link`, {});

export const removeFactor = (name: string): Promise<void> => remove(`${atPerson(name)}/factor`);

export const readClients = (): Promise<{ clients: Client[] }> => read("/desk/clients");

const atClient = (name: string): string => `/desk/clients/${encodeURIComponent(name)}`;

export const putClient = (name: string, client: components["schemas"]["ClientRequest"]): Promise<Client> =>
  put(atClient(name), client);

export const takePrivilegeBack = (client: string, privilege: string): Promise<void> =>
  remove(`${atClient(client)}/privileges/${encodeURIComponent(privilege)}`);

export const readTeams = (): Promise<{ teams: Team[] }> => read("/desk/teams");

const atTeam = (name: string): string => `/desk/teams/${encodeURIComponent(name)}`;

export const addTeam = (name: string, team: components["schemas"]["TeamRequest"]): Promise<Team> => put(atTeam(name), team);

export const removeTeam = (name: string): Promise<void> => remove(atTeam(name));

/** A link with which somebody joins; it is shown once. */
export const inviteToTeam = (name: string): Promise<components["schemas"]["Invitation"]> => post(`${atTeam(name)}/invitations`, {});

/** Tells those who call a module something. */
export const announce = (said: components["schemas"]["AnnouncementRequest"]): Promise<components["schemas"]["Announced"]> =>
  post("/desk/announcements", said);

export const readRequests = (): Promise<components["schemas"]["AccessRequests"]> => read("/desk/requests");

export const answerRequest = (id: number, answer: components["schemas"]["AnswerRequest"]): Promise<AnsweredRequest> =>
  put(`/desk/requests/${id}/answer`, answer);

export const removeClient = (name: string): Promise<void> => remove(atClient(name));

export const addCredential = (
  client: string,
  credential: components["schemas"]["CredentialRequest"],
): Promise<MadeCredential> => post(`${atClient(client)}/credentials`, credential);

export const revokeCredential = (client: string, name: string): Promise<void> =>
  remove(`${atClient(client)}/credentials/${encodeURIComponent(name)}`);
