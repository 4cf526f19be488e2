import type { Client } from "../api/http";

/** A quota for people; absent parts are not bounded. */
export const quotaWords = (quota: Client["quota"]): string =>
  [
    ...(quota?.calls === undefined ? [] : [`${quota.calls} calls in ${quota.perSeconds ?? 60} s`]),
    ...(quota?.concurrent === undefined ? [] : [`${quota.concurrent} at a time`]),
  ].join(", ") || "none";
