// Types of some documents, each into generated/.
import { basename } from "node:path";
import { writeFile } from "node:fs/promises";
import { pathToFileURL } from "node:url";
import openapiTS, { astToString } from "openapi-typescript";

for (const file of process.argv.slice(2)) {
  await writeFile(`generated/${basename(file, ".json")}.ts`, astToString(await openapiTS(pathToFileURL(file))));
}
