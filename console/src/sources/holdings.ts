import type { Contents, Relation, Routine } from "../api/http";

/** One thing a source holds. */
export type Holding = { name: string; kind: string; rows: number | undefined; haystack: string } & (
  | { relation: Relation; routine?: never }
  | { relation?: never; routine: Routine }
);

/** Tables and views first, then routines, each by name as the service orders them. */
export function holdings(contents: Contents): Holding[] {
  return [
    ...contents.relations.map((relation) => ({
      name: relation.name,
      kind: relation.kind,
      rows: relation.rows,
      relation,
      haystack: [relation.name, relation.about, ...relation.columns.flatMap((column) => [column.name, column.about])]
        .join("\n")
        .toLowerCase(),
    })),
    ...contents.routines.map((routine) => ({
      name: routine.name,
      kind: routine.kind,
      rows: undefined,
      routine,
      haystack: [routine.name, routine.about, ...routine.parameters.map((parameter) => parameter.name)].join("\n").toLowerCase(),
    })),
  ];
}

/** Those that hold every word of the search; the ones with a word in their own name come first. */
export function matching(all: Holding[], search: string): Holding[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all.filter((one) => words.every((word) => one.haystack.includes(word)));
  const named = (one: Holding) => words.some((word) => one.name.toLowerCase().includes(word));
  return words.length === 0 ? found : [...found.filter(named), ...found.filter((one) => !named(one))];
}
