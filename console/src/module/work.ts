import { spliceBetween } from "../moduletext/splice";

/** A module's files by name, with lines that end in LF. */
export type Files = Readonly<Record<string, string>>;

/** What one step changed in a file: what was there, and what is there now. A file that came or went has `undefined` for one of them. */
type Part =
  | { file: string; from: number; removed: string; inserted: string }
  | { file: string; before: string | undefined; after: string | undefined };

/** A step that can be taken back. */
interface Step {
  at: number;
  /** What was being looked at, so that taking it back shows what changes. */
  place: string;
  parts: readonly Part[];
}

/** A module's text being worked on, with the steps that led here and those that were taken back. */
export interface Work {
  files: Files;
  past: readonly Step[];
  future: readonly Step[];
}

export type WorkEvent =
  /** Somebody typed, in the text or in a form, or pressed a button: the files are so now. */
  | { event: "changed"; files: Files; place: string; at: number }
  | { event: "undone" }
  | { event: "redone" }
  /** The service's text takes the place of all. */
  | { event: "loaded"; files: Files };

export const begin = (files: Files): Work => ({ files, past: [], future: [] });

/** Steps that are kept. */
const mostSteps = 500;
/** Typing without a longer pause is one step. */
const pauseMillis = 700;

export function workReducer(work: Work, event: WorkEvent): Work {
  switch (event.event) {
    case "changed":
      return changed(work, event.files, event.place, event.at);
    case "undone": {
      const step = work.past.at(-1);
      return step === undefined
        ? work
        : { files: applied(work.files, step.parts.map(reversed)), past: work.past.slice(0, -1), future: [step, ...work.future] };
    }
    case "redone": {
      const [step, ...future] = work.future;
      return step === undefined ? work : { files: applied(work.files, step.parts), past: [...work.past, step], future };
    }
    case "loaded":
      return begin(event.files);
  }
}

function changed(work: Work, files: Files, place: string, at: number): Work {
  const parts = differing(work.files, files);
  if (parts.length === 0) {
    return work;
  }
  const last = work.past.at(-1);
  if (last !== undefined && work.future.length === 0 && goesOn(last, parts, place, at)) {
    const before = applied(work.files, last.parts.map(reversed));
    const joined = differing(before, files);
    const past = joined.length === 0 ? work.past.slice(0, -1) : [...work.past.slice(0, -1), { at, place, parts: joined }];
    return { files, past, future: [] };
  }
  return { files, past: [...work.past, { at, place, parts }].slice(-mostSteps), future: [] };
}

/** Whether a change goes on with what the last step typed: a word or less, close by, without a pause. */
function goesOn(last: Step, parts: readonly Part[], place: string, at: number): boolean {
  const [before] = last.parts;
  const [now] = parts;
  if (last.parts.length !== 1 || parts.length !== 1 || before === undefined || now === undefined || !("from" in before) || !("from" in now)) {
    return false;
  }
  const isTyping = now.removed.length + now.inserted.length <= 2;
  const isNear = now.from >= before.from - 1 && now.from <= before.from + before.inserted.length + 1;
  return isTyping && isNear && before.file === now.file && last.place === place && at - last.at < pauseMillis;
}

function differing(before: Files, after: Files): Part[] {
  const names = new Set([...Object.keys(before), ...Object.keys(after)]);
  return [...names].flatMap((file): Part[] => {
    const [a, b] = [before[file], after[file]];
    if (a === b) {
      return [];
    }
    return a === undefined || b === undefined ? [{ file, before: a, after: b }] : [{ file, ...spliceBetween(a, b) }];
  });
}

const reversed = (part: Part): Part =>
  "from" in part
    ? { ...part, removed: part.inserted, inserted: part.removed }
    : { file: part.file, before: part.after, after: part.before };

function applied(files: Files, parts: readonly Part[]): Files {
  const all = { ...files };
  for (const part of parts) {
    if ("from" in part) {
      const text = all[part.file] ?? "";
      all[part.file] = text.slice(0, part.from) + part.inserted + text.slice(part.from + part.removed.length);
    } else if (part.after === undefined) {
      delete all[part.file];
    } else {
      all[part.file] = part.after;
    }
  }
  return all;
}
