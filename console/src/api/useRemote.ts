import { useCallback, useEffect, useRef, useState } from "react";
import { DeskError } from "./http";

/** Something asked of the service: on its way, there, or failed. */
export type Remote<T> =
  | { state: "loading" }
  | { state: "loaded"; value: T }
  | { state: "failed"; error: DeskError };

/**
 * Asks once, and again when `ask` changes or `again` is called; a late answer to an old question is dropped. While the same is asked again,
 * what is known stays.
 */
export function useRemote<T>(ask: () => Promise<T>): { remote: Remote<T>; again: () => void } {
  const [remote, setRemote] = useState<Remote<T>>({ state: "loading" });
  const [round, setRound] = useState(0);
  const asked = useRef<() => Promise<T>>(null);
  useEffect(() => {
    let current = true;
    const same = asked.current === ask;
    asked.current = ask;
    setRemote((before) => (same && before.state === "loaded" ? before : { state: "loading" }));
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
