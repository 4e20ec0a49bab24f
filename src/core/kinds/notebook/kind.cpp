// A notebook as it is written down, and what it saw.
#include <algorithm>

#include "core/kinds/columns.h"
#include "core/kinds/figure_keys.h"
#include "core/kinds/notebook/measured.h"
#include "core/kinds/parts.h"
#include "core/kinds/seen.h"
#include "core/kinds/sheet_kind.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {
        anyText("time", "Time", "since the beginning (15 min), +15 min, or by the clock: 14:05, 2:15 pm"),
        spare(number("v", "V", "at the meter")),
        spare(number("a", "A", "at the meter")),
        spare(number("w", "W", "at the meter, or as a device shows it")),
        spare(number("wh", "Wh", "as the counter stood")),
        spare(number("mah", "mAh", "as the counter stood")),
        anyText("bank", "Bank", "what it showed: 83 %, 2 of 4, full, empty"),
        spare(anyText("left", "Left", "the time it said it would still take: 25 min")),
        spare(anyText("celsius", "°C", "38, or where: phone 38, bank 31")),
        spare(
            oneOf("way", "Way", "how the device is charged, or that the bank is", {"wire", "pad", "out", "in"}, true)),
        anyText(
            "happened", "What happened",
            "plugged in, unplugged, stopped, resumed, error, replug, button, full, died, went off; “stopped some time before”"),
        note()};
}

// The warmest that its back was read while it was charged; a temperature without a place may be anything's.
std::optional<Measured> heatOf(const NotebookFinding& f, const Sitting& s, const Facts& facts) {
    std::optional<double> warmest;
    for (const Entry& e : f.notes.entries) {
        if (e.at < s.looks.front().at || e.at > s.looks.back().at)
            continue;
        for (const auto& [where, value] : e.celsius) {
            const bool back = where == lowered(f.notes.devices[s.device].name) ||
                              (f.notes.devices.size() == 1 && (where == "back" || where == "device"));
            if (back)
                warmest = std::max(warmest.value_or(value), value);
        }
    }
    if (!warmest)
        return std::nullopt;
    return Measured(*warmest, rectangular(0.5), ErrorSource::ofRun(facts.run, "last digit of the thermometer"));
}

// What its battery stored in an hour came from the pad, and more.
void observePad(Seen& seen, const NotebookFinding& f, const Sitting& s) {
    const NotedDevice& device = f.notes.devices[s.device];
    const auto pad = std::ranges::find_if(seen.of().facts.label.ports, [](const label::Port& p) {
        return p.gives() && lowered(p.name).find("pad") != std::string::npos;
    });
    if (s.way != "pad" || pad == seen.of().facts.label.ports.end() || !device.wattHours || !s.charging.pace ||
        s.charging.pace->value() <= 0.0)
        return;
    Observation o = seen.blank(What::Out, pad->name, 0.0);
    o.value = figure(key::watts, say("{} on the pad", device.name),
                     say("{} points an hour × {} Wh ÷ 100", showNumber(s.charging.pace->value(), 3),
                         showNumber(*device.wattHours, 4)),
                     *s.charging.pace * Measured(*device.wattHours / 100.0), Unit::Watt, "device");
    o.atLeast = true;
    o.limited = LimitedBy::Nobody;
    o.device = device.name;
    o.row = s.looks.front().row;
    o.note = say("what its battery stored, by points an hour");
    seen.add(std::move(o));
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
        // Only from empty and in one go is it what a label promises.
        if (!f.bank || !f.stops.empty() || f.bank->from.value() > records::State::kEmpty)
            return;
        for (const auto& [what, key] : {std::pair(What::TimeTo80, key::timeTo80), {What::TimeTo100, key::timeTo100}}) {
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
        const auto sees = [&](What what, const Working& w, std::string note) {
            Observation o = ofDevice(what, w, s.device);
            o.row = s.looks.front().row;
            o.note = std::move(note);
            for (const Sitting& other : f.sittings) {
                if (&other != &s && atOnce(s, other))
                    o.others.push_back(f.notes.devices[other.device].name);
            }
            seen.add(std::move(o));
        };
        if (s.charging.to80 && tellsMuch(*s.charging.to80))
            sees(What::DeviceTo80, figure(key::timeTo80, "to 80 %", "", *s.charging.to80, Unit::Second, "device"),
                 say("from {} %{}", showNumber(s.charging.from.value(), 3), (s.way.empty() ? "" : ", " + s.way)));
        if (s.charging.pace && s.charging.pace->value() > 0.0)
            sees(What::DevicePace,
                 figure(key::pointsAnHour, "points an hour", "", *s.charging.pace, Unit::Point, "device"), s.way);
        if (const auto heat = heatOf(f, s, run.facts))
            sees(What::DeviceHeat, figure(key::deviceHeat, "its back", "", *heat, Unit::Celsius, "device"), s.way);
        observePad(seen, f, s);
    }
    if (const Working* w = figureOf(key::chargesPerBank); w && f.perBank) {
        Observation o = ofDevice(What::Charges, *w, f.perBank->device);
        o.device = f.perBank->name;
        seen.add(std::move(o));
    }
}

// A look at an interval, as lights are, stands in its middle.
std::vector<DeviceCurve> chargesSeen(const Sheet& sheet, const Facts& facts) {
    const NotebookFinding f = findNotebook(sheet, facts);
    std::vector<DeviceCurve> all;
    for (const Sitting& s : f.sittings) {
        if (s.looks.size() < 2 || s.charging.gained.value() <= 0.0)
            continue;
        const NotedDevice& device = f.notes.devices[s.device];
        DeviceCurve curve{device.name, device.wattHours, s.way, {}};
        for (const Look& l : s.looks)
            curve.points.emplace_back(l.at - s.looks.front().at, l.state.middle());
        all.push_back(std::move(curve));
    }
    return all;
}

} // namespace

SheetKind notebookKind() {
    return {columns,    [](const Sheet& sheet, const Facts& facts) { return notebook(sheet, facts).said; },
            nullptr,    observe,
            true,       Metered{hasReadings, servesAs, measuredIn, saysBegan, readingsOf},
            chargesSeen};
}

} // namespace otterstone::kinds
