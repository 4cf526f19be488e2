/** How rows are sorted now, and what a click on a column makes of it. */
export interface Sorting {
  sorts: readonly string[];
  sort: string;
  onSort: (sort: string) => void;
}

export type Direction = "ascend" | "descend" | null;

/** Which way a column is sorted: only the first field of a sort is shown. */
export function directionOf(sort: string, column: string): Direction {
  const first = sort.split(",")[0] ?? "";
  if (first === column) {
    return "ascend";
  }
  return first === `-${column}` ? "descend" : null;
}

/** The sort by one column, as an address says it. */
export function sortBy(column: string, direction: Direction): string {
  if (direction === null) {
    return "";
  }
  return direction === "ascend" ? column : `-${column}`;
}
