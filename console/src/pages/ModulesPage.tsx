import { Alert, Card, Collapse, Empty, Flex, Tag, Typography } from "antd";
import { Link } from "react-router";
import { type Module, readModules } from "../api/http";
import { useRemote } from "../api/useRemote";
import { ModuleAccess } from "../parts/AccessTag";
import { DriftNotes } from "../parts/DriftNotes";
import { EndTag } from "../parts/EndTag";
import { FindingList, standing } from "../parts/FindingList";
import { MethodPath } from "../parts/MethodPath";
import { RemoteView } from "../parts/RemoteView";
import { operationLink } from "./operationLink";

/** Everything that is live: modules, their versions, their operations. */
export function ModulesPage() {
  const { remote, again } = useRemote(readModules);
  return (
    <>
      <Typography.Title level={1}>Live modules</Typography.Title>
      <RemoteView remote={remote} again={again}>
        {({ modules }) => (modules.length === 0 ? <NothingYet /> : modules.map((m) => <ModuleCard key={m.basePath} module={m} />))}
      </RemoteView>
    </>
  );
}

function NothingYet() {
  return (
    <Empty description="Nothing is published yet.">
      <Typography.Text code copyable>
        ./tidy publish --folder FOLDER
      </Typography.Text>
    </Empty>
  );
}

function ModuleCard({ module }: { module: Module }) {
  return (
    <Card className="module" size="small">
      <Flex justify="space-between" align="start" gap="middle" wrap>
        <div>
          <Typography.Title level={2}>{module.title ?? module.name}</Typography.Title>
          <Typography.Text type="secondary" code>
            {module.basePath}
          </Typography.Text>
        </div>
        <Flex gap="small" align="center" wrap>
          <ModuleAccess module={module} />
          <EndTag deprecated={module.deprecated} />
          <Tag>{module.version}</Tag>
          <Link to={`/modules/${encodeURIComponent(module.name)}/releases`}>Releases</Link>
          <a href={`${module.basePath}/openapi.yaml`} target="_blank" rel="noreferrer">
            OpenAPI
          </a>
        </Flex>
      </Flex>
      {module.about !== undefined && <Typography.Paragraph className="about">{module.about}</Typography.Paragraph>}
      {module.trouble !== undefined && <Alert type="error" showIcon title="Not served" description={module.trouble} />}
      {module.elsewhere.map(({ node, words }) => (
        <Alert key={node} className="gap-below" type="warning" showIcon title={`On ${node}`} description={words} />
      ))}
      <DriftNotes notes={module.drift} />
      <FindingNotes module={module} />
      <ul className="operations">
        {module.operations.map((operation) => (
          <li key={operation.method + operation.path}>
            <Link to={operationLink(module, operation)}>
              <MethodPath method={operation.method} path={operation.path} />
              <Typography.Text type="secondary">
                {operation.about} <EndTag deprecated={operation.deprecated} />
              </Typography.Text>
              <Tag variant="outlined">{operation.answer}</Tag>
            </Link>
          </li>
        ))}
      </ul>
      <Typography.Text type="secondary" className="published">
        Published {new Date(module.publishedAt).toLocaleString()} by {module.publishedBy}, text {module.hash.slice(0, 12)}
      </Typography.Text>
    </Card>
  );
}

/** What publishing found and the text does not accept; advice is for whoever writes the text. */
function FindingNotes({ module }: { module: Module }) {
  const findings = standing(module.findings);
  if (findings.length === 0) {
    return null;
  }
  return (
    <Collapse
      ghost
      size="small"
      items={[
        {
          key: "findings",
          label: `${findings.length} ${findings.length === 1 ? "finding" : "findings"} when it was published`,
          children: <FindingList findings={findings} />,
        },
      ]}
    />
  );
}
