import type { Module, Operation, Role } from "../api/http";

/** True when something a role holds, written out or as a group, is a privilege. */
export function holds(role: Role, privilege: string): boolean {
  return role.holds.some(
    (held) => held === "*" || held === privilege || (held.endsWith(".*") && privilege.startsWith(held.slice(0, -1))),
  );
}

/** Why a role opens an operation: it is open, or for which of its privileges; undefined when it does not. */
export function opens(role: Role, operation: Operation): string | undefined {
  if (operation.access === "open") {
    return "open";
  }
  if (operation.needs.length === 0) {
    return role.holds.includes("*") ? "every privilege" : undefined;
  }
  return operation.needs.find((privilege) => holds(role, privilege));
}

export interface MatrixRow {
  key: string;
  operation: Operation;
}

/** What a module is called, with its major version. */
export const identityOf = ({ name, major }: Module): string => `${name}/v${major}`;

/** The operations of a module, one a row. */
export const matrixRows = (module: Module): MatrixRow[] =>
  module.operations.map((operation) => ({ key: `${operation.method} ${operation.path}`, operation }));
