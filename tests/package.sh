#!/bin/sh
# The Debian package made of what is built: lintian, desktop-file-validate and appstreamcli have nothing to say, the
# manual has every command, the shells take the completion, the file type is recognised by its content, and what is
# unpacked makes the demo and draws a sheet from there. Usage: package.sh SOURCE BUILD
set -eu
source=$1
built=$2
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
fail() { echo "FAIL: $*" >&2; exit 1; }

"$source/packaging/build-deb" --built "$built" "$work/deb" > "$work/said.txt" 2>&1 || { cat "$work/said.txt" >&2; fail "the package"; }
grep -E "^[EWIP]: " "$work/said.txt" && fail "lintian has something to say"
dpkg-deb -x "$work"/deb/otterstone_*.deb "$work/root"
usr=$work/root/usr
desktop-file-validate "$usr/share/applications/otterstone.desktop" || fail "the menu entry"
appstreamcli validate --no-net "$usr/share/metainfo/otterstone.metainfo.xml" > "$work/stream.txt" || { cat "$work/stream.txt" >&2; fail "the metainfo"; }
for size in 16 32 48 128 512; do
    [ -s "$usr/share/icons/hicolor/${size}x${size}/apps/otterstone.png" ] || fail "an icon of $size pixels"
done

cli=$usr/bin/otterstone-cli
for page in otterstone otterstone-cli otterstone-standin otterstone-report; do
    [ -s "$usr/share/man/man1/$page.1.gz" ] || fail "a manual page of $page"
done
gzip -dc "$usr/share/man/man1/otterstone-cli.1.gz" > "$work/cli.1"
for command in $("$cli" --help | sed -n '/^Subcommands:/,$s/^  \([a-z-]*\) .*/\1/p'); do
    grep -q "^.SS \"$(echo "$command" | sed 's/-/\\\\-/g')" "$work/cli.1" || fail "the manual has no $command"
done
[ "$(grep -c '^.SS' "$work/cli.1")" -gt 20 ] || fail "the manual has few commands"
bash -c ". '$usr/share/bash-completion/completions/otterstone-cli'; COMP_WORDS=(otterstone-cli rep); COMP_CWORD=1; _otterstone_cli
    [ \"\${COMPREPLY[*]}\" = report ] || exit 1
    COMP_WORDS=(otterstone-cli claims --ba); COMP_CWORD=2; _otterstone_cli; [[ \" \${COMPREPLY[*]} \" == *' --bank '* ]]" || fail "completion in bash"

book=$work/skerry.otterstone
"$cli" demo "$book" > /dev/null || fail "the demo"
mkdir -p "$work/mime/packages"
cp "$usr/share/mime/packages/otterstone.xml" "$work/mime/packages/"
update-mime-database "$work/mime" 2> /dev/null || fail "the file type"
cp "$book" "$work/nameless"
kind=$(XDG_DATA_HOME=$work gio info -a standard::content-type "$work/nameless" | sed -n 's/.*content-type: //p')
[ "$kind" = application/x-otterstone-book ] || fail "the file type of a book is told as “$kind”"

"$cli" listen "$work/no-such-port" 2> "$work/listen.txt" && fail "listening to nothing"
if grep -q "the program that speaks" "$work/listen.txt"; then fail "the program that speaks to instruments"; fi
"$cli" report "$book" --bank "Cobble 10" --out "$work/cobble.pdf" || fail "a sheet from the package"
head -c 4 "$work/cobble.pdf" | grep -q "%PDF" || fail "the PDF is one"
"$usr/bin/otterstone" --version | grep -q "^otterstone $(sed -n 's/^project(otterstone VERSION \([0-9.]*\).*/\1/p' "$source/CMakeLists.txt")" || fail "the version"
echo "package: $(ls "$work"/deb)"
