import { useCallback, useReducer } from "react";
import { DeskError, type DraftMerge, mergeDraft, type ModuleText, readDraft, saveDraft } from "../api/http";
import { type Files } from "./work";

/** How the page's text stands to the draft that the service keeps. */
export type Saving =
  | { state: "rest"; revision: number | undefined; saved: Files; trouble: string | undefined }
  | { state: "saving"; revision: number | undefined; saved: Files }
  /** Somebody else changed the draft, or threw it away; nothing was overwritten. */
  | { state: "conflict"; revision: number | undefined; saved: Files; with: Conflict };

/** What stands against saving. */
export type Conflict =
  | { kind: "changed"; merge: DraftMerge }
  /** What this text began from is not kept any more, so that the two cannot be brought together. */
  | { kind: "apart"; revision: number; changedBy: string; changedAt: string; text: ModuleText }
  | { kind: "gone" };

type Event =
  | { event: "asked" }
  | { event: "saved"; revision: number; files: Files }
  | { event: "refused"; trouble: string }
  | { event: "met"; with: Conflict }
  | { event: "settled"; revision: number | undefined; saved: Files };

function reducer(saving: Saving, event: Event): Saving {
  const { revision, saved } = saving;
  switch (event.event) {
    case "asked":
      return { state: "saving", revision, saved };
    case "saved":
      return { state: "rest", revision: event.revision, saved: event.files, trouble: undefined };
    case "refused":
      return { state: "rest", revision, saved, trouble: event.trouble };
    case "met":
      return { state: "conflict", revision, saved, with: event.with };
    case "settled":
      return { state: "rest", revision: event.revision, saved: event.saved, trouble: undefined };
  }
}

/** Saves a draft without overwriting what others made of it. */
export function useDraftSaving(name: string, major: number, began: { revision: number | undefined; files: Files }) {
  const [saving, dispatch] = useReducer(reducer, { state: "rest", revision: began.revision, saved: began.files, trouble: undefined });
  const save = useCallback(
    async (text: ModuleText, files: Files, seen: number | undefined): Promise<boolean> => {
      dispatch({ event: "asked" });
      try {
        const draft = await saveDraft(name, major, text, seen);
        dispatch({ event: "saved", revision: draft.revision, files });
        return true;
      } catch (error) {
        if (error instanceof DeskError && error.status === 412) {
          dispatch(await met(name, major, text, seen));
        } else {
          dispatch({ event: "refused", trouble: error instanceof Error ? error.message : String(error) });
        }
        return false;
      }
    },
    [name, major],
  );
  const settle = useCallback((revision: number | undefined, saved: Files) => dispatch({ event: "settled", revision, saved }), []);
  return { saving, save, settle };
}

async function met(name: string, major: number, text: ModuleText, seen: number | undefined): Promise<Event> {
  try {
    if (seen !== undefined) {
      return { event: "met", with: { kind: "changed", merge: await mergeDraft(name, major, seen, text) } };
    }
  } catch (error) {
    if (!(error instanceof DeskError && error.status === 404)) {
      return { event: "refused", trouble: error instanceof Error ? error.message : String(error) };
    }
  }
  try {
    const { revision, changedBy, changedAt, text: theirs } = await readDraft(name, major);
    return { event: "met", with: { kind: "apart", revision, changedBy, changedAt, text: theirs ?? { folder: "", files: {} } } };
  } catch (error) {
    return error instanceof DeskError && error.status === 404
      ? { event: "met", with: { kind: "gone" } }
      : { event: "refused", trouble: error instanceof Error ? error.message : String(error) };
  }
}
