#!/usr/bin/env bash
# Builds the console. Called by the service's build; does nothing when nothing has changed.
# $1: the API's document, of which the types are made. $2: where the pages go to.
set -euo pipefail
cd "$(dirname "$0")"
if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
  npm ci --no-audit --no-fund --loglevel=error
  touch node_modules/.package-lock.json
fi
types=src/shared/api/schema.d.ts
# The document is written by every build; the types are made when it says something else.
if [ ! -f "$types" ] || ! cmp --silent "$1" node_modules/.api.json; then
  npm run --silent types -- "$1"
  cp "$1" node_modules/.api.json
fi
if [ ! -f dist/index.html ] \
  || [ -n "$(find src public index.html package.json vite.config.ts -newer dist/index.html -print -quit)" ]; then
  npm run --silent build
fi
rm -rf "$2"
mkdir -p "$2"
cp -r dist/. "$2"
