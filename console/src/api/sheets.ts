import type { components } from "../desk";
import { DeskError, send } from "./http";

export type Sheet = components["schemas"]["Sheet"];
export type SheetOutcome = components["schemas"]["SheetOutcome"];

/** How a sheet is to be read, and what it becomes. */
export interface SheetWish {
  source: string;
  table: string;
  /** Found out when empty. */
  separator: string;
  /** Found out when empty. */
  encoding: string;
  /** Of a workbook; the first when empty. */
  sheet: string;
}

function query(wish: SheetWish, more: Record<string, string> = {}): string {
  const said = Object.entries({ ...wish, ...more }).filter(([, value]) => value !== "");
  return new URLSearchParams(said).toString();
}

const body = (file: File): RequestInit => ({ method: "POST", headers: { "Content-Type": "application/octet-stream" }, body: file });

/** What the columns of a sheet are; nothing is kept. */
export async function lookAtSheet(wish: SheetWish, file: File): Promise<Sheet> {
  return (await (await send(`/desk/sheets/looks?${query(wish)}`, body(file))).json()) as Sheet;
}

/** Puts all rows of a sheet into a table, or none; the table is made if it is not there. */
export async function loadSheet(wish: SheetWish, file: File, onRows: (rows: number) => void): Promise<SheetOutcome> {
  const response = await send(`/desk/sheets/loads?${query(wish, { create: "true" })}`, body(file));
  let outcome: SheetOutcome | undefined;
  for await (const line of linesOf(response)) {
    outcome = JSON.parse(line) as SheetOutcome;
    onRows(outcome.rows);
  }
  if (outcome?.kept === undefined) {
    throw new DeskError(0, "The answer broke off; look whether the rows are there before you load them again.");
  }
  return outcome;
}

async function* linesOf(response: Response): AsyncGenerator<string> {
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (let piece = await reader?.read(); piece !== undefined && !piece.done; piece = await reader?.read()) {
    const lines = (rest + piece.value).split("\n");
    rest = lines.pop() ?? "";
    yield* lines;
  }
  if (rest !== "") {
    yield rest;
  }
}

/** {@code our_berths} of {@code Our Berths.csv}. */
export function tableOf(file: string): string {
  const plain = file
    .replace(/\.[A-Za-z0-9]+$/, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "");
  return /^[a-z]/.test(plain) ? plain : `sheet_${plain}`;
}
