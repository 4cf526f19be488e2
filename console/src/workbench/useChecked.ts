import { useEffect, useState } from "react";
import { checkText, type Finding, type Look, lookAt } from "../api/http";
import { type Draft, moduleText } from "./draft";

const pauseMillis = 400;

/** What is known about a draft a moment after somebody stopped typing. */
export interface Checked {
  look: Look | undefined;
  findings: Finding[];
  /** A sentence when the service could not be asked; undefined when it could. */
  trouble: string | undefined;
}

/** Asks after each pause: first for the statement's bind parameters, then for what is found in the whole text. */
export function useChecked(draft: Draft, onLook: (look: Look) => void): Checked {
  const [checked, setChecked] = useState<Checked>({ look: undefined, findings: [], trouble: undefined });
  const { source, sql } = draft;
  useEffect(() => {
    if (source === "" || sql.trim() === "") {
      return;
    }
    let current = true;
    const timer = setTimeout(() => {
      lookAt(source, sql).then(
        (look) => {
          if (current) {
            setChecked((before) => ({ ...before, look, trouble: undefined }));
            onLook(look);
          }
        },
        (error: unknown) => current && setChecked((before) => ({ ...before, trouble: String(error) })),
      );
    }, pauseMillis);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [source, sql, onLook]);
  const text = JSON.stringify(moduleText(draft));
  const isEmpty = sql.trim() === "";
  useEffect(() => {
    if (isEmpty) {
      // whoever has not begun has made no mistake yet
      setChecked((before) => ({ ...before, findings: [] }));
      return;
    }
    let current = true;
    const timer = setTimeout(() => {
      checkText(JSON.parse(text) as ReturnType<typeof moduleText>).then(
        ({ findings }) => current && setChecked((before) => ({ ...before, findings })),
        () => undefined,
      );
    }, pauseMillis);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [text, isEmpty]);
  return checked;
}
