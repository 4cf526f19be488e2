const words: Readonly<Record<string, string>> = {
  eq: "is",
  ne: "is not",
  lt: "<",
  lte: "\u2264",
  gt: ">",
  gte: "\u2265",
  in: "is one of",
  starts: "begins with",
  contains: "contains",
  null: "has no value",
};

/** A condition for people: length_m[gte] is "length_m \u2265". */
export function filterLabel(name: string): string {
  const found = /^(.*)\[(\w+)\]$/.exec(name);
  return found === null ? name : `${found[1]} ${words[found[2] ?? ""] ?? found[2]}`;
}
