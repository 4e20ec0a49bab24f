#!/bin/sh
# Each line below must be refused by the compiler; the first, as a proof that the rest can, must be taken.
compiler=$1
sources=$2
try() {
    printf '#include "core/quantity/units.h"\nusing namespace otterstone;\nauto f() { return %s; }\n' "$1" |
        "$compiler" -std=c++20 -fsyntax-only -I"$sources" -x c++ - 2>/dev/null
}
try 'Volts(5) * Amps(2)' || { echo "volts times amps must compile"; exit 1; }
for wrong in 'Volts(5) + Amps(2)' 'WattHours(3) - AmpHours(1)' 'Amps(1) * Amps(1)' 'Watts(1) < WattHours(1)' 'Volts(5) + 1.0'; do
    if try "$wrong"; then
        echo "this must not compile: $wrong"
        exit 1
    fi
done
