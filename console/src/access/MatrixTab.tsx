import { CheckOutlined } from "@ant-design/icons";
import { Button, Empty, Flex, Select, Table, theme } from "antd";
import { useCallback, useState } from "react";
import { useSearchParams } from "react-router";
import { type Module, readModules, readRoles, type Role } from "../api/http";
import { useRemote } from "../api/useRemote";
import { AccessTag } from "../parts/AccessTag";
import { MethodPath } from "../parts/MethodPath";
import { RemoteView } from "../parts/RemoteView";
import { AnswerDrawer, type AskedOperation } from "./AnswerDrawer";
import { identityOf, type MatrixRow, matrixRows, opens } from "./matrix";

/** Operations and roles: which role opens which operation of a module, and by which privilege. */
export function MatrixTab() {
  const ask = useCallback(async () => {
    const [{ modules }, { roles }] = await Promise.all([readModules(), readRoles()]);
    return { modules, roles };
  }, []);
  const { remote, again } = useRemote(ask);
  return (
    <RemoteView remote={remote} again={again}>
      {({ modules, roles }) =>
        modules.length === 0 ? <Empty description="Nothing is published yet." /> : <Chosen modules={modules} roles={roles} />
      }
    </RemoteView>
  );
}

/** One module at a time: with many of them and many roles nobody would find anything. */
function Chosen({ modules, roles }: { modules: Module[]; roles: Role[] }) {
  const [search, setSearch] = useSearchParams();
  const module = modules.find((one) => identityOf(one) === search.get("module")) ?? modules[0];
  if (module === undefined) {
    return null;
  }
  return (
    <>
      <Flex gap="small" align="center" className="gap-below">
        <Select
          aria-label="Module"
          showSearch
          style={{ minWidth: 260 }}
          value={identityOf(module)}
          options={modules.map((one) => ({ value: identityOf(one), label: identityOf(one) }))}
          onChange={(chosen: string) => setSearch({ show: "operations", module: chosen }, { replace: true })}
        />
        <span className="quiet">A grey mark is for what is open to everybody.</span>
      </Flex>
      <Matrix module={module} roles={roles} />
    </>
  );
}

function Matrix({ module, roles }: { module: Module; roles: Role[] }) {
  const { token } = theme.useToken();
  const [asked, setAsked] = useState<AskedOperation>();
  // those of the service hold nothing of a module, or everything
  const own = roles.filter(({ from }) => from !== "service");
  return (
    <>
      <Table<MatrixRow>
        size="small"
        rowKey="key"
        pagination={false}
        scroll={{ x: "max-content" }}
        dataSource={matrixRows(module)}
        columns={[
          {
            title: "Operation",
            fixed: "left",
            render: (_, { operation: { method, path } }) => (
              <Button
                type="text"
                size="small"
                title="Who may call it, and why"
                onClick={() => setAsked({ module: identityOf(module), method, path })}
              >
                <MethodPath method={method} path={path} />
              </Button>
            ),
          },
          { title: "Asks for", render: (_, { operation }) => <AccessTag access={operation.access} needs={operation.needs} /> },
          ...own.map((role) => ({
            title: role.name,
            key: role.name,
            align: "center" as const,
            render: (_: unknown, { operation }: MatrixRow) => {
              const why = opens(role, operation);
              return why === undefined ? (
                <span aria-label="no">–</span>
              ) : (
                <CheckOutlined
                  title={why === "open" ? "Open to everybody" : `By ${why}`}
                  aria-label={`yes, by ${why}`}
                  style={{ color: why === "open" ? token.colorTextQuaternary : token.colorPrimary }}
                />
              );
            },
          })),
        ]}
      />
      {asked && <AnswerDrawer operation={asked} close={() => setAsked(undefined)} />}
    </>
  );
}
