import type { FileDifference } from "../api/http";

export type Line = FileDifference["pieces"][number]["lines"][number];

/** What stands beside each other: a line of the earlier text, of the later one, or of both. */
export interface Pair {
  before: Line | undefined;
  now: Line | undefined;
}

/** Puts lines side by side: lines that are gone beside those that came in their place. */
export function paired(lines: Line[]): Pair[] {
  const pairs: Pair[] = [];
  let gone: Line[] = [];
  let come: Line[] = [];
  const settle = () => {
    for (let i = 0; i < Math.max(gone.length, come.length); i++) {
      pairs.push({ before: gone[i], now: come[i] });
    }
    gone = [];
    come = [];
  };
  for (const line of lines) {
    if (line.now === undefined) {
      if (come.length > 0) {
        settle();
      }
      gone.push(line);
    } else if (line.before === undefined) {
      come.push(line);
    } else {
      settle();
      pairs.push({ before: line, now: line });
    }
  }
  settle();
  return pairs;
}
