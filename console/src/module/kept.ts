import type { Files } from "./work";

/** What a browser keeps of the work on one module: values to try operations with, and text that is not saved yet. */
export interface Kept {
  values(operation: string): Readonly<Record<string, string>>;
  keepValues(operation: string, values: Readonly<Record<string, string>>): void;
  /** Text that was not saved when the page was left, with the revision it began from. */
  unsaved(): { revision: number | undefined; files: Files } | undefined;
  keepUnsaved(revision: number | undefined, files: Files): void;
  dropUnsaved(): void;
}

/** Keeps it in a storage; one that is full or closed keeps nothing, and the page works all the same. */
export function kept(storage: Storage, name: string, major: number): Kept {
  const prefix = `tidy.${name}/v${major}`;
  const read = <T>(key: string): T | undefined => {
    try {
      const text = storage.getItem(key);
      return text === null ? undefined : (JSON.parse(text) as T);
    } catch {
      return undefined;
    }
  };
  const write = (key: string, value: unknown) => {
    try {
      storage.setItem(key, JSON.stringify(value));
    } catch {
      storage.removeItem(key);
    }
  };
  return {
    values: (operation) => read(`${prefix} values ${operation}`) ?? {},
    keepValues: (operation, values) => write(`${prefix} values ${operation}`, values),
    unsaved: () => read(`${prefix} unsaved`),
    keepUnsaved: (revision, files) => write(`${prefix} unsaved`, { revision, files }),
    dropUnsaved: () => storage.removeItem(`${prefix} unsaved`),
  };
}
