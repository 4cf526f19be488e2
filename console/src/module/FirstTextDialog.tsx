import { Modal } from "antd";
import { useReducer } from "react";
import type { Contents, ModuleText } from "../api/http";
import { choiceReducer, nothingChosen, requestFor } from "../begin/choices";
import { FirstTextPreview, useFirstText } from "../begin/FirstTextPreview";
import { StartChooser } from "../begin/StartChooser";

interface Props {
  source: string;
  contents: Contents;
  text: ModuleText;
  take: (text: ModuleText) => void;
  cancel: () => void;
}

/** Adds operations on tables, routines or a statement to the text that is being written. Nothing is saved here. */
export function FirstTextDialog({ source, contents, text, take, cancel }: Props) {
  const [choices, dispatch] = useReducer(choiceReducer, nothingChosen(source));
  const preview = useFirstText(requestFor(choices, text));
  const { made } = preview;
  return (
    <Modal
      open
      width={1100}
      title="Add operations from what there is"
      okText="Take them over"
      okButtonProps={{ disabled: made === undefined || preview.isLate }}
      onOk={() => made !== undefined && take(made.text)}
      onCancel={cancel}
    >
      <div className="columns even">
        <div>
          <StartChooser contents={contents} choices={choices} read={made?.document} dispatch={dispatch} />
        </div>
        <FirstTextPreview {...preview} />
      </div>
    </Modal>
  );
}
