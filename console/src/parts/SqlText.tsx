import { MariaSQL, sql as sqlLanguage } from "@codemirror/lang-sql";
import CodeMirror, { EditorView } from "@uiw/react-codemirror";
import type { Appearance } from "../theme/useAppearance";

const look = EditorView.theme({
  "&": { backgroundColor: "transparent", fontSize: "13px" },
  ".cm-gutters": { backgroundColor: "transparent", border: "none" },
  ".cm-content": { fontFamily: "ui-monospace, 'DejaVu Sans Mono', Menlo, monospace" },
});

/** A statement to be read: coloured, selectable, not editable. */
export default function SqlText({ sql, appearance }: { sql: string; appearance: Appearance }) {
  return (
    <CodeMirror
      value={sql.trimEnd()}
      theme={appearance}
      editable={false}
      basicSetup={{ highlightActiveLine: false, highlightActiveLineGutter: false, foldGutter: false }}
      extensions={[sqlLanguage({ dialect: MariaSQL }), look, EditorView.lineWrapping]}
      aria-label="Statement"
    />
  );
}
