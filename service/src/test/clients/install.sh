#!/usr/bin/env bash
# Installs what the tests of typed clients use; does nothing when it is there already.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/typescript"
if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
  npm ci --ignore-scripts --no-audit --no-fund --loglevel=error
fi
