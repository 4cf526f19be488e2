/** The one place where two texts differ. */
export function spliceBetween(before: string, after: string): { from: number; removed: string; inserted: string } {
  const most = Math.min(before.length, after.length);
  let from = 0;
  while (from < most && before.charCodeAt(from) === after.charCodeAt(from)) {
    from++;
  }
  let tail = 0;
  while (tail < most - from && before.charCodeAt(before.length - 1 - tail) === after.charCodeAt(after.length - 1 - tail)) {
    tail++;
  }
  return { from, removed: before.slice(from, before.length - tail), inserted: after.slice(from, after.length - tail) };
}
