import { addressOf, headersOf, type Typed } from "./call";
import { inLines } from "./json";

const credentialKey = "tidy-credential";
const stateKey = (path: string) => `tidy-state ${path}`;

/** More of an answer is not shown. */
const longest = 100_000;

interface Shown {
  status: string;
  millis: number;
  headers: ReadonlyArray<readonly [string, string]>;
  text: string;
}

/** Makes the form of an operation's page work: the call, what came back, and what is asked before something is changed. */
export function tryIt(form: HTMLFormElement) {
  const { method = "GET", path = "", identity = "", operation = "" } = form.dataset;
  const changes = form.dataset["changes"] === "true";
  const at = <E extends Element>(selector: string) => form.querySelector<E>(selector);
  const credential = at<HTMLInputElement>(".credential");
  const precondition = at<HTMLInputElement>('input[name="If-Match"]');
  const body = at<HTMLTextAreaElement>("textarea");
  const answer = at<HTMLElement>(".answer");
  const dialog = at<HTMLDialogElement>("dialog");

  const typed = (): Typed[] =>
    [...form.querySelectorAll<HTMLInputElement | HTMLSelectElement>("[data-place]")].map((input) => ({
      name: input.name,
      place: input.dataset["place"] ?? "",
      list: input.dataset["list"] === "true",
      value: input.value.trim(),
    }));

  const resource = () => addressOf(path, typed()).split("?")[0] ?? path;

  /** What a change must say of the state it changes is what was read last of the same thing. */
  const fillPrecondition = () => {
    const known = sessionStorage.getItem(stateKey(resource()));
    if (precondition !== null && known !== null && precondition.dataset["typed"] !== "true") {
      precondition.value = known;
    }
  };

  const show = ({ status, millis, headers, text }: Shown, next?: string) => {
    if (answer === null) {
      return;
    }
    const list = document.createElement("dl");
    for (const [name, value] of headers) {
      list.append(element("dt", name), element("dd", value));
    }
    const fields = document.createElement("details");
    fields.append(element("summary", `${headers.length} header fields`), list);
    const pre = element("pre", text.length > longest ? `${text.slice(0, longest)}\n... (${text.length} characters in all)` : text);
    pre.className = "code";
    pre.tabIndex = 0;
    answer.replaceChildren(element("p", `${status}, after ${Math.round(millis)} ms`), fields, pre);
    if (next !== undefined) {
      const button = element("button", "Next page");
      button.type = "button";
      button.addEventListener("click", () => {
        const after = at<HTMLInputElement>('input[name="after"]');
        if (after !== null) {
          after.value = next;
          void call();
        }
      });
      answer.append(button);
    }
    answer.hidden = false;
  };

  const call = async () => {
    fillPrecondition();
    const inputs = typed();
    const address = addressOf(path, inputs);
    const begun = performance.now();
    try {
      const response = await fetch(address, {
        method,
        headers: headersOf(inputs, credential?.value.trim() ?? "", body === null ? undefined : body.dataset["mediaType"]),
        ...(body === null ? {} : { body: body.value }),
      });
      const text = isText(response) ? await response.text() : `(${(await response.blob()).size} bytes)`;
      const state = response.headers.get("ETag");
      if (response.ok && state !== null) {
        sessionStorage.setItem(stateKey(resource()), state);
      }
      show(
        { status: `${response.status} ${response.statusText}`.trim(), millis: performance.now() - begun, headers: [...response.headers], text: inLines(text) },
        response.ok ? nextOf(text) : undefined,
      );
    } catch {
      show({ status: "No answer came", millis: performance.now() - begun, headers: [], text: "The service cannot be reached from here; try again in a moment." });
    }
  };

  const rehearse = async () => {
    const begun = performance.now();
    const inputs = Object.fromEntries(typed().filter(({ value }) => value !== "").map(({ name, value }) => [name, value]));
    const response = await fetch("/desk/trials", {
      method: "POST",
      headers: headersOf([], credential?.value.trim() ?? "", "application/json"),
      body: JSON.stringify({ live: identity, method, path: operation, inputs, ...(body === null ? {} : { body: body.value }) }),
    });
    const text = await response.text();
    const status = response.ok ? "Rehearsed, and undone" : `${response.status} ${response.statusText}`;
    show({ status, millis: performance.now() - begun, headers: [], text: response.ok ? rehearsed(text) : inLines(text) });
  };

  if (credential !== null) {
    credential.value = sessionStorage.getItem(credentialKey) ?? "";
    credential.addEventListener("change", () => sessionStorage.setItem(credentialKey, credential.value.trim()));
  }
  precondition?.addEventListener("input", () => (precondition.dataset["typed"] = "true"));
  form.addEventListener("input", (event) => event.target !== precondition && fillPrecondition());
  fillPrecondition();
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    if (changes) {
      dialog?.showModal();
    } else {
      void call();
    }
  });
  dialog?.addEventListener("close", () => {
    if (dialog.returnValue === "change") {
      void call();
    } else if (dialog.returnValue === "rehearse") {
      void rehearse();
    }
  });
  for (const choice of dialog?.querySelectorAll<HTMLButtonElement>("button[value]") ?? []) {
    choice.addEventListener("click", () => dialog?.close(choice.value));
  }
}

function element<K extends keyof HTMLElementTagNameMap>(name: K, text: string): HTMLElementTagNameMap[K] {
  const made = document.createElement(name);
  made.textContent = text;
  return made;
}

function isText(response: Response): boolean {
  const type = response.headers.get("Content-Type") ?? "";
  return type === "" || /json|text|xml|csv|yaml/.test(type);
}

/** Where the next page begins; undefined on the last one, and for what has no pages. */
function nextOf(text: string): string | undefined {
  try {
    const after: unknown = (JSON.parse(text) as { page?: { after?: unknown } } | null)?.page?.after;
    return typeof after === "string" ? after : undefined;
  } catch {
    return undefined;
  }
}

interface Rehearsed {
  answer?: { status: number; body: string };
  rehearsal?: { written: number; updated: number; deleted: number; tables: ReadonlyArray<{ table: string }> };
}

/** What a rehearsal did, in words, and the answer that callers would get. */
function rehearsed(text: string): string {
  const { answer, rehearsal } = JSON.parse(text) as Rehearsed;
  const did =
    rehearsal === undefined
      ? []
      : [
          `${rehearsal.written} rows would be inserted, ${rehearsal.updated} changed, ${rehearsal.deleted} deleted` +
            (rehearsal.tables.length === 0 ? "." : ` in ${rehearsal.tables.map(({ table }) => table).join(", ")}.`),
        ];
  const would = answer === undefined ? [] : [`The answer would be ${answer.status}:`, inLines(answer.body)];
  return [...did, ...would].join("\n");
}
