#!/usr/bin/env bash
# Builds the console into dist/; does nothing when its sources are those of the last time.
#   build.sh           fetches all it takes to look for faults too, and looks at the types
#   build.sh to-run    fetches what the pages are made of and no more
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")"

fetch() { npm ci --prefer-offline --no-audit --no-fund --loglevel=error "$@"; }

# fingerprint FILE...: of the files' names and contents
fingerprint() { find "$@" -type f ! -name desk.ts -print0 | LC_ALL=C sort -z | xargs -0 sha256sum | sha256sum; }

# once NAME FINGERPRINT COMMAND...: unless it was done for the same fingerprint before
once() {
  local kept=target/$1
  if [ "$(cat "$kept" 2>/dev/null)" = "$2" ]; then return; fi
  "${@:3}"
  mkdir -p target
  printf '%s' "$2" > "$kept"
}

if [ "${1:-}" = to-run ]; then
  if [ ! -d node_modules/vite ]; then rm -f target/fetched; fi
  [ -f target/fetched ] || once fetched-to-run "$(fingerprint package-lock.json)" fetch --omit=dev
else
  if [ ! -d node_modules/vitest ]; then rm -f target/fetched; fi
  once fetched "$(fingerprint package-lock.json)" fetch
  once checked "$(fingerprint src package-lock.json tsconfig.json ../service/src/main/resources/desk-openapi.yaml)" npm run check --silent
fi
[ -f dist/index.html ] || rm -f target/built
once built "$(fingerprint src public index.html package.json package-lock.json vite.config.ts vite.site.config.ts)" npm run build --silent
