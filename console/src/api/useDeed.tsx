import { Alert } from "antd";
import { type ReactNode, useCallback, useState } from "react";

interface Deed {
  /** Shown while the last try has failed; null otherwise. */
  error: ReactNode;
  busy: boolean;
  /** Does something on the service, and what follows when that went well. */
  run: (work: () => Promise<unknown>, then?: () => void) => Promise<void>;
}

/** Something somebody makes the service do, with what went wrong beside it. */
export function useDeed(): Deed {
  const [message, setMessage] = useState<string>();
  const [busy, setBusy] = useState(false);
  const run = useCallback(async (work: () => Promise<unknown>, then?: () => void) => {
    setBusy(true);
    setMessage(undefined);
    try {
      await work();
      then?.();
    } catch (e) {
      setMessage(e instanceof Error ? e.message : String(e));
    } finally {
      setBusy(false);
    }
  }, []);
  return {
    error: message === undefined ? null : <Alert className="gap-below" type="error" showIcon title={message} />,
    busy,
    run,
  };
}
