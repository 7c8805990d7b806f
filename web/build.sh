#!/usr/bin/env bash
# Installs what the lock file names (only when it changed), lints, and builds the screens into the module's classes.
set -euo pipefail
cd "$(dirname "$0")"
lock=$(sha256sum package-lock.json | cut -c1-64)
if [ ! -d node_modules ] || [ "$(cat node_modules/.lock-digest 2>/dev/null)" != "$lock" ]; then
  npm ci --prefer-offline --no-audit --no-fund
  printf '%s' "$lock" > node_modules/.lock-digest
fi
# The types of the API follow from what the server says of itself.
npm run --silent types
npm run --silent lint
npm run --silent build
