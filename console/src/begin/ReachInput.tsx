import { Button, Input, Select } from "antd";
import type { Reach } from "./choices";

/** Who may read, or change. */
export function ReachInput({ label, reach, onChange }: { label: string; reach: Reach; onChange: (reach: Reach) => void }) {
  return (
    <div className="reach">
      <span>{label}</span>
      <Select
        size="small"
        aria-label={label}
        value={reach.kind}
        options={[
          { value: "unsaid", label: "nobody yet" },
          { value: "everybody", label: "everybody" },
          { value: "privilege", label: "who holds" },
        ]}
        onChange={(kind) => onChange(kind === "privilege" ? { kind, privilege: "" } : { kind })}
      />
      {reach.kind === "privilege" && (
        <Input
          size="small"
          className="type"
          aria-label={`Privilege: ${label}`}
          placeholder="moorings.read"
          value={reach.privilege}
          onChange={({ target }) => onChange({ kind: "privilege", privilege: target.value })}
        />
      )}
      {reach.kind !== "unsaid" && (
        <Button size="small" type="link" onClick={() => onChange({ kind: "unsaid" })}>
          take back
        </Button>
      )}
    </div>
  );
}
