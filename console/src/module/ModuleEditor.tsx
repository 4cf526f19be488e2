import { yaml as yamlLanguage } from "@codemirror/lang-yaml";
import { Alert, Button, Space } from "antd";
import { useCallback, useDeferredValue, useMemo, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { type Contents, type Finding, readContents } from "../api/http";
import { useRemote } from "../api/useRemote";
import type { Path } from "../moduletext/edits";
import { wordAt } from "../moduletext/nodes";
import type { Value } from "../moduletext/words";
import CodePane from "../parts/CodePane";
import type { Appearance } from "../theme/useAppearance";
import { diagnostics } from "../workbench/diagnostics";
import { main, objection } from "./actions";
import { moduleCompletion } from "./completion";
import { ConflictDialog } from "./ConflictDialog";
import { EditorHead } from "./EditorHead";
import { FindingsBar } from "./FindingsBar";
import { FirstTextDialog } from "./FirstTextDialog";
import { kept } from "./kept";
import { OperationDialog } from "./OperationDialog";
import { OperationTree } from "./OperationTree";
import { type Command, Palette } from "./Palette";
import { PartPane } from "./PartPane";
import { nameOf, offsetOf, offsetOfLine, routesOf, type RouteLine, type Selection, selectionOf } from "./routes";
import { read as readText, type Start, written } from "./start";
import { useDraftSaving } from "./useDraftSaving";
import { useFindings } from "./useFindings";
import { useKeys } from "./useKeys";
import { useModuleText } from "./useModuleText";
import { useUnsaved } from "./useUnsaved";
import type { Files } from "./work";

type Dialog = { open: "none" } | { open: "add" } | { open: "tables" } | { open: "duplicate"; from: Selection } | { open: "palette" };

const yaml = yamlLanguage();

/** The whole page around one module's text. */
export function ModuleEditor({ start, appearance }: { start: Start; appearance: Appearance }) {
  const { name, major } = start;
  const store = useMemo(() => kept(window.localStorage, name, major), [name, major]);
  const [left, setLeft] = useState(() => store.unsaved());
  const [search, setSearch] = useSearchParams();
  const wanted = search.get("operation") ?? "";
  const place = useRef(wanted);
  place.current = wanted;
  const { work, dispatch, read, act, change, root, text } = useModuleText(start.files, useCallback(() => place.current, []));
  const { saving, save, settle } = useDraftSaving(name, major, { revision: start.revision, files: start.files });
  const [dialog, setDialog] = useState<Dialog>({ open: "none" });
  const [showsText, setShowsText] = useState(true);
  const [shown, setShown] = useState<{ file: string; at: number } | undefined>(() => ({
    file: main,
    at: offsetOf(root, selectionOf(wanted, routesOf(root))),
  }));
  const navigate = useNavigate();

  const routes = useMemo(() => routesOf(root), [root]);
  const selection = useMemo(() => selectionOf(wanted, routes), [wanted, routes]);
  const isSaved = useMemo(() => sameFiles(saving.saved, work.files), [saving.saved, work.files]);
  useUnsaved(store, isSaved, saving.revision, work.files);
  const checked = useDeferredValue(work.files);
  const { findings, checking, trouble } = useFindings(useMemo(() => written(start, checked), [start, checked]));
  const standing = useMemo(() => findings.filter(({ accepted }) => accepted === undefined), [findings]);
  const problems = useMemo(() => diagnostics(checked[main] ?? "", `${start.folder}/${main}`, standing, undefined), [checked, start.folder, standing]);
  const contents = useContents(wordAt(root, ["source"]));

  const show = useCallback((operation: string) => setSearch(operation === "" ? {} : { operation }, { replace: true }), [setSearch]);
  const select = useCallback(
    (to: Selection) => {
      show(nameOf(to));
      setShown({ file: main, at: offsetOf(root, to) });
    },
    [show, root],
  );
  const saveNow = () => save(written(start, work.files), work.files, saving.revision);
  const compare = async () => {
    if ((isSaved && saving.revision !== undefined) || (await saveNow())) {
      await navigate(`/drafts/${encodeURIComponent(name)}/v${major}`);
    }
  };
  const takeBack = (event: "undone" | "redone") => {
    const step = event === "undone" ? work.past.at(-1) : work.future[0];
    if (step !== undefined) {
      dispatch({ event });
      show(step.place);
    }
  };
  const goTo = ({ file: path, line, column, operation }: Finding) => {
    const file = path.split("/").pop() ?? "";
    show(operation ?? "");
    setShown({ file, at: offsetOfLine(work.files[file] ?? "", line, column) });
    setShowsText((before) => before || file === main);
  };
  const lastShown = useRef(-1);
  const nextFinding = () => {
    lastShown.current = (lastShown.current + 1) % Math.max(1, standing.length);
    const next = standing[lastShown.current];
    if (next !== undefined) {
      goTo(next);
    }
  };
  const does = {
    undo: () => takeBack("undone"),
    redo: () => takeBack("redone"),
    save: () => void saveNow(),
    compare: () => void compare(),
    find: () => setDialog({ open: "palette" }),
    toggleText: () => setShowsText(!showsText),
  };
  useKeys(
    dialog.open === "none" || dialog.open === "palette"
      ? { "Mod s": does.save, "Mod z": does.undo, "Mod Shift z": does.redo, "Mod y": does.redo, "Mod k": does.find, F8: nextFinding }
      : {},
  );
  const fileNames = Object.keys(work.files).filter((file) => file !== main).join("\n");
  const completions = useMemo(
    () => [moduleCompletion({ files: fileNames.split("\n"), sources: [], columns: columnsOf(contents) })],
    [fileNames, contents],
  );
  const form = useMemo(
    () => ({
      root,
      read,
      set: (path: Path, value: Value) => change((files) => act.set(files, path, value)),
      remove: (path: Path) => change((files) => act.remove(files, path)),
      rename: (path: Path, key: string) => change((files) => act.rename(files, path, key)),
    }),
    [root, read, act, change],
  );
  const commands: Command[] = [
    { name: "Save", keys: "Ctrl S", run: does.save },
    { name: "Undo", keys: "Ctrl Z", run: does.undo },
    { name: "Redo", keys: "Ctrl Shift Z", run: does.redo },
    { name: "Next finding", keys: "F8", run: nextFinding },
    { name: "Add an operation", keys: "", run: () => setDialog({ open: "add" }) },
    { name: "Add operations from what there is", keys: "", run: () => setDialog({ open: "tables" }) },
    { name: `${showsText ? "Hide" : "Show"} the text of module.yaml`, keys: "", run: does.toggleText },
    { name: "Compare and publish", keys: "", run: does.compare },
    { name: "The module itself", keys: "", run: () => select({ part: "module" }) },
    ...goingTo(routes, select),
  ];

  return (
    <>
      <EditorHead
        identity={`${name}/v${major}`}
        saving={saving}
        isSaved={isSaved}
        canUndo={work.past.length > 0}
        canRedo={work.future.length > 0}
        showsText={showsText}
        does={does}
      />
      {saving.state === "rest" && saving.trouble !== undefined && (
        <Alert className="gap-below" type="error" showIcon title="It was not saved" description={saving.trouble} />
      )}
      {left !== undefined && (
        <LeftOver
          take={() => {
            change(() => left.files);
            setLeft(undefined);
          }}
          leave={() => setLeft(undefined)}
        />
      )}
      <div className={showsText ? "editing" : "editing without-text"}>
        <OperationTree
          title={wordAt(root, ["title"]) || name}
          routes={routes}
          findings={standing}
          selected={nameOf(selection)}
          onSelect={select}
          onAdd={useCallback(() => setDialog({ open: "add" }), [])}
          onAddFromTables={useCallback(() => setDialog({ open: "tables" }), [])}
          onPlace={useCallback((route: string, before: string | undefined) => change((files) => act.place(files, route, before)), [change, act])}
        />
        <PartPane
          {...{ start, selection, root, form, act, change, contents, appearance, store, shown }}
          files={work.files}
          findings={standing}
          onDuplicate={() => setDialog({ open: "duplicate", from: selection })}
          onDropped={() => select(selection.part === "operation" ? { part: "route", route: selection.route } : { part: "module" })}
          onRenamed={(route) => show(selection.part === "operation" ? nameOf({ ...selection, route }) : route)}
        />
        {showsText && (
          <section className="module-text" aria-label="Text of module.yaml">
            <CodePane
              text={text}
              label="module.yaml"
              language={yaml}
              completions={completions}
              problems={problems}
              appearance={appearance}
              ownHistory={false}
              shown={shown?.file === main ? shown : undefined}
              onText={(typed) => change((files) => ({ ...files, [main]: typed }))}
            />
          </section>
        )}
      </div>
      <FindingsBar findings={standing} checking={checking} trouble={trouble} onGo={goTo} />
      {dialog.open === "palette" && <Palette commands={commands} close={() => setDialog({ open: "none" })} />}
      {(dialog.open === "add" || dialog.open === "duplicate") && (
        <OperationDialog
          title={dialog.open === "add" ? "Add an operation" : `Duplicate ${nameOf(dialog.from)}`}
          initial={dialog.open === "duplicate" && dialog.from.part === "operation" ? dialog.from : { route: selection.part === "module" ? "/" : selection.route }}
          asksAnswer={dialog.open === "add"}
          objection={(method, route) => objection(read, work.files, method, route)}
          done={({ method, route: typed, answer }) => {
            const route = typed.trim();
            change((files) => (dialog.open === "add" ? act.add(files, method, route, answer) : act.duplicate(files, dialog.from, method, route)));
            setDialog({ open: "none" });
            show(nameOf({ part: "operation", route, method }));
          }}
          cancel={() => setDialog({ open: "none" })}
        />
      )}
      {dialog.open === "tables" && contents !== undefined && (
        <FirstTextDialog
          source={wordAt(root, ["source"])}
          contents={contents}
          text={written(start, work.files)}
          take={(more) => {
            change(() => readText(more).files);
            setDialog({ open: "none" });
          }}
          cancel={() => setDialog({ open: "none" })}
        />
      )}
      {saving.state === "conflict" && (
        <ConflictDialog
          conflict={saving.with}
          take={(taken, revision) => {
            if (taken !== "mine") {
              change(() => readText(taken).files);
            }
            settle(revision, {});
          }}
          cancel={() => settle(saving.revision, saving.saved)}
        />
      )}
    </>
  );
}

function LeftOver({ take, leave }: { take: () => void; leave: () => void }) {
  return (
    <Alert
      className="gap-below"
      type="info"
      showIcon
      title="Text that was not saved is still in this browser."
      action={
        <Space>
          <Button size="small" onClick={take}>
            Take it up again
          </Button>
          <Button size="small" onClick={leave}>
            Leave it
          </Button>
        </Space>
      }
    />
  );
}

/** Every column of the source, for what stands in orders and filters. */
const columnsOf = (contents: Contents | undefined): string[] =>
  [...new Set((contents?.relations ?? []).flatMap(({ columns }) => columns.map(({ name }) => name)))].slice(0, 2000);

function useContents(source: string) {
  const ask = useCallback(() => (source === "" ? Promise.reject(new Error("no source")) : readContents(source)), [source]);
  const { remote } = useRemote(ask);
  return remote.state === "loaded" ? remote.value : undefined;
}

const goingTo = (routes: readonly RouteLine[], select: (to: Selection) => void): Command[] =>
  routes.flatMap(({ path, operations }) =>
    operations.map(({ method, about }) => {
      const to: Selection = { part: "operation", route: path, method };
      return { name: `${nameOf(to)}  ${about}`, keys: "", run: () => select(to) };
    }),
  );

function sameFiles(one: Files, other: Files): boolean {
  const names = Object.keys(one);
  return one === other || (names.length === Object.keys(other).length && names.every((file) => one[file] === other[file]));
}
