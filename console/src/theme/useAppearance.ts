import { useCallback, useEffect, useState } from "react";

export type Appearance = "light" | "dark";

const key = "tidy-appearance";
const prefersDark = () => window.matchMedia("(prefers-color-scheme: dark)");

function chosen(): Appearance | undefined {
  const kept = localStorage.getItem(key);
  return kept === "light" || kept === "dark" ? kept : undefined;
}

/** Light or dark: what was chosen here before, otherwise what the system says, also while that changes. */
export function useAppearance(): { appearance: Appearance; toggle: () => void } {
  const [appearance, setAppearance] = useState<Appearance>(() => chosen() ?? (prefersDark().matches ? "dark" : "light"));
  useEffect(() => {
    const query = prefersDark();
    const follow = () => chosen() === undefined && setAppearance(query.matches ? "dark" : "light");
    query.addEventListener("change", follow);
    return () => query.removeEventListener("change", follow);
  }, []);
  const toggle = useCallback(() => {
    setAppearance((now) => {
      const next = now === "dark" ? "light" : "dark";
      localStorage.setItem(key, next);
      return next;
    });
  }, []);
  return { appearance, toggle };
}
