#!/usr/bin/env bash
# Installs what the tests of typed clients use; does nothing when it is there already.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/typescript"

fetch() { npm ci --prefer-offline --ignore-scripts --no-audit --no-fund --loglevel=error; }

# Names the archive of each package, as every registry does. Else npm reads all that the registry knows of each, which takes as long again.
named() {
  node -e '
    const fs = require("node:fs"), registry = process.argv[1].replace(/\/*$/, "/"), lock = JSON.parse(fs.readFileSync("package-lock.json"));
    for (const [path, its] of Object.entries(lock.packages)) {
      const name = its.name ?? path.replace(/^.*node_modules\//, "");
      if (its.integrity) its.resolved ??= `${registry}${name}/-/${name.replace(/^.*\//, "")}-${its.version}.tgz`;
    }
    fs.writeFileSync("npm-shrinkwrap.json", JSON.stringify(lock));' "$(npm config get registry)"
}

if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
  trap 'rm -f npm-shrinkwrap.json' EXIT
  { named && fetch; } 2> /dev/null || { rm -f npm-shrinkwrap.json; fetch; }
fi
