#!/bin/sh
# Builds the interface when a source is newer than the last build.
set -e
if [ ! -f node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
  # Not "npm ci": it refuses a lock file that leaves out optional packages of other platforms.
  npm install --no-save --no-fund --no-audit
fi
if [ -f dist/index.html ] && [ -z "$(find src public index.html package-lock.json openapi.json vite.config.ts -newer dist/index.html 2>/dev/null | head -1)" ]; then
  exit 0
fi
npm run --silent build
