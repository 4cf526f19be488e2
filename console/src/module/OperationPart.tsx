import { useEffect, useMemo, useRef, useState } from "react";
import { type Look, tryOperation } from "../api/http";
import { entriesIn, type ModuleReader, nodeAt, type TextNode, wordAt } from "../moduletext/nodes";
import { Typed, typedValue } from "../moduletext/words";
import { ResultView, type Run } from "../workbench/ResultView";
import type { Actions } from "./actions";
import { FormContext } from "./formContext";
import { PartForm } from "./PartForm";
import type { PartProps } from "./PartPane";
import { nameOf, parametersOf, pathOf, type Selection, type StatementFile, statementsOf, usersOf } from "./routes";
import { StatementCard } from "./StatementCard";
import { written } from "./start";
import { exampleValues, TryCard } from "./TryCard";
import { curlOf } from "./tried";
import { useLook } from "./useFindings";
import type { Files } from "./work";

type Operation = Extract<Selection, { part: "operation" }>;

/** One operation: its statements, values to try it with, what came back, and everything it says in forms. */
export function OperationPart({ start, selection, root, form, act, files, findings, contents, appearance, store, shown, change }: PartProps & { selection: Operation }) {
  const operationName = nameOf(selection);
  const operation = nodeAt(root, pathOf(selection));
  const statements = statementsOf(operation);
  const [picked, setPicked] = useState<{ file: string; over: typeof shown }>();
  // a place that is shown after somebody picked a statement counts
  const file = picked !== undefined && picked.over === shown ? picked.file : shown?.file;
  const chosen = statements.find((one) => one.file === file) ?? statements[0];
  const sql = chosen === undefined ? undefined : files[chosen.file];
  const look = useLook(wordAt(root, ["source"]), sql ?? "");
  const parameters = parametersOf(operation);
  const [values, setValues] = useState<Readonly<Record<string, string>>>(() => ({
    ...exampleValues(parameters.filter(({ required }) => required)),
    ...store.values(operationName),
  }));
  const [run, setRun] = useState<Run>({ state: "idle" });
  const result = useRef<HTMLDivElement>(null);
  const isDone = run.state === "done" || run.state === "failed";
  useEffect(() => {
    if (isDone) {
      result.current?.scrollIntoView({ block: "nearest" });
    }
  }, [isDone]);
  const keepValues = (next: Readonly<Record<string, string>>) => {
    setValues(next);
    store.keepValues(operationName, next);
  };
  const go = () => {
    setRun({ state: "running" });
    const inputs = Object.fromEntries(parameters.flatMap(({ bind }) => ((values[bind] ?? "") === "" ? [] : [[bind, values[bind] ?? ""]])));
    tryOperation({ module: written(start, files), method: selection.method.toUpperCase(), path: selection.route, inputs, showValues: true }).then(
      (trial) => setRun({ state: "done", trial }),
      (error: unknown) => setRun({ state: "failed", message: error instanceof Error ? error.message : String(error) }),
    );
  };
  const undescribed = chosen === undefined ? [] : undescribedIn(look, root, selection, chosen);
  const columns = useMemo(() => (look?.fields ?? []).map((field) => field.name), [look]);
  const base = `/api/${wordAt(root, ["module"]) || start.name}/v${start.major}`;
  return (
    <FormContext value={useMemo(() => ({ ...form, columns }), [form, columns])}>
      <div className="stack">
        {chosen !== undefined && (
          <StatementCard
            statements={statements}
            chosen={chosen}
            onChoose={(one) => setPicked({ file: one, over: shown })}
            sql={sql}
            folder={start.folder}
            others={(usersOf(root).get(chosen.file) ?? []).filter((one) => one !== operationName)}
            undescribed={undescribed}
            onDescribe={() => change((before) => undescribed.reduce((so, bind) => described(act, form.read, so, selection, bind), before))}
            findings={findings}
            look={look}
            contents={contents}
            appearance={appearance}
            shown={shown?.file === chosen.file ? shown : undefined}
            onChange={(typed) => change((before) => ({ ...before, [chosen.file]: typed }))}
            onRun={go}
          />
        )}
        <TryCard
          parameters={parameters}
          values={values}
          onValues={keepValues}
          changes={statements.some((one) => !reads.test(files[one.file] ?? "select"))}
          running={run.state === "running"}
          curl={curlOf(window.location.origin, base, selection.method, selection.route, parameters, values)}
          onRun={go}
        />
        {run.state !== "idle" && (
          <div ref={result}>
            <ResultView run={run} findings={findings.filter((one) => one.operation === operationName)} />
          </div>
        )}
        <PartForm selection={selection} />
      </div>
    </FormContext>
  );
}

/** A statement that only reads, behind its comments. */
const reads = /^(\s|--[^\n]*\n|#[^\n]*\n|\/\*[^]*?\*\/)*\(*(select|with|table|values|show)\b/i;

/** The bind parameters of a statement that the operation says nothing about, neither as its own nor as another's. */
function undescribedIn(look: Look | undefined, root: TextNode, selection: Operation, { step }: StatementFile): Look["binds"] {
  const path = pathOf(selection);
  const named = ["parameters", "with"].flatMap((key) => entriesIn(nodeAt(root, [...path, key])));
  const renamed = entriesIn(nodeAt(root, [...path, "steps", step, "with"]));
  const known = new Set([...named, ...renamed].map(({ key }) => key));
  return (look?.binds ?? []).filter(({ name }) => !known.has(name) && !name.includes("."));
}

/** Writes a parameter with what the catalog knows of it. */
function described(act: Actions, read: ModuleReader, files: Files, selection: Operation, bind: Look["binds"][number]): Files {
  const limits = typedValue(read, `{ ${bind.limits} }`);
  const isInPath = selection.route.includes(`{${bind.name}}`);
  const source = isInPath ? "path" : ["post", "put", "patch"].includes(selection.method) ? "body" : "query";
  const type = bind.list ? { type: "array", items: limits ?? {} } : limits;
  return act.set(files, [...pathOf(selection), "parameters", bind.name], {
    in: source,
    ...(typeof type === "object" && !Array.isArray(type) ? type : {}),
    ...(bind.optional || isInPath ? {} : { required: new Typed("true") }),
  });
}
