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
