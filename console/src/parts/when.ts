/** A moment as people read it; a dash for none. */
export const when = (moment: string | undefined): string =>
  moment === undefined ? "–" : new Date(moment).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });
