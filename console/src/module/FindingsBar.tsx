import { Collapse } from "antd";
import type { Finding } from "../api/http";
import { FindingList } from "../parts/FindingList";

interface Props {
  findings: readonly Finding[];
  checking: boolean;
  trouble: string | undefined;
  onGo: (finding: Finding) => void;
}

const order: readonly Finding["severity"][] = ["error", "warning", "advice"];

/** What is found in the text as it is now; each leads to its place. */
export function FindingsBar({ findings, checking, trouble, onGo }: Props) {
  const counts = order.flatMap((severity) => {
    const count = findings.filter((one) => one.severity === severity).length;
    return count === 0 ? [] : [`${count} ${severity}${count === 1 || severity === "advice" ? "" : "s"}`];
  });
  const words = trouble ?? (checking ? "Checking" : counts.length === 0 ? "Nothing to mend" : counts.join(", "));
  return (
    <Collapse
      className="findings-bar"
      size="small"
      items={[
        {
          key: "findings",
          label: (
            <span role="status" aria-label="Findings">
              {words}
            </span>
          ),
          extra: findings.length > 0 && <span className="quiet">F8 goes to the next one</span>,
          children: <FindingList findings={findings} onGo={onGo} />,
        },
      ]}
    />
  );
}
