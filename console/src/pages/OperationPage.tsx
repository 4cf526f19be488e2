import { Alert, Breadcrumb, Card, Flex, Tag, Typography } from "antd";
import { lazy, Suspense, useCallback } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { type Module, type Operation, readModule } from "../api/http";
import { useRemote } from "../api/useRemote";
import { CallCard } from "../call/CallCard";
import { OperationAccess } from "../parts/AccessTag";
import { MethodPath } from "../parts/MethodPath";
import { RemoteView } from "../parts/RemoteView";
import type { Appearance } from "../theme/useAppearance";
import { FieldsTable } from "./FieldsTable";
import { editLink, operationLink, operationOf } from "./operationLink";

// the editor is large and only this page draws it
const SqlText = lazy(() => import("../parts/SqlText"));

/** One operation: what it says about itself, a form that calls it, its statement, and the fields of its answer. */
export function OperationPage({ appearance }: { appearance: Appearance }) {
  const { name = "", version = "" } = useParams();
  const [search] = useSearchParams();
  const ask = useCallback(() => readModule(name, version), [name, version]);
  const { remote, again } = useRemote(ask);
  return (
    <RemoteView remote={remote} again={again}>
      {(module) => {
        const operation = operationOf(module, search.get("operation"));
        return (
          <>
            <Breadcrumb
              items={[
                { title: <Link to="/modules">Live modules</Link> },
                { title: `${module.title ?? module.name} ${module.version}` },
              ]}
            />
            {operation === undefined ? (
              <NoSuchOperation module={module} />
            ) : (
              <OperationView key={operation.method + operation.path} {...{ module, operation, appearance }} />
            )}
          </>
        );
      }}
    </RemoteView>
  );
}

function NoSuchOperation({ module }: { module: Module }) {
  return (
    <Alert
      className="gap-above"
      type="warning"
      showIcon
      title="This module has no such operation"
      description={module.trouble ?? <Siblings module={module} current={undefined} />}
    />
  );
}

function OperationView({ module, operation, appearance }: { module: Module; operation: Operation; appearance: Appearance }) {
  return (
    <>
      <Flex justify="space-between" align="start" gap="middle" wrap className="gap-below">
        <div>
          <Typography.Title level={1}>
            <MethodPath method={operation.method} path={operation.path} />
          </Typography.Title>
          <Typography.Text>{operation.about}</Typography.Text>
        </div>
        <Flex gap="small">
          <OperationAccess module={module} operation={operation} />
          <Tag>stops after {operation.timeoutMillis / 1000} s</Tag>
        </Flex>
      </Flex>
      <Siblings module={module} current={operation} />
      <div className="columns">
        <CallCard module={module} operation={operation} />
        <div className="stack">
          <Card
            size="small"
            title={operation.steps.length > 1 ? `${operation.steps.length} statements, one transaction` : "Statement"}
            extra={<Link to={editLink(module, operation)}>Edit</Link>}
          >
            {operation.steps.map((step) => (
              <section key={step.name}>
                {operation.steps.length > 1 && <Typography.Text strong>{step.name}</Typography.Text>}
                <Suspense fallback={<pre className="sql">{step.sql}</pre>}>
                  <SqlText sql={step.sql} appearance={appearance} />
                </Suspense>
              </section>
            ))}
          </Card>
          <FieldsTable operation={operation} />
        </div>
      </div>
    </>
  );
}

/** The module's other operations, one step away. */
function Siblings({ module, current }: { module: Module; current: Operation | undefined }) {
  return (
    <nav className="siblings" aria-label="Operations of this module">
      {module.operations.map((operation) => (
        <Link
          key={operation.method + operation.path}
          to={operationLink(module, operation)}
          aria-current={operation === current ? "page" : undefined}
        >
          {operation.method} {operation.path}
        </Link>
      ))}
    </nav>
  );
}
