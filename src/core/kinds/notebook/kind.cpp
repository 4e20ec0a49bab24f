// A notebook as it is written down, and what it saw.
#include <algorithm>

#include "core/kinds/columns.h"
#include "core/kinds/notebook/notebook.h"
#include "core/kinds/parts.h"
#include "core/kinds/seen.h"
#include "core/kinds/sheet_kind.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {
        anyText("time", "Time", "since the beginning (15 min), +15 min, or by the clock: 14:05, 2:15 pm"),
        anyText("bank", "Bank", "what it showed: 83 %, 2 of 4, full, empty"),
        spare(anyText("left", "Left", "the time it said it would still take: 25 min")),
        spare(number("v", "V", "at the meter")),
        spare(number("a", "A", "at the meter")),
        spare(number("w", "W", "at the meter, or as a device shows it")),
        spare(number("wh", "Wh", "as the counter stood")),
        spare(number("mah", "mAh", "as the counter stood")),
        spare(anyText("celsius", "°C", "38, or where: phone 38, bank 31")),
        spare(
            oneOf("way", "Way", "how the device is charged, or that the bank is", {"wire", "pad", "out", "in"}, true)),
        anyText(
            "happened", "What happened",
            "plugged in, unplugged, stopped, resumed, error, replug, button, full, died; “stopped some time before”"),
        note()};
}

void observe(Seen& seen) {
    const SheetRun& run = seen.of();
    const NotebookFinding f = notebook(run.sheet, run.facts);
    const auto figureOf = [&f](std::string_view key) -> const Working* {
        const auto at = std::ranges::find(f.said.figures, key, &Working::key);
        return at == f.said.figures.end() ? nullptr : &*at;
    };
    const auto add = [&](What what, const Working& w, label::Way way) {
        Observation o = seen.blank(what, {}, 0.0, way);
        o.value = w;
        return o;
    };
    if (f.flow == Flow::In) {
        // Only from empty is it what a label promises.
        if (!f.bank || f.bank->from.value() > records::State::kEmpty)
            return;
        for (const auto& [what, key] : {std::pair(What::TimeTo80, "time_to_80"), {What::TimeTo100, "time_to_100"}}) {
            if (const Working* w = figureOf(key)) {
                Observation o = add(what, *w, label::Way::In);
                o.charger = run.facts.charger;
                o.sourceWatts = run.facts.chargerWatts;
                seen.add(std::move(o));
            }
        }
        return;
    }
    const auto ofDevice = [&](What what, const Working& w, std::size_t device) {
        Observation o = add(what, w, label::Way::Out);
        o.device = f.notes.devices[device].name;
        o.deviceWattHours = f.notes.devices[device].wattHours;
        return o;
    };
    for (const Sitting& s : f.sittings) {
        if (s.charging.to80 && tellsMuch(*s.charging.to80)) {
            Working w = figure("time_to_80", "to 80 %", "", *s.charging.to80, Unit::Second, "device");
            Observation o = ofDevice(What::DeviceTo80, w, s.device);
            o.row = s.looks.front().row;
            o.note = "from " + showNumber(s.charging.from.value(), 3) + " %" + (s.way.empty() ? "" : ", " + s.way);
            seen.add(std::move(o));
        }
        if (s.charging.pace && s.charging.pace->value() > 0.0) {
            Working w = figure("points_an_hour", "points an hour", "", *s.charging.pace, Unit::Point, "device");
            Observation o = ofDevice(What::DevicePace, w, s.device);
            o.row = s.looks.front().row;
            o.note = s.way;
            seen.add(std::move(o));
        }
    }
    if (const Working* w = figureOf("charges_per_bank"); w && f.perBank) {
        Observation o = ofDevice(What::Charges, *w, f.perBank->device);
        o.device = f.perBank->name;
        seen.add(std::move(o));
    }
}

} // namespace

SheetKind notebookKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return notebook(sheet, facts).said; }, nullptr,
            observe};
}

} // namespace otterstone::kinds
