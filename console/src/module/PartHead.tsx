import { Button, Dropdown, Flex, Input, Typography } from "antd";
import { useState } from "react";
import { nodeAt, type TextNode } from "../moduletext/nodes";
import { MethodPath } from "../parts/MethodPath";
import type { Actions } from "./actions";
import type { Selection } from "./routes";
import type { Files } from "./work";

interface Props {
  selection: Selection;
  root: TextNode;
  act: Actions;
  change: (next: (files: Files) => Files) => void;
  onDuplicate: () => void;
  onDropped: () => void;
  onRenamed: (route: string) => void;
}

/** What is being looked at, and what can be done with it as a whole. */
export function PartHead({ selection, root, act, change, onDuplicate, onDropped, onRenamed }: Props) {
  const [typed, setTyped] = useState<string>();
  if (selection.part === "module") {
    return <Typography.Title level={2}>The module itself</Typography.Title>;
  }
  const { route } = selection;
  const isOperation = selection.part === "operation";
  const rename = () => {
    const wanted = (typed ?? route).trim();
    if (wanted !== route && /^\/\S*$/.test(wanted) && nodeAt(root, ["routes", wanted]) === undefined) {
      change((files) => act.rename(files, ["routes", route], wanted));
      onRenamed(wanted);
    }
    setTyped(undefined);
  };
  const drop = () => {
    change((files) => act.drop(files, selection));
    onDropped();
  };
  return (
    <Flex justify="space-between" align="start" gap="small" className="part-head">
      {typed === undefined ? (
        <Typography.Title level={2}>
          <MethodPath method={isOperation ? selection.method.toUpperCase() : ""} path={route} />
        </Typography.Title>
      ) : (
        <Input autoFocus className="type" aria-label="Path" value={typed} onChange={({ target }) => setTyped(target.value)} onBlur={rename} onPressEnter={rename} />
      )}
      <Dropdown
        trigger={["click"]}
        menu={{
          items: [
            { key: "rename", label: "Rename the path", onClick: () => setTyped(route) },
            ...(isOperation ? [{ key: "duplicate", label: "Duplicate", onClick: onDuplicate }] : []),
            { key: "up", label: "Move up", onClick: () => change((files) => act.shift(files, selection, -1)) },
            { key: "down", label: "Move down", onClick: () => change((files) => act.shift(files, selection, 1)) },
            { key: "drop", label: isOperation ? "Remove" : "Remove with its operations", danger: true, onClick: drop },
          ],
        }}
      >
        <Button size="small">Change</Button>
      </Dropdown>
    </Flex>
  );
}
