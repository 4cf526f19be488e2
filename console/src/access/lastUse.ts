import type { Credential } from "../api/http";

/** When any of some credentials was used last; undefined for never. */
export const lastUse = (credentials: Credential[]): string | undefined =>
  credentials
    .map(({ usedAt }) => usedAt)
    .filter((moment) => moment !== undefined)
    .sort()
    .at(-1);
