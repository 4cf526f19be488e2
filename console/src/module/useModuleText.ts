import { useCallback, useMemo, useReducer, useRef } from "react";
import { textEdits } from "../moduletext/edits";
import { moduleReader, type TextNode } from "../moduletext/nodes";
import { moduleSchema, schemaOrder } from "../moduletext/schema";
import { actions, main } from "./actions";
import { begin, type Files, workReducer } from "./work";

/** The text being worked on: what it says, what the buttons and forms do to it, and how steps are taken back. */
export function useModuleText(first: Files, place: () => string) {
  const [work, dispatch] = useReducer(workReducer, first, begin);
  const read = useMemo(moduleReader, []);
  const act = useMemo(() => actions(read, textEdits(read, schemaOrder(moduleSchema))), [read]);
  // forms may do several things before the page is drawn again, each on what the last one left
  const latest = useRef(work.files);
  latest.current = work.files;
  const change = useCallback(
    (next: (files: Files) => Files) => {
      const files = next(latest.current);
      latest.current = files;
      dispatch({ event: "changed", files, place: place(), at: Date.now() });
    },
    [place],
  );
  const text = work.files[main] ?? "";
  const root: TextNode = useMemo(() => read(text), [read, text]);
  return { work, dispatch, read, act, change, root, text };
}
