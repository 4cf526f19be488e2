import type { Module, Operation } from "../api/http";

/** The address of an operation's page. */
export function operationLink(module: Module, operation: Operation): string {
  const key = `${operation.method} ${operation.path}`;
  return `/modules/${module.name}/v${module.major}?operation=${encodeURIComponent(key)}`;
}

/** The operation a page's address names; the first one when it names none. */
export function operationOf(module: Module, key: string | null): Operation | undefined {
  return key === null
    ? module.operations[0]
    : module.operations.find((operation) => `${operation.method} ${operation.path}` === key);
}

/** Where an operation is edited, tried and published anew. */
export function editLink(module: Module, operation: Operation): string {
  const name = `${operation.method} ${operation.path}`;
  return `/drafts/${encodeURIComponent(module.name)}/v${module.major}/edit?operation=${encodeURIComponent(name)}`;
}
