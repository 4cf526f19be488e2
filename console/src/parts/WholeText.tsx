import { Typography } from "antd";
import type { ModuleText } from "../api/http";

const first = "module.yaml";

/** Every file of a module's text, as it is; the one that names the others comes first. */
export function WholeText({ text }: { text: ModuleText }) {
  const files = Object.entries(text.files).sort(([one], [other]) => Number(other === first) - Number(one === first));
  return files.map(([file, lines]) => (
    <section key={file} aria-label={file} className="gap-below">
      <Typography.Text strong>{file}</Typography.Text>
      <pre className="sql">{lines}</pre>
    </section>
  ));
}
