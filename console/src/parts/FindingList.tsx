import { Button, Empty, Tag } from "antd";
import type { Finding } from "../api/http";

const colours: Record<Finding["severity"], string> = { error: "error", warning: "warning", advice: "default" };

/** Those that somebody should read: the text does not accept them, and they are no advice for whoever writes it. */
export const standing = (findings: Finding[]): Finding[] =>
  findings.filter(({ accepted, severity }) => accepted === undefined && severity !== "advice");

interface Props {
  findings: readonly Finding[];
  /** Leads to a finding's place, where there is a text to be mended. */
  onGo?: (finding: Finding) => void;
}

/** Findings with their code, place, sentence and remedy; each code leads to its page. */
export function FindingList({ findings, onGo }: Props) {
  if (findings.length === 0) {
    return <Empty image={Empty.PRESENTED_IMAGE_SIMPLE} description="Nothing to mend." />;
  }
  return (
    <ul className="findings">
      {findings.map((finding, index) => (
        <li key={index}>
          <div>
            <Tag color={colours[finding.severity]}>{finding.severity}</Tag>
            <a href={`/findings/${finding.code}`} target="_blank" rel="noreferrer">
              {finding.code}
            </a>
            {onGo === undefined ? (
              <span className="quiet">{placeOf(finding)}</span>
            ) : (
              <Button size="small" type="link" onClick={() => onGo(finding)}>
                {finding.operation ?? "module"}, {placeOf(finding)}
              </Button>
            )}
          </div>
          <p>{finding.message}</p>
          <p className="quiet">{finding.remedy}</p>
        </li>
      ))}
    </ul>
  );
}

const placeOf = ({ file, line, column }: Finding): string => `${file.split("/").pop() ?? ""}${line > 0 ? `:${line}:${column}` : ""}`;
