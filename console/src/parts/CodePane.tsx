import { autocompletion, type CompletionSource, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap, indentWithTab } from "@codemirror/commands";
import { defaultHighlightStyle, HighlightStyle, indentUnit, syntaxHighlighting } from "@codemirror/language";
import { type Diagnostic, lintGutter, lintKeymap, setDiagnostics } from "@codemirror/lint";
import { searchKeymap } from "@codemirror/search";
import { Annotation, Compartment, EditorState, type Extension, Prec } from "@codemirror/state";
import { drawSelection, EditorView, keymap, lineNumbers } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { useEffect, useRef } from "react";
import { spliceBetween } from "../moduletext/splice";
import type { Appearance } from "../theme/useAppearance";

interface Props {
  text: string;
  label: string;
  language: Extension;
  completions: readonly CompletionSource[];
  problems: Diagnostic[];
  appearance: Appearance;
  /** Whether steps are taken back here, rather than by the page around it. */
  ownHistory: boolean;
  /** A place to be shown; a new object shows it again. */
  shown?: { at: number } | undefined;
  onText: (text: string) => void;
  onRun?: () => void;
}

const look = EditorView.theme({
  "&": { backgroundColor: "transparent", fontSize: "13px", height: "100%" },
  ".cm-gutters": { backgroundColor: "transparent", border: "none" },
  ".cm-content": { fontFamily: "ui-monospace, 'DejaVu Sans Mono', Menlo, monospace" },
});

const darkStyle = HighlightStyle.define([
  { tag: [tags.keyword, tags.operatorKeyword], color: "#8fb8e8" },
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: "#8fd0c8" },
  { tag: [tags.string, tags.special(tags.string)], color: "#d9b382" },
  { tag: [tags.number, tags.bool, tags.null], color: "#c9a0dc" },
  { tag: [tags.comment], color: "#8a9896" },
]);

const lightStyle = HighlightStyle.define([
  { tag: [tags.keyword, tags.operatorKeyword], color: "#2b5a94" },
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: "#1d6a66" },
  { tag: [tags.string, tags.special(tags.string)], color: "#8a5212" },
  { tag: [tags.number, tags.bool, tags.null], color: "#7a3f8f" },
  { tag: [tags.comment], color: "#6d7674" },
]);

/** Marks what comes from outside, so that it is not told back. */
const fromOutside = Annotation.define<boolean>();

/** Text to be edited. What changes outside is put in where it differs, so that the cursor and the scroll stay. */
export default function CodePane(props: Props) {
  const { text, label, language, completions, problems, appearance, ownHistory, shown } = props;
  const home = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const latest = useRef(props);
  latest.current = props;
  const parts = useRef({ completions: new Compartment(), appearance: new Compartment(), language: new Compartment() });

  useEffect(() => {
    const { completions: completing, appearance: looking, language: speaking } = parts.current;
    const run = keymap.of([{ key: "Mod-Enter", run: () => (latest.current.onRun?.(), latest.current.onRun !== undefined) }]);
    const created = new EditorView({
      parent: home.current as HTMLDivElement,
      state: EditorState.create({
        doc: latest.current.text,
        extensions: [
          EditorState.lineSeparator.of("\n"),
          lineNumbers(),
          drawSelection(),
          EditorView.lineWrapping,
          indentUnit.of("  "),
          look,
          lintGutter(),
          speaking.of(latest.current.language),
          completing.of(autocompletion({ override: [...latest.current.completions] })),
          looking.of(styleFor(latest.current.appearance)),
          Prec.highest(run),
          ownHistory ? [history(), keymap.of(historyKeymap)] : [],
          keymap.of([...completionKeymap, ...searchKeymap, ...lintKeymap, indentWithTab, ...defaultKeymap]),
          EditorView.contentAttributes.of({ "aria-label": label }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged && !update.transactions.some((one) => one.annotation(fromOutside) === true)) {
              latest.current.onText(update.state.doc.toString());
            }
          }),
        ],
      }),
    });
    view.current = created;
    return () => created.destroy();
  }, [label, ownHistory]);

  useEffect(() => {
    const known = view.current?.state.doc.toString() ?? "";
    if (known !== text) {
      const { from, removed, inserted } = spliceBetween(known, text);
      view.current?.dispatch({ changes: { from, to: from + removed.length, insert: inserted }, annotations: fromOutside.of(true) });
    }
  }, [text]);
  useEffect(() => view.current?.dispatch({ effects: parts.current.language.reconfigure(language) }), [language]);
  useEffect(
    () => view.current?.dispatch({ effects: parts.current.completions.reconfigure(autocompletion({ override: [...completions] })) }),
    [completions],
  );
  useEffect(() => view.current?.dispatch({ effects: parts.current.appearance.reconfigure(styleFor(appearance)) }), [appearance]);
  useEffect(() => {
    const editor = view.current;
    if (editor !== null) {
      const length = editor.state.doc.length;
      editor.dispatch(setDiagnostics(editor.state, problems.filter((one) => one.to <= length)));
    }
  }, [problems]);
  useEffect(() => {
    const editor = view.current;
    if (shown !== undefined && editor !== null) {
      const at = Math.min(shown.at, editor.state.doc.length);
      editor.dispatch({ selection: { anchor: at } });
      scrollTo(editor, at);
    }
  }, [shown]);
  return <div ref={home} className="code-pane" />;
}

/** Only the text moves, not the page around it. Lines that were not drawn yet have estimated heights, so it is looked at again. */
function scrollTo(editor: EditorView, at: number) {
  const move = () => {
    editor.scrollDOM.scrollTop = Math.max(0, editor.lineBlockAt(at).top - 40);
  };
  move();
  editor.requestMeasure({ read: () => undefined, write: move });
}

const styleFor = (appearance: Appearance): Extension => [
  EditorView.theme({}, { dark: appearance === "dark" }),
  syntaxHighlighting(appearance === "dark" ? darkStyle : lightStyle),
  syntaxHighlighting(defaultHighlightStyle, { fallback: true }),
];
