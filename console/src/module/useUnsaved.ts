import { useEffect } from "react";
import type { Kept } from "./kept";
import type { Files } from "./work";

const pauseMillis = 800;

/** Keeps text that is not saved in this browser, and asks before the page is left with it. */
export function useUnsaved(store: Kept, isSaved: boolean, revision: number | undefined, files: Files): void {
  useEffect(() => {
    if (isSaved) {
      store.dropUnsaved();
      return;
    }
    const timer = setTimeout(() => store.keepUnsaved(revision, files), pauseMillis);
    return () => clearTimeout(timer);
  }, [store, isSaved, revision, files]);
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    if (!isSaved) {
      window.addEventListener("beforeunload", warn);
    }
    return () => window.removeEventListener("beforeunload", warn);
  }, [isSaved]);
}
