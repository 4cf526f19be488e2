import { Select } from "antd";
import { readRoles } from "../api/http";
import { useRemote } from "../api/useRemote";

/** What a form's item gives its field. */
interface Props {
  id?: string;
  value?: string[];
  onChange?: (roles: string[]) => void;
}

/** Roles out of those there are, each with what it is for. */
export function RoleSelect(field: Props) {
  const { remote } = useRemote(readRoles);
  const roles = remote.state === "loaded" ? remote.value.roles : [];
  return (
    <Select
      {...field}
      mode="multiple"
      loading={remote.state === "loading"}
      placeholder="No roles"
      options={roles.map(({ name, about, holds }) => ({ value: name, label: name, about: about ?? holds.join(", ") }))}
      optionRender={(option) => (
        <>
          {option.data.label} <span className="quiet">{option.data.about}</span>
        </>
      )}
    />
  );
}
