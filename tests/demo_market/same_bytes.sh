#!/usr/bin/env bash
# The demo market's bytes are the same on every machine: holds this build's to the recorded sum.
set -euo pipefail
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
"$1" "$folder"
sum=$(cd "$folder" && find . -type f | LC_ALL=C sort | xargs cat | sha256sum | cut -d' ' -f1)
want=$(cat "$(dirname "$0")/same_bytes.sha256")
[ "$sum" = "$want" ] || { echo "The demo market changed: $sum, recorded $want."; echo "If that is meant, raise generatorVersion and record the new sum."; exit 1; }
