import { useEffect, useRef } from "react";

/** The keys that were pressed, `Mod Shift z`; Mod is Ctrl, or the command key. */
export function pressedOf(event: Pick<KeyboardEvent, "ctrlKey" | "metaKey" | "shiftKey" | "altKey" | "key">): string {
  const held = [event.ctrlKey || event.metaKey ? "Mod" : "", event.shiftKey ? "Shift" : "", event.altKey ? "Alt" : ""];
  return [...held, event.key.length === 1 ? event.key.toLowerCase() : event.key].filter((one) => one !== "").join(" ");
}

/** Does what keys stand for, wherever on the page they are pressed. */
export function useKeys(does: Readonly<Record<string, () => void>>): void {
  const latest = useRef(does);
  latest.current = does;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const action = latest.current[pressedOf(event)];
      if (action !== undefined) {
        event.preventDefault();
        event.stopPropagation();
        action();
      }
    };
    // before the editors and fields, which would take steps back by themselves
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, []);
}
