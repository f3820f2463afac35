#!/usr/bin/env bash
# Runs the inky command on the database of ./start, which is started for it if it does not run.
#   scripts/inky.sh [--data DIR] COMMAND…      for example: scripts/inky.sh account add "Mara Quill"
set -euo pipefail
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
data=$here/data
if [ "${1:-}" = --data ]; then
  data=${2:?"--data needs a folder"}
  shift 2
fi
[ -x "$here/target/debug/inky" ] || { echo "Run ./start first: it builds the program." >&2; exit 1; }
if ! "$here/scripts/database.sh" runs "$data/mariadb"; then
  trap '"$here/scripts/database.sh" stop "$data/mariadb"' EXIT
fi
url=$("$here/scripts/database.sh" start "$data/mariadb")
export INKY_DATABASE=$url
[ ! -s "$data/address" ] || [ "${1:-}" != account ] || export INKY_ADDRESS=${INKY_ADDRESS:-$(cat "$data/address")}
"$here/target/debug/inky" "$@"
