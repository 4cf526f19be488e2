import { DeleteOutlined, DownOutlined, RightOutlined } from "@ant-design/icons";
import { Button, Checkbox, Input, Select } from "antd";
import { useState } from "react";
import type { Path } from "../moduletext/edits";
import { entriesIn, nodeAt, wordAt } from "../moduletext/nodes";
import { moduleSchema, schemaAt } from "../moduletext/schema";
import { keysOf, type KeyShape } from "../moduletext/shape";
import { Typed } from "../moduletext/words";
import { useFormText } from "./formContext";
import { AnyInput, GroupInput, KeyName } from "./KeyInput";

/** What a parameter's line shows; the other keys stand below it. */
const onTheLine: ReadonlySet<string> = new Set(["in", "type", "required", "example"]);

/** The parameters of an operation, each on a line, with everything else it can say below. */
export function ParametersInput({ path }: { path: Path }) {
  const { root, set } = useFormText();
  const entries = entriesIn(nodeAt(root, path));
  const schema = schemaAt(moduleSchema, [...path, "any"]);
  const keys = schema === undefined ? [] : keysOf(schema, moduleSchema);
  const [name, setName] = useState("");
  const add = () => {
    const wanted = name.trim();
    if (/^[A-Za-z_]\w*$/.test(wanted) && !entries.some(({ key }) => key === wanted)) {
      set([...path, wanted], { in: String(path[1]).includes(`{${wanted}}`) ? "path" : "query", type: "string" });
      setName("");
    }
  };
  return (
    <div className="named">
      {entries.length > 0 && (
        <div className="parameter-line head quiet" aria-hidden>
          <span /> <span>bind parameter</span> <span>in</span> <span>type</span> <span>required</span> <span>example</span> <span />
        </div>
      )}
      {entries.map(({ key }) => (
        <ParameterLine key={key} path={[...path, key]} keys={keys} />
      ))}
      <div className="named-new">
        <Input size="small" aria-label="New parameter" placeholder="name" value={name} onChange={({ target }) => setName(target.value)} onPressEnter={add} />
        <Button size="small" disabled={name.trim() === ""} onClick={add}>
          Add
        </Button>
      </div>
    </div>
  );
}

function ParameterLine({ path, keys }: { path: Path; keys: readonly KeyShape[] }) {
  const { root, set, remove } = useFormText();
  const [open, setOpen] = useState(false);
  const name = String(path.at(-1));
  const source = wordAt(root, [...path, "in"]);
  const choice = (key: string) => {
    const shape = keys.find((one) => one.key === key)?.shape;
    const value = wordAt(root, [...path, key]);
    return (
      <Select
        size="small"
        aria-label={`${key} of ${name}`}
        value={value === "" ? null : value}
        options={(shape?.kind === "choice" ? shape.options : []).map((one) => ({ value: one, label: one }))}
        onChange={(chosen: string) => set([...path, key], chosen)}
        popupMatchSelectWidth={false}
      />
    );
  };
  return (
    <div className="named-entry">
      <div className="parameter-line">
        <Button
          size="small"
          type="text"
          aria-expanded={open}
          aria-label={`More about ${name}`}
          icon={open ? <DownOutlined /> : <RightOutlined />}
          onClick={() => setOpen(!open)}
        />
        <KeyName path={path} />
        {choice("in")}
        {choice("type")}
        <Checkbox
          aria-label={`${name} is required`}
          disabled={source === "path"}
          checked={source === "path" || wordAt(root, [...path, "required"]) === "true"}
          onChange={({ target }) => (target.checked ? set([...path, "required"], new Typed("true")) : remove([...path, "required"]))}
        />
        <AnyInput id={`example-${name}`} path={[...path, "example"]} otherwise="" />
        <Button size="small" type="text" aria-label={`Remove ${name}`} icon={<DeleteOutlined />} onClick={() => remove(path)} />
      </div>
      {open && <GroupInput path={path} keys={keys.filter(({ key }) => !onTheLine.has(key))} />}
    </div>
  );
}
