#!/usr/bin/env bash
# Builds the console into dist/; does nothing when nothing changed since the last time.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"

api=../service/src/main/resources/desk-openapi.yaml
if [ -f dist/index.html ] && [ -z "$(find src public index.html package.json package-lock.json vite.config.ts tsconfig.json "$api" \
    -type f ! -name desk.ts -newer dist/index.html -print -quit)" ]; then
  exit 0
fi
if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
  npm ci --no-audit --no-fund --loglevel=error
fi
npm run build --silent
