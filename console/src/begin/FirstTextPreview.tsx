import { Alert, Card, Empty, Spin, Tabs } from "antd";
import { useEffect, useState } from "react";
import { makeFirstText, type FirstText, type FirstTextRequest } from "../api/http";
import { FindingList, standing } from "../parts/FindingList";

const pauseMillis = 350;

/** The text that is made of some choices, a moment after they changed. */
export function useFirstText(request: FirstTextRequest | undefined): { made: FirstText | undefined; trouble: string | undefined; isLate: boolean } {
  const key = JSON.stringify(request) ?? "";
  const [state, setState] = useState<{ of: string; made: FirstText | undefined; trouble: string | undefined }>({ of: "", made: undefined, trouble: undefined });
  useEffect(() => {
    if (key === "") {
      return;
    }
    let current = true;
    const timer = setTimeout(() => {
      makeFirstText(JSON.parse(key) as FirstTextRequest).then(
        (made) => current && setState({ of: key, made, trouble: undefined }),
        (error: unknown) => current && setState({ of: key, made: undefined, trouble: error instanceof Error ? error.message : String(error) }),
      );
    }, pauseMillis);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [key]);
  return key === "" ? { made: undefined, trouble: undefined, isLate: false } : { ...state, isLate: state.of !== key };
}

/** The text as it would be kept, what could not be made, and what is found in it. */
export function FirstTextPreview({ made, trouble, isLate }: ReturnType<typeof useFirstText>) {
  if (trouble !== undefined) {
    return <Alert type="error" showIcon title="It could not be made" description={trouble} />;
  }
  if (made === undefined) {
    return isLate ? <Spin className="calling"><div className="calling" /></Spin> : <Empty image={Empty.PRESENTED_IMAGE_SIMPLE} description="Choose what it is made from; its text appears here." />;
  }
  const files = Object.entries(made.text.files).sort(([one], [other]) => Number(other === "module.yaml") - Number(one === "module.yaml"));
  const findings = standing(made.findings);
  return (
    <div className="stack" aria-busy={isLate}>
      <Card size="small" title={made.operations.length === 1 ? "1 operation" : `${made.operations.length} operations`} className="first-text">
        <Tabs size="small" items={files.map(([file, text]) => ({ key: file, label: file, children: <pre className="sql">{text}</pre> }))} />
      </Card>
      {made.notes.length > 0 && (
        <Card size="small" title={`${made.document === undefined ? "Not made" : "Notes"} (${made.notes.length})`}>
          <ul className="notes">
            {made.notes.map(({ subject, words }, index) => (
              <li key={index}>
                <b>{subject}</b> {words}
              </li>
            ))}
          </ul>
        </Card>
      )}
      {findings.length > 0 && (
        <Card size="small" title="Findings">
          <FindingList findings={findings} />
        </Card>
      )}
    </div>
  );
}
