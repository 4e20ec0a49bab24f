#!/bin/sh
# Fails when one of the libraries given asks for a symbol of Qt.
for library in "$@"; do
    if nm -C --undefined-only "$library" | grep -E ' (Q[A-Z][A-Za-z]*::|q[A-Z][A-Za-z]*\()'; then
        echo "$library needs Qt"
        exit 1
    fi
done
