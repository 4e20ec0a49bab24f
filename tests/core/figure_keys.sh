#!/bin/sh
# Fails when the name of a figure is written out a second time: it stands in kinds/figure_keys.h or
# judgement/figure_keys.h and nowhere else but in the members of the files' own formats.
cd "$1" || exit 1
keys=$(sed -n 's/^inline constexpr const char\* [a-zA-Z0-9]* = "\([a-z0-9]*_[a-z0-9_]*\)";.*/\1/p' core/kinds/figure_keys.h core/judgement/figure_keys.h)
[ "$(echo "$keys" | wc -w)" -gt 30 ] || { echo "the figures' names are not found"; exit 1; }
[ -z "$(echo "$keys" | sort | uniq -d)" ] || { echo "named twice: $(echo "$keys" | sort | uniq -d)"; exit 1; }
bad=0
for key in $keys; do
    # visit("…") in a list of members, out["…"], j.at("…") and {"…", value} of JSON are a format's; so are what records and simulated banks hold.
    if grep -rn "\"$key\"" core report app cli --include='*.cpp' --include='*.h' |
        grep -vE "figure_keys.h|/members.h|screenshots.cpp|core/model/|(out|all)\[\"$key\"\]|at\(\"$key\"\)|\{\"$key\", *(orNull|valueOrNull|value|s\.|p\.|g\.)"; then
        bad=1
    fi
done
exit $bad
