import { createContext, useContext } from "react";
import type { Path } from "../moduletext/edits";
import type { ModuleReader, TextNode } from "../moduletext/nodes";
import type { Value } from "../moduletext/words";

/** What the forms read, and how they write. */
export interface FormText {
  root: TextNode;
  read: ModuleReader;
  set: (path: Path, value: Value) => void;
  remove: (path: Path) => void;
  rename: (path: Path, key: string) => void;
  /** The columns of the statement that answers, as far as they are known. */
  columns: readonly string[];
}

export const FormContext = createContext<FormText | undefined>(undefined);

export function useFormText(): FormText {
  const text = useContext(FormContext);
  if (text === undefined) {
    throw new Error("a form stands inside a FormContext");
  }
  return text;
}
