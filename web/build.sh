#!/usr/bin/env bash
# Installs what the lock file names and builds the screens into the module's classes, each only when it changed. What is
# looked at beside that (layout, types) is "npm run checks", and the test command's.
set -euo pipefail
cd "$(dirname "$0")"
lock=$(sha256sum package-lock.json | cut -c1-64)
if [ ! -d node_modules ] || [ "$(cat node_modules/.lock-digest 2>/dev/null)" != "$lock" ]; then
  npm ci --prefer-offline --no-audit --no-fund
  printf '%s' "$lock" > node_modules/.lock-digest
fi
built=target/screens-digest
now=$(find src public index.html vite.config.ts package-lock.json -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -c1-64)
if [ ! -f target/classes/static/index.html ] || [ "$(cat "$built" 2>/dev/null)" != "$now" ]; then
  npm run --silent build
  printf '%s' "$now" > "$built"
fi
