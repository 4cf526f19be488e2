import { Button, Flex, Space, Tooltip, Typography } from "antd";
import { Link } from "react-router";
import type { Saving } from "./useDraftSaving";

interface Props {
  identity: string;
  saving: Saving;
  isSaved: boolean;
  canUndo: boolean;
  canRedo: boolean;
  showsText: boolean;
  does: { undo: () => void; redo: () => void; save: () => void; compare: () => void; find: () => void; toggleText: () => void };
}

/** Which text this is, whether it is saved, and what can be done with the whole. */
export function EditorHead({ identity, saving, isSaved, canUndo, canRedo, showsText, does }: Props) {
  const { revision } = saving;
  return (
    <div className="page-head editing-head">
      <Typography.Title level={1}>{identity}</Typography.Title>
      <span className="quiet" role="status" aria-label="Draft">
        {revision === undefined ? "what is live, no draft yet" : `draft, revision ${revision}`}
        {isSaved ? "" : ", not saved"}
      </span>
      <Space.Compact>
        <Tooltip title="Ctrl Z">
          <Button size="small" disabled={!canUndo} onClick={does.undo}>
            Undo
          </Button>
        </Tooltip>
        <Tooltip title="Ctrl Shift Z">
          <Button size="small" disabled={!canRedo} onClick={does.redo}>
            Redo
          </Button>
        </Tooltip>
      </Space.Compact>
      <Button size="small" onClick={does.toggleText}>
        {showsText ? "Hide text" : "Show text"}
      </Button>
      <Tooltip title="Every command and operation, Ctrl K">
        <Button size="small" onClick={does.find}>
          Go to
        </Button>
      </Tooltip>
      <Flex gap="small" className="editing-deeds">
        <Link to="/drafts">Drafts</Link>
        <Button size="small" onClick={does.compare}>
          Compare and publish
        </Button>
        <Button size="small" type="primary" disabled={saving.state === "saving" || (isSaved && revision !== undefined)} onClick={does.save}>
          Save
        </Button>
      </Flex>
    </div>
  );
}
