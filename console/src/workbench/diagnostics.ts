import type { Diagnostic } from "@codemirror/lint";
import type { Finding, Look } from "../api/http";

const severities: Record<Finding["severity"], Diagnostic["severity"]> = { error: "error", warning: "warning", advice: "info" };

/** Where the word starts and ends that a line and column (from 1) point at; the whole first line for the file as a whole. */
export function spot(sql: string, line: number, column: number): { from: number; to: number } {
  const lines = sql.split("\n");
  if (line === 0) {
    return { from: 0, to: (lines[0] ?? "").length };
  }
  const start = lines.slice(0, line - 1).reduce((sum, text) => sum + text.length + 1, 0);
  const text = lines[line - 1] ?? "";
  const from = Math.min(column - 1, text.length);
  const word = /^(:?[\w$]+|\S)/.exec(text.slice(from));
  return { from: start + from, to: start + Math.min(text.length, from + (word?.[0].length ?? 1)) };
}

/** What is underlined in the statement. */
export function diagnostics(sql: string, file: string, findings: Finding[], look: Look | undefined): Diagnostic[] {
  const found = findings
    .filter((finding) => finding.file === file && finding.accepted === undefined)
    .map((finding) => ({
      ...spot(sql, finding.line, finding.column),
      severity: severities[finding.severity],
      message: `${finding.message} ${finding.remedy}`,
      source: finding.code,
    }));
  const told = look?.trouble !== undefined && !findings.some((finding) => finding.file === file && finding.severity === "error");
  return told ? [...found, { ...spot(sql, look.line, look.column), severity: "error", message: look.trouble ?? "" }] : found;
}
