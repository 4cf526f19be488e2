import { Alert, Button, Modal } from "antd";
import type { ModuleText } from "../api/http";
import { when } from "../parts/when";
import { TextDifference } from "../releases/TextDifference";
import type { Conflict } from "./useDraftSaving";

interface Props {
  conflict: Conflict;
  /** Goes on with a text, as the successor of a revision; of none for a draft that is begun anew. */
  take: (text: ModuleText | "mine", revision: number | undefined) => void;
  cancel: () => void;
}

/** Somebody else was quicker: shows what they changed, and leaves the choice. Nothing is saved here. */
export function ConflictDialog({ conflict, take, cancel }: Props) {
  switch (conflict.kind) {
    case "changed": {
      const { merge } = conflict;
      const unsettled = merge.unsettled.length;
      return (
        <Modal
          open
          width={900}
          title={`${merge.changedBy} changed this draft, ${when(merge.changedAt)}`}
          onCancel={cancel}
          footer={[
            <Button key="cancel" onClick={cancel}>
              Back to my text
            </Button>,
            <Button key="merge" type="primary" onClick={() => take(merge.text, merge.revision)}>
              Bring both together
            </Button>,
          ]}
        >
          {unsettled > 0 ? (
            <Alert
              className="gap-below"
              type="warning"
              showIcon
              title={`Both of you changed the same lines in ${merge.unsettled.join(", ")}. They will stand there between marks for you to settle.`}
            />
          ) : (
            <Alert className="gap-below" type="info" showIcon title="You changed different lines. Both can stand in one text." />
          )}
          <p className="quiet">What changed since you began; nothing of yours was overwritten, and nothing is saved yet.</p>
          <div className="conflict-text">
            <TextDifference files={merge.theirs} />
          </div>
        </Modal>
      );
    }
    case "apart":
      return (
        <Modal
          open
          title={`${conflict.changedBy} has a draft of this module, ${when(conflict.changedAt)}`}
          onCancel={cancel}
          footer={[
            <Button key="cancel" onClick={cancel}>
              Back to my text
            </Button>,
            <Button key="theirs" onClick={() => take(conflict.text, conflict.revision)}>
              Go on with theirs
            </Button>,
            <Button key="mine" danger onClick={() => take("mine", conflict.revision)}>
              Mine takes its place
            </Button>,
          ]}
        >
          <p>The text that yours began from is not kept as a draft, so the two cannot be brought together line by line. The history keeps theirs.</p>
        </Modal>
      );
    case "gone":
      return (
        <Modal
          open
          title="Somebody threw this draft away"
          onCancel={cancel}
          okText="Begin it anew with my text"
          onOk={() => take("mine", undefined)}
        >
          <p>Your text is still here. Nothing was saved.</p>
        </Modal>
      );
  }
}
