import { useMemo } from "react";
import type { Contents, Finding } from "../api/http";
import type { TextNode } from "../moduletext/nodes";
import type { Appearance } from "../theme/useAppearance";
import type { Actions } from "./actions";
import { FormContext, type FormText } from "./formContext";
import type { Kept } from "./kept";
import { OperationPart } from "./OperationPart";
import { PartForm } from "./PartForm";
import { PartHead } from "./PartHead";
import { nameOf, type Selection } from "./routes";
import type { Start } from "./start";
import type { Files } from "./work";

export interface PartProps {
  start: Start;
  selection: Selection;
  root: TextNode;
  form: Omit<FormText, "columns">;
  act: Actions;
  files: Files;
  findings: Finding[];
  contents: Contents | undefined;
  appearance: Appearance;
  store: Kept;
  /** A place to be shown in one of the files. */
  shown: { file: string; at: number } | undefined;
  change: (next: (files: Files) => Files) => void;
}

interface Props extends PartProps {
  onDuplicate: () => void;
  onDropped: () => void;
  onRenamed: (route: string) => void;
}

/** What is being looked at: the module, a route, or an operation with its statements, its trial and its forms. */
export function PartPane(props: Props) {
  const { selection, root, form, act, change, onDuplicate, onDropped, onRenamed } = props;
  const text = useMemo(() => ({ ...form, columns: [] }), [form]);
  return (
    <section className="part" aria-label={nameOf(selection) || "Module"}>
      <PartHead {...{ selection, root, act, change, onDuplicate, onDropped, onRenamed }} />
      {selection.part === "operation" ? (
        <OperationPart key={nameOf(selection)} {...props} selection={selection} />
      ) : (
        <FormContext value={text}>
          <PartForm selection={selection} />
        </FormContext>
      )}
    </section>
  );
}
