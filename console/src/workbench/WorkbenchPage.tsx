import { Alert, Button, Card, Flex, Form, Input, Select, Typography } from "antd";
import { lazy, Suspense, useCallback, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { type Contents, type Finding, type Look, type Module, readContents, readModules, readSources, readText, type Source, tryOperation } from "../api/http";
import { useRemote } from "../api/useRemote";
import { RemoteView } from "../parts/RemoteView";
import type { Appearance } from "../theme/useAppearance";
import { diagnostics } from "./diagnostics";
import { type Base, type Draft, moduleText, operationYaml, ownMethod, ownPath, parametersOf, statementFile } from "./draft";
import { ResultView, type Run } from "./ResultView";
import { useChecked } from "./useChecked";

// the editor is large and only this page and that of an operation draw it
const SqlEditor = lazy(() => import("./SqlEditor"));

const everything = async (): Promise<{ sources: Source[]; modules: Module[] }> => {
  const [{ sources }, { modules }] = await Promise.all([readSources(), readModules()]);
  return { sources, modules };
};

/** A place to write a statement and see what it answers, before anything is published. */
export function WorkbenchPage({ appearance }: { appearance: Appearance }) {
  const { remote, again } = useRemote(everything);
  const [search] = useSearchParams();
  const wanted = search.get("operation") ?? "";
  return (
    <RemoteView remote={remote} again={again}>
      {({ sources, modules }) => <Chosen key={wanted} {...{ sources, modules, wanted, appearance }} />}
    </RemoteView>
  );
}

interface ChosenProps {
  sources: Source[];
  modules: Module[];
  wanted: string;
  appearance: Appearance;
}

/** Loads the text of the chosen operation; a statement of its own needs none. */
function Chosen({ sources, modules, wanted, appearance }: ChosenProps) {
  const [identity = "", method = "", path = ""] = wanted.split(" ");
  const module = modules.find((one) => `${one.name}/v${one.major}` === identity);
  const operation = module?.operations.find((one) => one.method === method && one.path === path);
  const ask = useCallback(async (): Promise<Draft> => {
    if (module === undefined || operation === undefined) {
      return { source: sources[0]?.name ?? "", sql: "", answer: "rows", order: "", parameters: [], base: undefined };
    }
    const text = await readText(module.name, module.major);
    const folder = text.folder ?? "";
    const file = operation.sqlFile.startsWith(`${folder}/`) ? operation.sqlFile.slice(folder.length + 1) : operation.sqlFile;
    const base: Base = { folder, files: text.files, method, path, sqlFile: file };
    return { source: module.source ?? "", sql: operation.sql, answer: operation.answer, order: "", parameters: [], base };
  }, [module, operation, method, path, sources]);
  const { remote, again } = useRemote(ask);
  return (
    <RemoteView remote={remote} again={again}>
      {(start) => <Bench {...{ sources, modules, wanted, start, appearance }} />}
    </RemoteView>
  );
}

function Bench({ sources, modules, wanted, start, appearance }: ChosenProps & { start: Draft }) {
  const [search, setSearch] = useSearchParams();
  const [draft, setDraft] = useState(start);
  const [values, setValues] = useState<Record<string, string>>(() => exampleValues(modules, wanted));
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
  const [run, setRun] = useState<Run>({ state: "idle" });
  const onLook = useCallback(
    (look: Look) =>
      setDraft((before) => ({
        ...before,
        parameters: look.trouble === undefined || look.binds.length > 0 ? parametersOf(look, before.parameters, touched) : before.parameters,
        order: touched.has("order") || look.order.length === 0 ? before.order : look.order.join(", "),
      })),
    [touched],
  );
  const { look, findings, trouble } = useChecked(draft, onLook);
  const contents = useContents(draft.source);
  const touch = (name: string) => setTouched((before) => new Set(before).add(name));
  const change = (part: Partial<Draft>) => setDraft((before) => ({ ...before, ...part }));
  const problems = useMemo(() => diagnostics(draft.sql, statementFile(draft), findings, look), [draft, findings, look]);
  const go = () => {
    setRun({ state: "running" });
    const given = Object.fromEntries(draft.parameters.map((one) => [one.name, values[one.name] ?? ""]).filter(([, value]) => value !== ""));
    const call = draft.base ?? { method: ownMethod, path: ownPath };
    tryOperation({ module: moduleText(draft), method: call.method, path: call.path, inputs: given, showValues: true }).then(
      (trial) => setRun({ state: "done", trial }),
      (error: unknown) => setRun({ state: "failed", message: error instanceof Error ? error.message : String(error) }),
    );
  };
  const all: Finding[] = run.state === "done" && findings.length === 0 ? run.trial.findings : findings;
  return (
    <>
      <div className="page-head">
        <Typography.Title level={1}>Workbench</Typography.Title>
        <Select
          aria-label="What is tried"
          value={wanted}
          onChange={(value: string) => setSearch(value === "" ? {} : { ...Object.fromEntries(search), operation: value })}
          options={[{ value: "", label: "A statement of its own" }, ...operationsOf(modules)]}
          style={{ minWidth: 360 }}
          showSearch
        />
        {draft.base === undefined && (
          <Select
            aria-label="Source"
            value={draft.source}
            onChange={(source: string) => change({ source })}
            options={sources.map((source) => ({ value: source.name, label: source.name }))}
            style={{ minWidth: 140 }}
          />
        )}
        <Typography.Text type="secondary">Nothing here is published.</Typography.Text>
      </div>
      {trouble !== undefined && <Alert className="gap-below" type="error" showIcon title="The statement could not be looked at" description={trouble} />}
      <div className="columns even">
        <div className="stack">
          <Card
            size="small"
            title="Statement"
            extra={
              <Button type="primary" onClick={go} loading={run.state === "running"} disabled={draft.sql.trim() === ""}>
                Run
              </Button>
            }
          >
            <Suspense fallback={<pre className="sql">{draft.sql}</pre>}>
              <SqlEditor
                value={draft.sql}
                contents={contents}
                problems={problems}
                appearance={appearance}
                onChange={(sql) => change({ sql })}
                onRun={go}
              />
            </Suspense>
          </Card>
          <Parameters
            draft={draft}
            look={look}
            values={values}
            onValue={(name, value) => setValues((before) => ({ ...before, [name]: value }))}
            onLimits={(name, limits) => {
              touch(name);
              change({ parameters: draft.parameters.map((one) => (one.name === name ? { ...one, limits } : one)) });
            }}
            onRun={go}
          />
          {draft.base === undefined && (
            <OwnOperation
              draft={draft}
              onChange={change}
              onOrder={(order) => {
                touch("order");
                change({ order });
              }}
            />
          )}
        </div>
        <ResultView run={run} findings={all} />
      </div>
    </>
  );
}

function useContents(source: string): Contents | undefined {
  const ask = useCallback(() => (source === "" ? Promise.reject(new Error("no source")) : readContents(source)), [source]);
  const { remote } = useRemote(ask);
  return remote.state === "loaded" ? remote.value : undefined;
}

function operationsOf(modules: Module[]): Array<{ value: string; label: string }> {
  return modules.flatMap((module) =>
    module.operations.map((operation) => {
      const value = `${module.name}/v${module.major} ${operation.method} ${operation.path}`;
      return { value, label: value };
    }),
  );
}

function exampleValues(modules: Module[], wanted: string): Record<string, string> {
  const [identity = "", method = "", path = ""] = wanted.split(" ");
  const module = modules.find((one) => `${one.name}/v${one.major}` === identity);
  const operation = module?.operations.find((one) => one.method === method && one.path === path);
  const required = operation?.parameters.filter((one) => one.required && one.example !== undefined) ?? [];
  return Object.fromEntries(required.map((one) => [one.bind, one.example ?? ""]));
}

interface ParametersProps {
  draft: Draft;
  look: Look | undefined;
  values: Record<string, string>;
  onValue: (name: string, value: string) => void;
  onLimits: (name: string, limits: string) => void;
  onRun: () => void;
}

/** The bind parameters as they are found while the statement is typed, each with a value to run it with. */
function Parameters({ draft, look, values, onValue, onLimits, onRun }: ParametersProps) {
  if (draft.parameters.length === 0) {
    return null;
  }
  return (
    <Card size="small" title="Bind parameters">
      <Form layout="vertical" onFinish={onRun}>
        <ul className={draft.base === undefined ? "bind-parameters" : "bind-parameters live"}>
          {draft.parameters.map((one) => (
            <li key={one.name}>
              <label htmlFor={`value-${one.name}`}>
                <b>:{one.name}</b>
                <span className="quiet">
                  {one.optional ? "optional" : "required"}
                  {one.list && ", a list with commas"}
                  {where(look, one.name)}
                </span>
              </label>
              <Input id={`value-${one.name}`} allowClear placeholder="value" value={values[one.name] ?? ""} onChange={(e) => onValue(one.name, e.target.value)} />
              {draft.base === undefined && (
                <Input aria-label={`Definition of ${one.name}`} className="type" value={one.limits} onChange={(e) => onLimits(one.name, e.target.value)} />
              )}
            </li>
          ))}
        </ul>
        <button type="submit" hidden />
      </Form>
    </Card>
  );
}

function where(look: Look | undefined, name: string): string {
  const met = look?.binds.find((bind) => bind.name === name)?.where;
  return met === undefined ? "" : `, meets ${met}`;
}

interface OwnProps {
  draft: Draft;
  onChange: (part: Partial<Draft>) => void;
  onOrder: (order: string) => void;
}

/** What a statement of its own answers, and the text to take along into a module. */
function OwnOperation({ draft, onChange, onOrder }: OwnProps) {
  const text = operationYaml(draft).join("\n");
  return (
    <Card size="small" title="Operation">
      <Flex gap="middle" wrap className="gap-below">
        <Select
          aria-label="Answer"
          value={draft.answer}
          onChange={(answer) => onChange({ answer })}
          options={(["rows", "row", "value", "nothing"] as const).map((value) => ({ value, label: value }))}
          style={{ minWidth: 110 }}
        />
        {draft.answer === "rows" && (
          <Input aria-label="Order" prefix="order" style={{ flex: 1 }} value={draft.order} onChange={(e) => onOrder(e.target.value)} />
        )}
      </Flex>
      <Typography.Paragraph copyable={{ text, tooltips: ["Copy as text", "Copied"] }} className="statement">
        <pre className="sql">{text}</pre>
      </Typography.Paragraph>
    </Card>
  );
}
