#!/bin/sh
# Fails when a folder of core includes a header of one that stands below it in core/CMakeLists.txt, or of the outside.
cd "$1" || exit 1
order=$(sed -n 's/^foreach(folder IN ITEMS \(.*\))$/\1/p' CMakeLists.txt)
[ -n "$order" ] || { echo "core/CMakeLists.txt names no folders"; exit 1; }
allowed=""
bad=0
for folder in $order; do
    allowed="${allowed:+$allowed|}core/$folder"
    if grep -rnE '#include "' "$folder" | grep -vE "#include \"($allowed)/"; then
        bad=1
    fi
done
[ "$(find . -mindepth 1 -maxdepth 1 -type d | wc -l)" -eq "$(echo "$order" | wc -w)" ] || { echo "a folder is in no list"; bad=1; }
exit $bad
