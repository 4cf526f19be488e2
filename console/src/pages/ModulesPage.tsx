import { Alert, Button, Card, Collapse, Empty, Flex, Input, Select, Tag, Typography } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { type Module, readModules } from "../api/http";
import { useRemote } from "../api/useRemote";
import { ModuleAccess } from "../parts/AccessTag";
import { DriftNotes } from "../parts/DriftNotes";
import { EndTag } from "../parts/EndTag";
import { FindingList, standing } from "../parts/FindingList";
import { MethodPath } from "../parts/MethodPath";
import { RemoteView } from "../parts/RemoteView";
import { allModules, found, type Sieve, sieved, statesOf } from "./found";
import { operationLink } from "./operationLink";

/** Everything that is live: modules, their versions, their operations. */
export function ModulesPage() {
  const { remote, again } = useRemote(readModules);
  const [wanted, setWanted] = useState("");
  return (
    <>
      <div className="page-head">
        <Typography.Title level={1}>Live modules</Typography.Title>
        <Input
          allowClear
          className="look"
          aria-label="Look for"
          placeholder="Look for a module, a path, a word"
          value={wanted}
          onChange={({ target }) => setWanted(target.value)}
        />
      </div>
      <RemoteView remote={remote} again={again}>
        {({ modules }) => (modules.length === 0 ? <NothingYet /> : <Sieved modules={found(modules, wanted)} all={modules} />)}
      </RemoteView>
    </>
  );
}

function NothingYet() {
  return (
    <Empty description="Nothing is published yet. From a database to a first call it takes three minutes: choose tables, look at the text, try it, publish it.">
      <Link to="/begin">
        <Button type="primary">Begin a module</Button>
      </Link>
      <p className="quiet">Or write a folder of text, and type</p>
      <Typography.Text code copyable>
        ./tidy publish --folder FOLDER
      </Typography.Text>
    </Empty>
  );
}

/** Modules that fit what is chosen beside words; a choice is offered where there is one. */
function Sieved({ modules, all }: { modules: Module[]; all: Module[] }) {
  const [sieve, setSieve] = useState(allModules);
  const choice = (label: string, key: keyof Sieve, values: string[]) => {
    const options = [...new Set(values)].sort();
    return (
      options.length > 1 && (
        <Select
          key={key}
          allowClear
          size="small"
          aria-label={label}
          placeholder={label}
          value={sieve[key] === "" ? null : sieve[key]}
          options={options.map((value) => ({ value, label: value }))}
          onChange={(value: string | null | undefined) => setSieve({ ...sieve, [key]: value ?? "" })}
          popupMatchSelectWidth={false}
          style={{ minWidth: 130 }}
        />
      )
    );
  };
  return (
    <>
      <Flex gap="small" wrap className="gap-below">
        {choice("Source", "source", all.flatMap(({ source }) => source ?? []))}
        {choice("State", "state", all.flatMap(statesOf))}
        {choice("Published by", "publishedBy", all.map(({ publishedBy }) => publishedBy))}
      </Flex>
      <Found modules={sieved(modules, sieve)} />
    </>
  );
}

function Found({ modules }: { modules: Module[] }) {
  return modules.length === 0 ? (
    <Empty description="No module and no operation is so." />
  ) : (
    modules.map((module) => <ModuleCard key={module.basePath} module={module} />)
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
          <Link to={`/drafts/${encodeURIComponent(module.name)}/v${module.major}/edit`}>Edit</Link>
          <Link to={`/modules/${encodeURIComponent(module.name)}/releases`}>Releases</Link>
          <a href={`/reference/${module.name}/v${module.major}`}>Reference</a>
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
      <Operations module={module} />
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

/** How many operations a card shows before somebody asks for all. */
const shownAtFirst = 20;

function Operations({ module }: { module: Module }) {
  const [all, setAll] = useState(false);
  const shown = all ? module.operations : module.operations.slice(0, shownAtFirst);
  return (
    <>
      <ul className="operations">
        {shown.map((operation) => (
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
      {shown.length < module.operations.length && (
        <Button size="small" onClick={() => setAll(true)}>
          Show all {module.operations.length}
        </Button>
      )}
    </>
  );
}
