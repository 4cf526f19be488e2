import { PlusOutlined } from "@ant-design/icons";
import { Badge, Button, Dropdown, Input, Tree } from "antd";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import type { Finding } from "../api/http";
import { MethodPath } from "../parts/MethodPath";
import { foundRoutes, nameOf, type RouteLine, type Selection, selectionOf } from "./routes";

interface Props {
  title: string;
  routes: readonly RouteLine[];
  findings: readonly Finding[];
  selected: string;
  onSelect: (selection: Selection) => void;
  onAdd: () => void;
  onAddFromTables: () => void;
  /** A route was dragged before another, or behind them all. */
  onPlace: (route: string, before: string | undefined) => void;
}

interface Line {
  key: string;
  title: React.ReactNode;
  children?: Line[];
  isLeaf?: boolean;
}

/** The module, its routes and their operations. Hundreds of them are drawn only where they are seen. */
export const OperationTree = memo(function OperationTree({ title, routes, findings, selected, onSelect, onAdd, onAddFromTables, onPlace }: Props) {
  const [wanted, setWanted] = useState("");
  const { home, height } = useHeight();
  const found = useMemo(() => foundRoutes(routes, wanted), [routes, wanted]);
  const lines = useMemo(() => linesOf(title, found, troubles(findings)), [title, found, findings]);
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const open = useMemo(() => found.map(({ path }) => path).filter((path) => wanted !== "" || !closed.has(path)), [found, closed, wanted]);
  return (
    <nav className="operation-tree" aria-label="Operations">
      <div className="tree-head">
        <Input size="small" allowClear aria-label="Look for an operation" placeholder="Look for" value={wanted} onChange={({ target }) => setWanted(target.value)} />
        <Dropdown
          trigger={["click"]}
          menu={{
            items: [
              { key: "one", label: "An operation", onClick: onAdd },
              { key: "tables", label: "From tables, routines, documents", onClick: onAddFromTables },
            ],
          }}
        >
          <Button size="small" aria-label="Add" icon={<PlusOutlined />}>
            Add
          </Button>
        </Dropdown>
      </div>
      <div ref={home} className="tree-body">
        <Tree<Line>
          blockNode
          virtual
          height={height}
          motion={false}
          treeData={lines}
          selectedKeys={[selected]}
          expandedKeys={open}
          draggable={{ icon: false, nodeDraggable: ({ key }) => String(key).startsWith("/") }}
          allowDrop={({ dropNode, dropPosition }) => dropPosition !== 0 && dropNode.key.startsWith("/")}
          onExpand={(keys) => setClosed(new Set(found.map(({ path }) => path).filter((path) => !keys.includes(path))))}
          onSelect={(_, { node }) => onSelect(selectionOf(node.key, routes))}
          onDrop={({ dragNode, node, dropPosition }) => {
            const at = routes.findIndex(({ path }) => path === node.key);
            const isBefore = dropPosition < Number(node.pos.split("-").at(-1));
            onPlace(dragNode.key, isBefore ? node.key : routes[at + 1]?.path);
          }}
        />
      </div>
    </nav>
  );
});

/** How tall the tree may be; it is drawn line by line. */
function useHeight() {
  const home = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(400);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setHeight(Math.max(120, Math.floor(entry?.contentRect.height ?? 400))));
    observer.observe(home.current as HTMLDivElement);
    return () => observer.disconnect();
  }, []);
  return { home, height };
}

/** How many errors and warnings each operation has. */
function troubles(findings: readonly Finding[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const { operation = "", severity, accepted } of findings) {
    if (severity !== "advice" && accepted === undefined) {
      counts.set(operation, (counts.get(operation) ?? 0) + 1);
    }
  }
  return counts;
}

function linesOf(title: string, routes: readonly RouteLine[], counts: ReadonlyMap<string, number>): Line[] {
  const counted = (name: string, words: React.ReactNode) => (
    <span className="tree-line" title={name}>
      {words}
      <Badge size="small" count={counts.get(name) ?? 0} color="#b9772a" />
    </span>
  );
  const children = routes.map(({ path, operations }) => ({
    key: path,
    title: <MethodPath method="" path={path} />,
    children: operations.map(({ method, about }) => {
      const name = nameOf({ part: "operation", route: path, method });
      return {
        key: name,
        isLeaf: true,
        title: counted(
          name,
          <>
            <b className="type">{method.toUpperCase()}</b> <span className="quiet">{about}</span>
          </>,
        ),
      };
    }),
  }));
  return [{ key: "", isLeaf: true, title: counted("", <b>{title}</b>) }, ...children];
}
