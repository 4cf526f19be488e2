import { useSyncExternalStore } from "react";

const less = () => window.matchMedia("(prefers-reduced-motion: reduce)");

function subscribe(changed: () => void) {
  const query = less();
  query.addEventListener("change", changed);
  return () => query.removeEventListener("change", changed);
}

/** Whether somebody asked their system for less movement, also while that changes. */
export function useReducedMotion(): boolean {
  return useSyncExternalStore(subscribe, () => less().matches);
}
