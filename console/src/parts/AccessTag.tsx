import { Tag, Tooltip } from "antd";
import type { Module, Operation } from "../api/http";

interface Props {
  access: Module["access"];
  needs: string[];
}

/** Who may call something: everybody, holders of a privilege, or administrators only. */
export function AccessTag({ access, needs }: Props) {
  switch (access) {
    case "open":
      return <Tag color="warning">open to everybody</Tag>;
    case "partly-open":
      return (
        <Tooltip title={needs.length > 0 ? `The rest needs ${needs.join(", ")}` : undefined}>
          <Tag color="warning">partly open</Tag>
        </Tooltip>
      );
    case "protected":
      return needs.length > 2 ? (
        <Tooltip title={needs.join(", ")}>
          <Tag>needs a privilege</Tag>
        </Tooltip>
      ) : (
        <Tag>needs {needs.join(" or ")}</Tag>
      );
    case "closed":
      return <Tag>closed</Tag>;
  }
}

/** The same of a module, which may not be served at all. */
export function ModuleAccess({ module }: { module: Module }) {
  return module.served ? <AccessTag access={module.access} needs={module.needs} /> : <Tag color="error">not served</Tag>;
}

/** The same of an operation. */
export function OperationAccess({ module, operation }: { module: Module; operation: Operation }) {
  return module.served ? <AccessTag access={operation.access} needs={operation.needs} /> : <Tag color="error">not served</Tag>;
}
