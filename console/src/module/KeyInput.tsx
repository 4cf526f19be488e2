import { DeleteOutlined, PlusOutlined } from "@ant-design/icons";
import { Button, Input, Select, Tooltip } from "antd";
import { useState } from "react";
import type { Path } from "../moduletext/edits";
import { entriesIn, nodeAt, type TextNode, wordAt, wordsOf } from "../moduletext/nodes";
import type { KeyShape, Shape } from "../moduletext/shape";
import { inline, Typed, typedValue, type Value, valueOf } from "../moduletext/words";
import { FilterInput } from "./FilterInput";
import { useFormText } from "./formContext";
import { ParametersInput } from "./ParametersInput";

interface Props {
  path: Path;
  of: KeyShape;
}

/** Keys whose words are columns of the statement. */
const columnKeys: ReadonlySet<string> = new Set(["order", "sort", "search", "show"]);

/** Keys that need the whole width. */
export const isWide = ({ key, shape }: KeyShape): boolean =>
  shape.kind === "named" || shape.kind === "group" || (shape.kind === "text" && shape.long) || key === "filter";

/** One key of the text with its name, what it is for, and a means to say it that fits. */
export function KeyInput({ path, of }: Props) {
  const id = `key-${path.join("-")}`;
  const label = (
    <label htmlFor={id} className="key-name">
      {of.key}
    </label>
  );
  return (
    <div className={isWide(of) ? "key wide" : "key"}>
      {of.about === "" ? label : <Tooltip title={of.about}>{label}</Tooltip>}
      <Control id={id} path={path} of={of} />
    </div>
  );
}

function Control({ id, path, of }: Props & { id: string }) {
  const { root } = useFormText();
  if (of.key === "parameters" && path.length === 4) {
    return <ParametersInput path={path} />;
  }
  if (of.key === "filter" && path.length === 4) {
    return <FilterInput path={path} />;
  }
  if (nodeAt(root, path)?.kind === "broken") {
    return <span className="quiet">cannot be read; mend it in the text</span>;
  }
  switch (of.shape.kind) {
    case "text":
    case "number":
      return <WordInput id={id} path={path} of={of} />;
    case "flag":
      return <ChoiceInput id={id} path={path} options={["true", "false"]} otherwise={of.otherwise} />;
    case "choice":
      return <ChoiceInput id={id} path={path} options={of.shape.options} otherwise={of.otherwise} />;
    case "list":
      return <ListInput id={id} path={path} of={of} options={of.shape.options} />;
    case "group":
      return <GroupInput path={path} keys={of.shape.keys} />;
    case "named":
      return <NamedInput path={path} of={of.shape.of} />;
    case "anything":
      return <AnyInput id={id} path={path} otherwise={of.otherwise} />;
  }
}

function WordInput({ id, path, of }: Props & { id: string }) {
  const { root, set, remove } = useFormText();
  const value = wordAt(root, path);
  const isLong = of.shape.kind === "text" && of.shape.long;
  const change = (text: string) => {
    if (text === "") {
      remove(path);
    } else {
      set(path, of.shape.kind === "number" || /^\d+\.\d+\.\d+$/.test(text) ? new Typed(text) : text);
    }
  };
  return isLong ? (
    <Input.TextArea id={id} autoSize={{ minRows: 1, maxRows: 6 }} value={value} onChange={({ target }) => change(target.value)} />
  ) : (
    <Input id={id} value={value} placeholder={of.otherwise} onChange={({ target }) => change(target.value)} />
  );
}

function ChoiceInput({ id, path, options, otherwise }: { id: string; path: Path; options: readonly string[]; otherwise: string }) {
  const { root, set, remove } = useFormText();
  const value = wordAt(root, path);
  return (
    <Select
      id={id}
      allowClear
      placeholder={otherwise === "" ? "unset" : otherwise}
      value={value === "" ? null : value}
      options={options.map((one) => ({ value: one, label: one }))}
      onChange={(chosen: string | null | undefined) => (chosen == null ? remove(path) : set(path, new Typed(chosen)))}
    />
  );
}

function ListInput({ id, path, of, options }: Props & { id: string; options: readonly string[] }) {
  const { root, set, remove, columns } = useFormText();
  const node = nodeAt(root, path);
  const words = wordsOf(node);
  const known = columnKeys.has(of.key) ? columns : options;
  const change = (chosen: string[]) => {
    const [only] = chosen;
    if (only === undefined) {
      remove(path);
    } else {
      set(path, chosen.length === 1 && node?.kind === "word" ? only : chosen);
    }
  };
  return (
    <Select
      id={id}
      mode={options.length > 0 ? "multiple" : "tags"}
      value={words}
      placeholder="none"
      options={known.map((one) => ({ value: one, label: one }))}
      onChange={change}
    />
  );
}

