import { useCallback, useEffect, useState } from "react";
import { DeskError } from "./http";

/** Something asked of the service: on its way, there, or failed. */
export type Remote<T> =
  | { state: "loading" }
  | { state: "loaded"; value: T }
  | { state: "failed"; error: DeskError };

/** Asks once, and again when `ask` changes or `again` is called; a late answer to an old question is dropped. */
export function useRemote<T>(ask: () => Promise<T>): { remote: Remote<T>; again: () => void } {
  const [remote, setRemote] = useState<Remote<T>>({ state: "loading" });
  const [round, setRound] = useState(0);
  useEffect(() => {
    let current = true;
    setRemote({ state: "loading" });
    ask().then(
      (value) => current && setRemote({ state: "loaded", value }),
      (error: unknown) =>
        current &&
        setRemote({ state: "failed", error: error instanceof DeskError ? error : new DeskError(0, String(error)) }),
    );
    return () => {
      current = false;
    };
  }, [ask, round]);
  const again = useCallback(() => setRound((n) => n + 1), []);
  return { remote, again };
}
