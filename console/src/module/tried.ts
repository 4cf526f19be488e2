import type { Operation, Parameter } from "../api/http";
import { callAddress, callHeaders, curlLine } from "../call/address";
import { callBody } from "../call/body";
import type { MethodKey, TriedParameter } from "./routes";

/** The line for a shell that calls an operation as its text describes it, once it is published. */
export function curlOf(
  origin: string,
  basePath: string,
  method: MethodKey,
  path: string,
  parameters: readonly TriedParameter[],
  values: Readonly<Record<string, string>>,
): string {
  const operation = {
    method: method.toUpperCase() as Operation["method"],
    path,
    parameters: parameters.filter((one) => one.in !== "caller" && one.in !== "request").map(described),
    filters: [],
    page: undefined,
  } as unknown as Operation;
  const inputs = Object.fromEntries(parameters.map((one) => [calledName(one), values[one.bind] ?? ""]));
  return curlLine(operation.method, origin, callAddress(basePath, operation, inputs), callHeaders(operation, inputs), callBody(operation, inputs));
}

/** What callers write: of a body, where it stands. */
const calledName = ({ in: source, name, pointer }: TriedParameter): string =>
  source === "body" ? (pointer ?? `/${name.replaceAll("~", "~0").replaceAll("/", "~1")}`) : name;

const described = (one: TriedParameter): Parameter => ({
  name: calledName(one),
  bind: one.bind,
  in: one.in as Parameter["in"],
  type: one.type as Parameter["type"],
  required: one.required,
  allowed: [],
});
