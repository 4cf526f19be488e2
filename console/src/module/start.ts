import { DeskError, type ModuleText, readDraft, readText } from "../api/http";
import type { Files } from "./work";

/** Where work on a module begins. */
export interface Start {
  name: string;
  major: number;
  folder: string;
  files: Files;
  /** The files whose lines end in CR LF where they are kept; here all end in LF. */
  windows: ReadonlySet<string>;
  /** The draft's revision that was read; undefined for a text that is no draft yet. */
  revision: number | undefined;
  /** The revision's author; undefined for a text that is no draft yet. */
  changedBy: string | undefined;
}

const isMissing = (error: unknown): boolean => error instanceof DeskError && error.status === 404;

/** The draft of a module, or what is live when nobody began one. */
export async function startOf(name: string, major: number): Promise<Start> {
  try {
    const draft = await readDraft(name, major);
    return { name, major, ...read(draft.text), revision: draft.revision, changedBy: draft.changedBy };
  } catch (error) {
    if (!isMissing(error)) {
      throw error;
    }
  }
  try {
    return { name, major, ...read(await readText(name, major)), revision: undefined, changedBy: undefined };
  } catch (error) {
    throw isMissing(error) ? new DeskError(404, `There is neither a draft nor a live module ${name}/v${major}; begin one on the page Drafts.`) : error;
  }
}

/** A text as the page works on it: lines end in LF, unless a file mixes both. */
export function read(text: ModuleText | undefined): Pick<Start, "folder" | "files" | "windows"> {
  const kept = Object.entries(text?.files ?? {});
  const windows = new Set(kept.filter(([, lines]) => lines.includes("\r\n") && !/[^\r]\n|^\n|\r(?!\n)/.test(lines)).map(([file]) => file));
  const files = Object.fromEntries(kept.map(([file, lines]) => [file, windows.has(file) ? lines.replaceAll("\r\n", "\n") : lines]));
  return { folder: text?.folder ?? "", files, windows };
}

/** The text as it is kept. */
export function written({ folder, windows }: Pick<Start, "folder" | "windows">, files: Files): ModuleText {
  const lines = Object.entries(files).map(([file, text]) => [file, windows.has(file) ? text.replaceAll("\n", "\r\n") : text]);
  return { folder, files: Object.fromEntries(lines) as Record<string, string> };
}
