import { Tag } from "antd";
import type { components } from "../desk";

/** That callers should stop using something, and until when it works; nothing for what is not deprecated. */
export function EndTag({ deprecated }: { deprecated: components["schemas"]["Deprecation"] | undefined }) {
  if (deprecated === undefined) {
    return null;
  }
  const { ends, successor } = deprecated;
  return (
    <Tag color="warning" title={successor === undefined ? undefined : `${successor} takes its place.`}>
      {ends === undefined ? "deprecated" : `ends ${ends}`}
    </Tag>
  );
}
