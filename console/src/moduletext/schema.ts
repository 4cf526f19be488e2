import module from "../../../core/src/main/resources/tidybridge/core/definition/module.schema.json";
import type { KeyOrder } from "./edits";

/** As much of a JSON Schema (2020-12) as the schema of modules uses. */
export interface Schema {
  $ref?: string;
  $defs?: Readonly<Record<string, Schema>>;
  type?: string | readonly string[];
  description?: string;
  default?: string | number | boolean;
  const?: string;
  enum?: ReadonlyArray<string | number | boolean | null>;
  pattern?: string;
  required?: readonly string[];
  properties?: Readonly<Record<string, Schema | true>>;
  additionalProperties?: Schema | boolean;
  propertyNames?: Schema;
  items?: Schema;
  oneOf?: readonly Schema[];
}

/** What a module may say, as the service itself ships it. */
export const moduleSchema = module as unknown as Schema;

/** A schema with what it refers to, its own words first. */
export function resolved(schema: Schema, root: Schema): Schema {
  if (schema.$ref === undefined) {
    return schema;
  }
  const { $ref, ...own } = schema;
  const target = resolved(root.$defs?.[$ref.replace("#/$defs/", "")] ?? {}, root);
  const properties = { ...own.properties, ...target.properties };
  return { ...target, ...own, ...(Object.keys(properties).length > 0 ? { properties } : {}) };
}

/** What a schema says of a place; undefined where it knows none. */
export function schemaAt(root: Schema, path: ReadonlyArray<string | number>): Schema | undefined {
  let schema: Schema | undefined = root;
  for (const step of path) {
    schema = schema === undefined ? undefined : below(resolved(schema, root), step, root);
  }
  return schema === undefined ? undefined : resolved(schema, root);
}

function below(schema: Schema, step: string | number, root: Schema): Schema | undefined {
  const named = typeof step === "number" ? schema.items : schema.properties?.[step];
  const known = named === true ? {} : named;
  const free = typeof schema.additionalProperties === "object" ? schema.additionalProperties : undefined;
  return known ?? free ?? schema.oneOf?.map((one) => below(resolved(one, root), step, root)).find((one) => one !== undefined);
}

/** Keys stand in the order in which the schema names them. */
export const schemaOrder =
  (root: Schema): KeyOrder =>
  (path) =>
    Object.keys(schemaAt(root, path)?.properties ?? {});
