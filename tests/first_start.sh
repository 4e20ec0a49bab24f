#!/bin/sh
# Does what a newcomer does: a clean copy of what the repository holds, ./run-demo in it without a display, then the documented rehearsal at 500 times, and
# a sheet as HTML and PDF, all with what run-demo built and nothing else. The compiler's cache is shared, so that this builds quickly.
# Usage: first_start.sh SOURCE
set -eu
source=$1
work=$(mktemp -d)
standin=""
finish() {
    [ -z "$standin" ] || kill "$standin" 2>/dev/null || true
    rm -rf "$work"
}
trap finish EXIT
fail() { echo "FAIL: $*" >&2; exit 1; }

copy=$work/otterstone
mkdir "$copy"
(cd "$source" && git ls-files --cached --others --exclude-standard | while IFS= read -r f; do [ ! -e "$f" ] || printf '%s\n' "$f"; done | tar -c -T - | tar -x -C "$copy")
cd "$copy"
export CCACHE_BASEDIR="$copy"
unset DISPLAY WAYLAND_DISPLAY || true
./run-demo > "$work/said.txt" 2> "$work/built.txt" || { tail -40 "$work/built.txt" >&2; fail "./run-demo"; }
grep -q "reached the port" "$work/said.txt" || fail "without a display ./run-demo prints the demo's findings"

cli=build/release/src/cli/otterstone-cli
book=demo/skerry-point.otterstone
"$cli" report "$book" --bank "Cobble 10" --out "$work/cobble.html" || fail "an HTML sheet"
"$cli" report "$book" --bank "Cobble 10" --out "$work/cobble.pdf" || fail "a PDF sheet"
grep -q "Cobble 10" "$work/cobble.html" || fail "the sheet names its bank"
head -c 4 "$work/cobble.pdf" | grep -q "%PDF" || fail "the PDF is one"

# docs/live-bench.md, as it is written there, but quicker.
for speed in 500; do
    mkdir "$work/bench-$speed"
    build/release/src/standin/otterstone-standin --demo "Cobble 10" --speed $speed --folder "$work/bench-$speed" > "$work/ports-$speed.json" &
    standin=$!
    for _ in $(seq 100); do
        [ -s "$work/ports-$speed.json" ] && break
        sleep 0.1
    done
    load=$(sed -n 's/.*"load":\([0-9]*\).*/\1/p' "$work/ports-$speed.json")
    "$cli" live "$book" --bank "Cobble 10" --recipe gentle-drain --meter "printing-meter@$work/bench-$speed/meter" --load "scpi-load@127.0.0.1:$load" --checked --json > "$work/run-$speed.json" 2> "$work/run-$speed.txt" ||
        { tail -5 "$work/run-$speed.txt" >&2; fail "the rehearsal at $speed x"; }
    grep -q "switched its output off" "$work/run-$speed.json" && grep -q '"orderly": true' "$work/run-$speed.json" || { cat "$work/run-$speed.json" >&2; fail "the rehearsal at $speed x ends by the bank's cut-off"; }
    kill "$standin" 2>/dev/null || true
    wait "$standin" 2>/dev/null || true
    standin=""
done
echo "first start: built, told, drawn, rehearsed"
