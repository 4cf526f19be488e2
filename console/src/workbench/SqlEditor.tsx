import type { CompletionContext, CompletionSource } from "@codemirror/autocomplete";
import { keywordCompletionSource, MariaSQL, schemaCompletionSource, sql as sqlLanguage } from "@codemirror/lang-sql";
import type { Diagnostic } from "@codemirror/lint";
import { useMemo } from "react";
import type { Contents } from "../api/http";
import CodePane from "../parts/CodePane";
import type { Appearance } from "../theme/useAppearance";

interface Props {
  value: string;
  contents: Contents | undefined;
  problems: Diagnostic[];
  appearance: Appearance;
  /** Whether steps are taken back here; a page that takes them back by itself says so. */
  ownHistory?: boolean;
  shown?: { at: number } | undefined;
  onChange: (value: string) => void;
  onRun: () => void;
}

const language = sqlLanguage({ dialect: MariaSQL });

/** A statement to be written: tables and columns are completed from the catalog, findings underlined where they stand. */
export default function SqlEditor({ value, contents, problems, appearance, ownHistory = true, shown, onChange, onRun }: Props) {
  const completions = useMemo(() => sources(contents), [contents]);
  return (
    <div className="sql-editor">
      <CodePane
        text={value}
        label="Statement"
        language={language}
        completions={completions}
        problems={problems}
        appearance={appearance}
        ownHistory={ownHistory}
        shown={shown}
        onText={onChange}
        onRun={onRun}
      />
    </div>
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