/** The keys of a group; those that are said, and the others once somebody wants them. */
export function GroupInput({ path, keys }: { path: Path; keys: readonly KeyShape[] }) {
  return (
    <div className="key-grid inner">
      {keys.map((one) => (
        <KeyInput key={one.key} path={[...path, one.key]} of={one} />
      ))}
    </div>
  );
}

/** Entries that the writer names, such as steps, fields and conditions. */
function NamedInput({ path, of }: { path: Path; of: Shape }) {
  const { root, set } = useFormText();
  const entries = entriesIn(nodeAt(root, path));
  const [name, setName] = useState("");
  const add = () => {
    if (name.trim() !== "" && !entries.some(({ key }) => key === name.trim())) {
      set([...path, name.trim()], firstValue(of));
      setName("");
    }
  };
  return (
    <div className="named">
      {entries.map(({ key }) => (
        <NamedEntry key={key} path={[...path, key]} of={of} />
      ))}
      <div className="named-new">
        <Input size="small" aria-label={`New entry of ${String(path.at(-1))}`} placeholder="name" value={name} onChange={({ target }) => setName(target.value)} onPressEnter={add} />
        <Button size="small" icon={<PlusOutlined />} disabled={name.trim() === ""} onClick={add}>
          Add
        </Button>
      </div>
    </div>
  );
}

/** What a new entry says until somebody says more, so that it is no empty one. */
function firstValue(of: Shape): Value {
  if (of.kind === "group") {
    const [first] = of.keys;
    const value = first?.shape.kind === "flag" ? new Typed("true") : first?.shape.kind === "number" ? new Typed("422") : "...";
    return first === undefined ? {} : { [first.key]: value };
  }
  return of.kind === "choice" ? new Typed(of.options[0] ?? "") : "...";
}

function NamedEntry({ path, of }: { path: Path; of: Shape }) {
  const { remove } = useFormText();
  const name = String(path.at(-1));
  return (
    <div className="named-entry">
      <div className="named-head">
        <KeyName path={path} />
        {of.kind !== "group" && <Control id={`key-${path.join("-")}`} path={path} of={{ key: name, about: "", otherwise: "", shape: of }} />}
        <Button size="small" type="text" aria-label={`Remove ${name}`} icon={<DeleteOutlined />} onClick={() => remove(path)} />
      </div>
      {of.kind === "group" && <GroupInput path={path} keys={of.keys} />}
    </div>
  );
}

/** A name that the writer chose; it is changed when somebody leaves it. */
export function KeyName({ path }: { path: Path }) {
  const { rename } = useFormText();
  const name = String(path.at(-1));
  const [typed, setTyped] = useState(name);
  const done = () => (typed.trim() === "" ? setTyped(name) : typed !== name && rename(path, typed.trim()));
  return (
    <Input
      size="small"
      className="type"
      aria-label={`Name of ${name}`}
      value={typed}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={done}
      onPressEnter={done}
    />
  );
}

/** What a key can say in several ways, as it stands in the text; taken over when somebody leaves it. */
export function AnyInput({ id, path, otherwise }: { id: string; path: Path; otherwise: string }) {
  const { root, read, set, remove } = useFormText();
  const node = nodeAt(root, path);
  const said = node === undefined ? "" : shownAs(node);
  const [typed, setTyped] = useState<string>();
  const value = typed === undefined || typed.trim() === "" ? undefined : typedValue(read, typed);
  const isWrong = typed !== undefined && typed.trim() !== "" && value === undefined;
  const done = () => {
    if (typed !== undefined && typed !== said && !isWrong) {
      if (value === undefined) {
        remove(path);
      } else {
        set(path, value);
      }
    }
    if (!isWrong) {
      setTyped(undefined);
    }
  };
  return (
    <>
      <Input
        id={id}
        className="type"
        value={typed ?? said}
        placeholder={otherwise}
        {...(isWrong ? { status: "error" as const } : {})}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={done}
        onPressEnter={done}
      />
      {isWrong && <span className="wrong">Write a value, [one, other] or {"{ key: value }"}.</span>}
    </>
  );
}

const shownAs = (node: TextNode): string => inline(valueOf(node), "block");
