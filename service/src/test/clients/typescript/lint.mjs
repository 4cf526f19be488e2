// The recommended rules of a second linter over some documents; prints what it finds, and nothing when all is well.
import { readFile } from "node:fs/promises";
import { createConfig, lintFromString } from "@redocly/openapi-core";

const config = await createConfig({ extends: ["recommended"] });
for (const file of process.argv.slice(2)) {
  const problems = await lintFromString({ source: await readFile(file, "utf8"), absoluteRef: file, config });
  for (const { severity, ruleId, message, location } of problems) {
    console.log(`${file} ${severity} ${ruleId} ${location[0]?.pointer ?? ""}: ${message}`);
  }
}
