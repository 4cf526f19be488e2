import { DeleteOutlined } from "@ant-design/icons";
import { Button, Select } from "antd";
import type { Path } from "../moduletext/edits";
import { nodeAt, type TextNode, wordsOf } from "../moduletext/nodes";
import type { Value } from "../moduletext/words";
import { useFormText } from "./formContext";

/** A column that callers may filter by, with the operators they may use; none for all that its type has. */
interface FilterLine {
  column: string;
  operators: readonly string[];
}

const operators = ["eq", "ne", "lt", "lte", "gt", "gte", "in", "starts", "contains", "null"];

function linesOf(node: TextNode | undefined): FilterLine[] {
  switch (node?.kind) {
    case "sequence":
      return node.items.flatMap(linesOf);
    case "mapping":
      return node.entries.map(({ key, value }) => ({ column: key, operators: wordsOf(value) }));
    case "word":
      return node.text === "" ? [] : [{ column: node.text, operators: [] }];
    case "broken":
    case undefined:
      return [];
  }
}

function valueFor({ column, operators: some }: FilterLine): Value {
  const [only] = some;
  return only === undefined ? column : { [column]: some.length === 1 ? only : some };
}

/** What callers may filter by, a column a line. */
export function FilterInput({ path }: { path: Path }) {
  const { root, set, remove, columns } = useFormText();
  const lines = linesOf(nodeAt(root, path));
  const write = (all: FilterLine[]) => {
    if (all.length > 0) {
      set(path, all.map(valueFor));
    } else {
      remove(path);
    }
  };
  const free = columns.filter((column) => !lines.some((line) => line.column === column));
  return (
    <div className="named">
      {lines.map((line, index) => (
        <div key={line.column} className="named-head filter-line">
          <span className="type">{line.column}</span>
          <Select
            size="small"
            mode="multiple"
            aria-label={`Operators for ${line.column}`}
            placeholder="all that its type has"
            value={[...line.operators]}
            options={operators.map((one) => ({ value: one, label: one }))}
            onChange={(chosen: string[]) => write(lines.map((one, at) => (at === index ? { ...one, operators: chosen } : one)))}
          />
          <Button
            size="small"
            type="text"
            aria-label={`Remove ${line.column}`}
            icon={<DeleteOutlined />}
            onClick={() => write(lines.filter((_, at) => at !== index))}
          />
        </div>
      ))}
      <Select
        size="small"
        aria-label="Add a column to filter by"
        placeholder="add a column"
        value={null}
        options={free.map((column) => ({ value: column, label: column }))}
        onChange={(column: string | null) => column !== null && write([...lines, { column, operators: [] }])}
        showSearch
      />
    </div>
  );
}
