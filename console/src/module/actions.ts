import type { Path, TextEdits } from "../moduletext/edits";
import { type ModuleReader, nodeAt, wordAt } from "../moduletext/nodes";
import type { Keys, Value } from "../moduletext/words";
import { fileFor, freeFile, type MethodKey, pathOf, routesOf, type Selection, statementsOf, usersOf } from "./routes";
import type { Files } from "./work";

/** The file that every module's text begins with. */
export const main = "module.yaml";

/** What the buttons of the page do to a module's files. Nothing here is saved. */
export interface Actions {
  set(files: Files, path: Path, value: Value): Files;
  remove(files: Files, path: Path): Files;
  rename(files: Files, path: Path, key: string): Files;
  /** A new operation with a statement to begin with. */
  add(files: Files, method: MethodKey, route: string, answer: string): Files;
  /** An operation with statements of its own that begin as copies. */
  duplicate(files: Files, from: Selection, method: MethodKey, route: string): Files;
  /** Without a route or an operation, and without the statements that nothing else uses. */
  drop(files: Files, selection: Selection): Files;
  /** One place up or down among its siblings. */
  shift(files: Files, selection: Selection, by: 1 | -1): Files;
  /** Before another route, or behind them all. */
  place(files: Files, route: string, before: string | undefined): Files;
}

export function actions(read: ModuleReader, edits: TextEdits): Actions {
  const edited = (files: Files, edit: (text: string) => string): Files => {
    const before = files[main] ?? "";
    const after = edit(before);
    return before === after ? files : { ...files, [main]: after };
  };
  const set = (files: Files, path: Path, value: Value) => edited(files, (text) => edits.set(text, path, value));
  const usedBy = (files: Files) => usersOf(read(files[main] ?? ""));

  return {
    set,
    remove: (files, path) => edited(files, (text) => edits.remove(text, path)),
    rename: (files, path, key) => edited(files, (text) => edits.rename(text, path, key)),

    add: (files, method, route, answer) => {
      const file = freeFile(files, fileFor(method, route));
      const order: Keys = answer === "rows" ? { order: ["id"] } : {};
      const operation: Keys = { about: "Say what it does", sql: file, answer, ...order };
      return { ...set(files, ["routes", route, method], operation), [file]: "select 1 as id\n" };
    },

    duplicate: (files, from, method, route) => {
      const to = ["routes", route, method];
      const copied = edited(files, (text) => edits.copy(text, pathOf(from), to));
      const statements = copied === files ? [] : statementsOf(nodeAt(read(copied[main] ?? ""), to));
      return statements.reduce<Files>((so, { step, file }) => {
        const own = freeFile(so, statements.length === 1 ? fileFor(method, route) : file);
        const path = step === "" ? [...to, "sql"] : [...to, "steps", step, "sql"];
        return { ...set(so, path, own), [own]: files[file] ?? "" };
      }, copied);
    },

    drop: (files, selection) => {
      const without = edited(files, (text) => edits.remove(text, pathOf(selection)));
      const [before, after] = [usedBy(files), usedBy(without)];
      return Object.fromEntries(Object.entries(without).filter(([file]) => !before.has(file) || after.has(file)));
    },

    shift: (files, selection, by) =>
      edited(files, (text) => {
        const path = pathOf(selection);
        const routes = routesOf(read(text));
        const siblings =
          selection.part === "operation"
            ? (routes.find((one) => one.path === selection.route)?.operations.map((one) => one.method) ?? [])
            : routes.map((one) => one.path);
        const place = (siblings as string[]).indexOf(String(path.at(-1)));
        return place + by < 0 || place + by >= siblings.length ? text : edits.move(text, path, siblings[by < 0 ? place - 1 : place + 2]);
      }),

    place: (files, route, before) => edited(files, (text) => edits.move(text, ["routes", route], before)),
  };
}

/** Why a path cannot be that of a new operation; undefined when it can. */
export function objection(read: ModuleReader, files: Files, method: MethodKey, route: string): string | undefined {
  if (!/^\/\S*$/.test(route)) {
    return "A path begins with '/' and has no spaces.";
  }
  const present = nodeAt(read(files[main] ?? ""), ["routes", route, method]);
  return present === undefined ? undefined : `${method.toUpperCase()} ${route} is there already.`;
}

/** The module's name and first number of its version, as its address has them; undefined while the text does not say. */
export function identityOf(read: ModuleReader, files: Files): { name: string; major: number } | undefined {
  const root = read(files[main] ?? "");
  const major = /^(\d+)\.\d+\.\d+$/.exec(wordAt(root, ["version"]))?.[1];
  const name = wordAt(root, ["module"]);
  return name === "" || major === undefined ? undefined : { name, major: Number(major) };
}
