import { useEffect, useState } from "react";
import { checkText, type Finding, type Look, lookAt, type ModuleText } from "../api/http";

const pauseMillis = 500;

/** What is found in a text, a moment after the last change of it. */
export function useFindings(text: ModuleText): { findings: Finding[]; checking: boolean; trouble: string | undefined } {
  const [state, setState] = useState<{ of?: ModuleText; findings: Finding[]; trouble: string | undefined }>({ findings: [], trouble: undefined });
  useEffect(() => {
    let current = true;
    const timer = setTimeout(() => {
      checkText(text).then(
        ({ findings }) => current && setState({ of: text, findings, trouble: undefined }),
        (error: unknown) =>
          current && setState((before) => ({ ...before, of: text, trouble: error instanceof Error ? error.message : String(error) })),
      );
    }, pauseMillis);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [text]);
  return { findings: state.findings, checking: state.of !== text, trouble: state.trouble };
}

/** What is known of one statement, a moment after the last change of it. */
export function useLook(source: string, sql: string): Look | undefined {
  const [look, setLook] = useState<{ sql: string; look: Look }>();
  useEffect(() => {
    if (source === "" || sql.trim() === "") {
      return;
    }
    let current = true;
    const timer = setTimeout(() => {
      lookAt(source, sql).then(
        (found) => current && setLook({ sql, look: found }),
        () => undefined,
      );
    }, pauseMillis);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [source, sql]);
  return look?.look;
}
