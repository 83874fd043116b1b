#!/usr/bin/env bash
# An update is killed at any moment: afterwards the market holds it or does not, is whole, and loses nothing
# that was told done, though the update's files are gone. killed_intake.sh PROGRAM; SIEVE_KILLS says how often (20).
set -uo pipefail
program=$1
kills=${SIEVE_KILLS:-20}
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
fail() {
    echo "kill $kill: $*"
    exit 1
}
bars() { "$program" series --market "$folder/market" --symbol KELP.C close 2>"$folder/err" | tail -n +2 | wc -l; }
RANDOM=7
kill=0
mkdir -p "$folder/base/bars/daily" "$folder/update/bars/daily"
printf 'date,close\n2000-01-03,10\n' >"$folder/base/bars/daily/KELP.C.csv"
for ((i = 0; i < 40; ++i)); do # others, so that an intake takes a while
    for ((day = 1; day < 29; ++day)); do printf '2000-02-%02d,%d\n' $day $((day + i)); done |
        sed '1idate,close' >"$folder/base/bars/daily/S$i.C.csv"
done
milliseconds() { echo $(($(date +%s%N) / 1000000)); }
begin=$(milliseconds)
"$program" intake "$folder/base" --market "$folder/market" >"$folder/out" || fail "the base is not taken in"
# A kill comes within one and a half times of what an intake takes here: most before its end, some after it. Where
# the machine is slower or faster than it was, the span follows.
span=$(((3 * ($(milliseconds) - begin)) / 2 + 2))
held=1
told=0
unfinished=0
for ((kill = 1; kill <= kills; ++kill)); do
    printf 'date,close\n%s,11\n' "$(date -d "2000-01-03 +$held day" +%F)" >"$folder/update/bars/daily/KELP.C.csv"
    "$program" intake "$folder/update" --market "$folder/market" --update >"$folder/out" 2>&1 &
    wait=$((RANDOM % span))
    sleep "$(printf '%d.%03d' $((wait / 1000)) $((wait % 1000)))"
    kill -9 $! 2>/dev/null
    wait $! 2>/dev/null
    status=$?
    printf 'gone\n' >"$folder/update/bars/daily/KELP.C.csv"
    now=$(bars)
    [ "$now" = "$held" ] || [ "$now" = $((held + 1)) ] || fail "$now bars, $held before: $(cat "$folder/err")"
    if [ $status = 0 ]; then
        told=$((told + 1))
        [ "$now" = $((held + 1)) ] || fail "an update that was told done is lost"
    fi
    held=$now
    unfinished=$((status == 0 ? 0 : unfinished + 1))
    [ $unfinished -lt 6 ] || { span=$((2 * span)); unfinished=0; }
    [ $status != 0 ] || span=$((span - span / 8))
    "$program" info --market "$folder/market" >"$folder/out" 2>&1 || fail "not whole: $(cat "$folder/out")"
    [ ! -e "$folder/market/making" ] || rm -rf "$folder/market/making"
done
head -c 100 "$folder/market/market.sieve" >"$folder/cut" && cp "$folder/cut" "$folder/market/market.sieve"
rm -r "$folder/base"
[ "$(bars)" = "$held" ] || [ "$held" = 1 ] || fail "made again it has not the $held bars that it had"
[ $told -gt 0 ] || fail "no update came to its end: nothing was tested"
echo "$kills kills, $told updates told done, $held bars"
