import { Input, Modal } from "antd";
import { useState } from "react";

/** Something that can be done or gone to from anywhere on the page. */
export interface Command {
  name: string;
  /** The keys that do it too; empty for none. */
  keys: string;
  run: () => void;
}

const most = 12;

/** Finds a command or an operation by a few letters. */
export function Palette({ commands, close }: { commands: readonly Command[]; close: () => void }) {
  const [wanted, setWanted] = useState("");
  const [at, setAt] = useState(0);
  const words = wanted.toLowerCase().split(/\s+/);
  const found = commands.filter(({ name }) => words.every((word) => name.toLowerCase().includes(word))).slice(0, most);
  const run = (command: Command | undefined) => {
    if (command !== undefined) {
      close();
      command.run();
    }
  };
  const press = (event: React.KeyboardEvent) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step !== 0) {
      event.preventDefault();
      setAt(Math.max(0, Math.min(found.length - 1, at + step)));
    }
  };
  return (
    <Modal open closable={false} footer={null} onCancel={close} title="Go to, or do">
      <Input
        autoFocus
        role="combobox"
        aria-label="Go to, or do"
        aria-expanded
        aria-controls="palette-list"
        placeholder="an operation or a command"
        value={wanted}
        onChange={({ target }) => {
          setWanted(target.value);
          setAt(0);
        }}
        onKeyDown={press}
        onPressEnter={() => run(found[at])}
      />
      <ul id="palette-list" role="listbox" className="palette">
        {found.map((command, index) => (
          <li key={command.name} role="option" aria-selected={index === at} onClick={() => run(command)}>
            <span>{command.name}</span>
            <kbd>{command.keys}</kbd>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
