#!/usr/bin/env bash
# Installs the interface's packages and builds it, each only when something changed.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/../web"
lock=$(sha256sum package-lock.json | cut -d' ' -f1)
if [ "$(cat node_modules/.installed 2>/dev/null)" != "$lock" ]; then
  npm ci --no-audit --no-fund --loglevel=error
  echo "$lock" >node_modules/.installed
fi
sources=$(find . -path ./node_modules -prune -o -path ./dist -prune -o -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum)
if [ "$(cat dist/.built 2>/dev/null)" != "$sources" ]; then
  npm run --silent build
  echo "$sources" >dist/.built
fi
