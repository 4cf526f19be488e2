import { Alert } from "antd";
import type { DriftNote } from "../api/http";

/** What no longer fits the database, before the first caller notices. */
export function DriftNotes({ notes, of }: { notes: DriftNote[]; of?: string }) {
  if (notes.length === 0) {
    return null;
  }
  return (
    <Alert
      className="gap-below"
      type={notes.some(({ breaking }) => breaking) ? "error" : "warning"}
      showIcon
      title={`${of === undefined ? "Its database" : `The database of ${of}`} is no longer what it was published against`}
      description={
        <ul className="drift">
          {notes.map(({ operation, words }) => (
            <li key={(operation ?? "") + words}>
              {operation !== undefined && <code>{operation}</code>} {words}
            </li>
          ))}
        </ul>
      }
    />
  );
}
