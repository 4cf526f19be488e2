import type { Difference } from "../api/http";

export type Effect = Difference["effect"];

/** The gravest first. */
export const effects: Effect[] = ["breaking", "safe", "internal"];

export const effectColour: Record<Effect, string> = { breaking: "error", safe: "processing", internal: "default" };

export const effectMeaning: Record<Effect, string> = {
  breaking: "Some callers are let down.",
  safe: "Callers can go on as before.",
  internal: "No caller can tell.",
};

/** Differences of one effect, by the operation they are about. */
export function byOperation(differences: Difference[], effect: Effect): [string, Difference[]][] {
  const groups = new Map<string, Difference[]>();
  for (const difference of differences.filter((one) => one.effect === effect)) {
    const place = difference.operation ?? "";
    groups.set(place, [...(groups.get(place) ?? []), difference]);
  }
  return [...groups];
}

/** How many there are of each effect, without those of which there is none. */
export const counted = (differences: Difference[]): [Effect, number][] =>
  effects
    .map((effect): [Effect, number] => [effect, differences.filter((one) => one.effect === effect).length])
    .filter(([, count]) => count > 0);
