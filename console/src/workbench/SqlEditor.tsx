import { autocompletion, type CompletionContext, type CompletionSource } from "@codemirror/autocomplete";
import { keywordCompletionSource, MariaSQL, schemaCompletionSource, sql as sqlLanguage } from "@codemirror/lang-sql";
import { type Diagnostic, lintGutter, setDiagnostics } from "@codemirror/lint";
import { Prec } from "@codemirror/state";
import CodeMirror, { EditorView, keymap, type ReactCodeMirrorRef } from "@uiw/react-codemirror";
import { useEffect, useMemo, useRef } from "react";
import type { Contents } from "../api/http";
import type { Appearance } from "../theme/useAppearance";

interface Props {
  value: string;
  contents: Contents | undefined;
  problems: Diagnostic[];
  appearance: Appearance;
  onChange: (value: string) => void;
  onRun: () => void;
}

const look = EditorView.theme({
  "&": { backgroundColor: "transparent", fontSize: "13.5px" },
  ".cm-gutters": { backgroundColor: "transparent", border: "none" },
  ".cm-content": { fontFamily: "ui-monospace, 'DejaVu Sans Mono', Menlo, monospace", minHeight: "190px" },
});

/** A statement to be written: tables and columns are completed from the catalog, findings underlined where they stand. */
export default function SqlEditor({ value, contents, problems, appearance, onChange, onRun }: Props) {
  const editor = useRef<ReactCodeMirrorRef>(null);
  const run = useRef(onRun);
  run.current = onRun;
  const extensions = useMemo(
    () => [
      sqlLanguage({ dialect: MariaSQL }),
      autocompletion({ override: sources(contents) }),
      lintGutter(),
      look,
      EditorView.lineWrapping,
      Prec.highest(keymap.of([{ key: "Mod-Enter", run: () => (run.current(), true) }])),
    ],
    [contents],
  );
  useEffect(() => {
    const view = editor.current?.view;
    if (view !== undefined) {
      const length = view.state.doc.length;
      const fitting = problems.filter((one) => one.to <= length);
      view.dispatch(setDiagnostics(view.state, fitting));
    }
  }, [problems]);
  return (
    <CodeMirror
      ref={editor}
      value={value}
      theme={appearance}
      basicSetup={{ foldGutter: false, highlightActiveLineGutter: false, autocompletion: false }}
      extensions={extensions}
      onChange={onChange}
      aria-label="Statement"
    />
  );
}

/** Tables, columns and keywords; the names of bind parameters and of markings are the writer's own. */
function sources(contents: Contents | undefined): CompletionSource[] {
  const config = { dialect: MariaSQL, schema: namespace(contents) };
  return [schemaCompletionSource(config), keywordCompletionSource(MariaSQL)].map(
    (source) => (context: CompletionContext) => (context.matchBefore(/:\w*|--.*/) === null ? source(context) : null),
  );
}

/** The tables and views with their columns, as the editor completes them. */
function namespace(contents: Contents | undefined): Record<string, string[]> {
  return Object.fromEntries((contents?.relations ?? []).map((relation) => [relation.name, relation.columns.map((column) => column.name)]));
}
