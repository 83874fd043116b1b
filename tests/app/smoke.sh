#!/usr/bin/env bash
# Starts the program as a person does, on the display it is given; passes when its window shows and
# it is still alive three seconds later. smoke.sh PROGRAM DATASET
set -euo pipefail
home=$(mktemp -d)
trap 'kill "${pid:-0}" 2>/dev/null || true; rm -rf "$home"' EXIT
HOME="$home" XDG_DATA_HOME="$home" "$1" "$2" &
pid=$!
for _ in $(seq 60); do
    if xwininfo -root -tree 2>/dev/null | grep -q '"Wise Sieve"'; then
        sleep 3
        kill -0 "$pid" || { echo "the program ended"; exit 1; }
        [ -s "$home/wise-sieve/library.sqlite" ] || { echo "no library was made"; exit 1; }
        echo "smoke: the window is up"
        exit 0
    fi
    kill -0 "$pid" 2>/dev/null || { echo "the program ended before its window showed"; exit 1; }
    sleep 0.25
done
echo "no window within fifteen seconds"
exit 1
