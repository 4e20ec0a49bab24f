// Light loads and idle draw as they are written down.
#include "core/kinds/columns.h"
#include "core/kinds/figure_keys.h"
#include "core/kinds/light_load/light_load.h"
#include "core/kinds/seen.h"
#include "core/kinds/sheet_kind.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {oneOf("what", "What", "what was left on its own",
                  {"load", "load, low-current mode", "idle bank", "idle charger", "idle inverter"}, true),
            number("amps", "A", "drawn"),
            oneOf("state", "Output", "stays on or goes off", {"stays on", "goes off"}),
            anyText("after", "After", "until it went off, or how long it was watched: 35 s"),
            number("watts", "W", "what it burns by itself"),
            note()};
}

void observe(Seen& seen) {
    const auto f = lightLoad(seen.of().sheet, seen.of().facts);
    if (f.plain.offAt) {
        Observation o = seen.blank(What::AutoOff, {}, 0.0);
        o.amps = f.plain.offAt;
        for (const Working& w : f.said.figures) {
            if (w.key == key::autoOffAmps)
                o.value = w;
        }
        seen.add(std::move(o));
    }
    if (f.lowModeHelps) {
        Observation o = seen.blank(What::LowMode, {}, 0.0);
        o.yes = *f.lowModeHelps;
        seen.add(std::move(o));
    }
}

} // namespace

SheetKind lightLoadKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return lightLoad(sheet, facts).said; }, nullptr,
            observe};
}

} // namespace otterstone::kinds
