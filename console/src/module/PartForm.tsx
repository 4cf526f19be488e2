import { Collapse } from "antd";
import { nodeAt } from "../moduletext/nodes";
import { moduleSchema, schemaAt } from "../moduletext/schema";
import { keysOf } from "../moduletext/shape";
import { useFormText } from "./formContext";
import { groupsOfModule, groupsOfOperation, type KeyGroup } from "./groups";
import { KeyInput } from "./KeyInput";
import { pathOf, type Selection } from "./routes";

const ofOperation = groupsOfOperation(keysOf(schemaAt(moduleSchema, ["routes", "/", "get"]) ?? {}, moduleSchema));
const ofModule = groupsOfModule(keysOf(moduleSchema, moduleSchema));
const ofRoute: KeyGroup[] = [
  {
    title: "Access",
    keys: keysOf(schemaAt(moduleSchema, ["routes", "/"]) ?? {}, moduleSchema).filter(({ key }) => key === "needs" || key === "public"),
  },
];

/** Everything that a module, a route or an operation can say, in groups; those that are seldom needed are folded. */
export function PartForm({ selection }: { selection: Selection }) {
  const { root } = useFormText();
  const path = pathOf(selection);
  const groups = selection.part === "operation" ? ofOperation : selection.part === "route" ? ofRoute : ofModule;
  const shown = selection.part === "operation" ? 2 : groups.length;
  const said = (group: KeyGroup) => group.keys.filter(({ key }) => nodeAt(root, [...path, key]) !== undefined);
  return (
    <Collapse
      key={selection.part}
      className="part-form"
      size="small"
      defaultActiveKey={groups.slice(0, shown).map(({ title }) => title)}
      items={groups.map((group) => ({
        key: group.title,
        label: group.title,
        extra: <span className="quiet">{said(group).map(({ key }) => key).join(", ")}</span>,
        children: (
          <div className="key-grid">
            {group.keys.map((one) => (
              <KeyInput key={one.key} path={[...path, one.key]} of={one} />
            ))}
          </div>
        ),
      }))}
    />
  );
}
