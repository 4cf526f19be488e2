import { Tabs, Typography } from "antd";
import { useSearchParams } from "react-router";
import { AuditTab } from "./AuditTab";
import { ClientsTab } from "./ClientsTab";
import { MatrixTab } from "./MatrixTab";
import { PeopleTab } from "./PeopleTab";
import { RefusedTab } from "./RefusedTab";
import { RolesTab } from "./RolesTab";
import { TeamsTab } from "./TeamsTab";

const tabs = [
  { key: "clients", label: "Applications", children: <ClientsTab /> },
  { key: "teams", label: "Teams", children: <TeamsTab /> },
  { key: "people", label: "People", children: <PeopleTab /> },
  { key: "roles", label: "Roles", children: <RolesTab /> },
  { key: "operations", label: "Operations and roles", children: <MatrixTab /> },
  { key: "refused", label: "Refused calls", children: <RefusedTab /> },
  { key: "audit", label: "Audit", children: <AuditTab /> },
];

/** Who may what: client applications, people, roles, and what each role opens. */
export function AccessPage() {
  const [search, setSearch] = useSearchParams();
  return (
    <>
      <Typography.Title level={1}>Access</Typography.Title>
      <Tabs
        destroyOnHidden
        activeKey={search.get("show") ?? "clients"}
        onChange={(show) => setSearch({ show }, { replace: true })}
        items={tabs}
      />
    </>
  );
}
