#!/usr/bin/env bash
# The program's exit status, and where its messages go. status.sh PROGRAM
set -uo pipefail
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
faults=0
expect() { # expect STATUS ARGUMENTS…
    local wanted=$1
    shift
    "$program" "$@" >"$folder/out" 2>"$folder/err"
    local got=$?
    [ "$got" = "$wanted" ] || { echo "wise-sieve-cli $*: $got, not $wanted: $(cat "$folder/err")"; faults=1; }
    if [ "$wanted" = 0 ]; then
        [ -s "$folder/out" ] && [ ! -s "$folder/err" ] || { echo "$*: no answer, or a message"; faults=1; }
    else
        [ -s "$folder/err" ] || { echo "$*: no message"; faults=1; }
    fi
}
program=$1
mkdir -p "$folder/prices"
printf 'Date;Close\n14.03.2025;1,5\n17.03.2025;1,75\n' >"$folder/prices/KELP.csv"
expect 0 intake "$folder/prices" --market "$folder/market"
expect 0 info --market "$folder/market" --json
expect 0 series --market "$folder/market" --symbol KELP close "change(close, 1)"
expect 0 fields
expect 0 dossier --market "$folder/market" --symbol KELP --part value results
expect 0 value --market "$folder/market" --symbol KELP
expect 0 occurrences --market "$folder/market" --text "close > 1" --cases
expect 1 occurrences --market "$folder/market" --text "close >"
expect 1 dossier --market "$folder/market" --symbol KELP --discount 0.02 --lasting 0.05
expect 1 dossier --market "$folder/market" --symbol NONE
expect 2 dossier --market "$folder/market" --symbol KELP --part nothing
expect 2 occurrences --market "$folder/market" --text "close > 1" --within 0
expect 0 --help
expect 1 info --market "$folder/nothing"
expect 1 intake "$folder/nothing" --market "$folder/market"
expect 1 series --market "$folder/market" --symbol KELP "close +"
expect 2
expect 2 sing
expect 2 series --market "$folder/market" close
expect 2 series --market "$folder/market" --symbol KELP close --from yesterday
expect 2 screen --market "$folder/market"
head -c 100 "$folder/market/market.sieve" >"$folder/cut" && cp "$folder/cut" "$folder/market/market.sieve"
expect 0 column --market "$folder/market" close # made again from its source
rm -r "$folder/prices" && cp "$folder/cut" "$folder/market/market.sieve"
expect 1 column --market "$folder/market" close
exit $faults
