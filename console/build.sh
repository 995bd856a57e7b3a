#!/usr/bin/env bash
# Builds the console into dist/. Called by Maven; does nothing when nothing has changed.
set -euo pipefail
cd "$(dirname "$0")"
if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
  # Not "npm ci": it wants the packages of all other platforms in the lock file, and not every registry
  # has them. This takes the locked versions just the same, and leaves the lock file alone.
  npm install --no-save --no-audit --no-fund --loglevel=error
  touch node_modules/.package-lock.json
fi
types=src/shared/api/schema.d.ts
if [ ! -f "$types" ] || [ ../service/src/main/openapi/openapi.json -nt "$types" ]; then
  npm run --silent types
fi
if [ -f dist/index.html ] && [ -z "$(find src index.html package.json vite.config.ts -newer dist/index.html -print -quit)" ]; then
  exit 0
fi
npm run --silent build
