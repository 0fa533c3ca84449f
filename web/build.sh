#!/usr/bin/env bash
# Builds the screens with the machine's own npm. Skips the install when the lock file has not changed.
# build.sh prepare stops where the sources can be read by formatters and linters: installed, typed client made.
set -euo pipefail
cd "$(dirname "$0")"
mkdir -p target
lock=$(sha256sum package-lock.json | cut -d' ' -f1)
if [ "$(cat target/npm.stamp 2>/dev/null)" != "$lock" ] || [ ! -d node_modules ]; then
  npm ci --no-audit --no-fund --loglevel=error
  echo "$lock" > target/npm.stamp
fi
# not while nothing changed: linters may be reading it
[ src/shared/api/schema.d.ts -nt openapi.json ] || npm run --silent types
[ "${1:-}" != prepare ] || exit 0
[ "${SKIP_WEB_TESTS:-}" = 1 ] || { npm run --silent check && npm run --silent test; }
npm run --silent build
node fonts.mjs target/classes/fonts
