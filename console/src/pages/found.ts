import type { Module, Operation } from "../api/http";

const words = (text: string): string[] => text.toLowerCase().split(/\s+/).filter(Boolean);

const holds = (parts: (string | undefined)[], wanted: string[]): boolean => {
  const text = parts.join(" ").toLowerCase();
  return wanted.every((word) => text.includes(word));
};

const partsOf = ({ name, major, title, about, source }: Module): (string | undefined)[] => [`${name}/v${major}`, title, about, source];

const operationParts = ({ method, path, about }: Operation): (string | undefined)[] => [method, path, about];

/** The modules that hold every word, each with those of its operations that do; a module that holds them by itself keeps all of its own. */
export function found(modules: Module[], text: string): Module[] {
  const wanted = words(text);
  return modules.flatMap((module) => {
    if (holds(partsOf(module), wanted)) {
      return [module];
    }
    const operations = module.operations.filter((operation) => holds([...partsOf(module), ...operationParts(operation)], wanted));
    return operations.length === 0 ? [] : [{ ...module, operations }];
  });
}

/** What a module is at the moment; one can be several of them. */
export type State = "served" | "not served" | "drifted" | "deprecated";

/** What is wanted of modules beside words; empty for all. */
export interface Sieve {
  source: string;
  state: State | "";
  publishedBy: string;
}

export const allModules: Sieve = { source: "", state: "", publishedBy: "" };

export function statesOf({ served, drift, deprecated }: Module): State[] {
  return [served ? "served" : "not served", ...(drift.length > 0 ? (["drifted"] as const) : []), ...(deprecated === undefined ? [] : (["deprecated"] as const))];
}

/** Those that fit all that is wanted. */
export const sieved = (modules: readonly Module[], { source, state, publishedBy }: Sieve): Module[] =>
  modules.filter(
    (module) =>
      (source === "" || module.source === source) &&
      (state === "" || statesOf(module).includes(state)) &&
      (publishedBy === "" || module.publishedBy === publishedBy),
  );
