// What was tried, read from the rows and held against what was to be expected.
#include "core/kinds/matrix/matrix.h"

#include <utility>

#include "core/kinds/matrix/parts.h"
#include "core/kinds/parts.h"
#include "core/path/slips.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

void remember(std::vector<std::string>& names, const std::string& name) {
    if (!name.empty() && std::find(names.begin(), names.end(), name) == names.end())
        names.push_back(name);
}

// A reading with its last digit's doubt, whether or not the meter's accuracy is known.
Measured digits(const Measured& m, const Rows& rows, const char* column, const Facts& facts) {
    return m.with(ErrorSource::ofRun(facts.run, std::string("last digit of the ") + column + ", row " +
                                                    std::to_string(rows.at() + 1)),
                  rectangular(rows.digit(column) / 2.0));
}

void readWatts(Rows& rows, const Facts& facts, MatrixCell& c) {
    c.volts = rows.number("volts");
    const auto amps = rows.number("amps"), watts = rows.number("watts");
    if (c.volts && amps && watts && *c.volts > 0.0 && *amps > 0.0 && *watts > 0.0) {
        const auto check = path::checkWatts(rows.text("volts"), rows.text("amps"), rows.text("watts"));
        if (check && !check->agrees) {
            rows.remark("watts", "watts_disagree", check->sentence);
            c.product = *c.volts * *amps;
        }
    }
    if (watts) {
        c.watts = watts;
        c.measured = digits(*watts, rows, "watts", facts);
        if (!c.volts && amps && *amps > 0.0)
            c.volts = *watts / *amps;
        if (c.volts && *c.volts > 0.0) { // what the meter of volts and amps may be off by
            const Measured meter = meteredVolts(*c.volts, 0.0, facts) * meteredAmps(*watts / *c.volts, 0.0, facts);
            c.doubtKnown = meter.hasDoubt();
            if (meter.value() > 0.0)
                c.measured = *c.measured * meter / Measured(meter.value());
        }
    } else if (c.volts && amps) {
        c.watts = *c.volts * *amps;
        c.doubtKnown = facts.meter.accuracyKnown();
        c.measured = digits(meteredVolts(*c.volts, rows.digit("volts"), facts), rows, "volts", facts) *
                     digits(meteredAmps(*amps, rows.digit("amps"), facts), rows, "amps", facts);
    }
}

// The most that a source at the volts of its tiers can send through a cable.
std::optional<double> mostThrough(path::Side side, const Wire* wire) {
    for (label::Tier& t : side.tiers)
        t.amps = wire ? std::min(t.amps, wire->limit) : t.amps;
    return path::mostWatts(side);
}

void expect(const Facts& facts, MatrixCell& c) {
    const Wire* wire = pieceNamed(facts.cables, c.cable);
    if (const label::Port* from = portOf(facts, c.source)) {
        c.expected = mostThrough({from->tiersFor(label::Way::Out), from->wattsFor(label::Way::Out)}, wire);
        return;
    }
    if (!c.into.empty() && !portOf(facts, c.into))
        return;
    c.predicted = predictFor(facts, c.source, c.cable, c.into);
    if (!c.predicted || !c.watts)
        return;
    c.expected = c.predicted->best.watts().value;
    if (*c.watts == 0.0)
        return;
    c.why = path::whyBelow(Watts(*c.watts), *c.predicted);
    if (!c.why.empty() && wire && wire->ohms && c.volts && *c.volts > 0.0)
        c.why.insert(c.why.begin(), say("This cable's {} Ω lose {} V at this current.", showNumber(*wire->ohms, 3),
                                        showNumber(*wire->ohms * *c.watts / *c.volts, 2)));
}

// Nothing when the row does not say what it is about, or that it was tried.
std::optional<MatrixCell> cellOf(Rows& rows, const Facts& facts) {
    MatrixCell c;
    c.row = rows.at();
    for (const MatrixAxis axis : kMatrixAxes)
        c.*nameOf(axis).of = axisName(rows.text(nameOf(axis).key));
    readWatts(rows, facts, c);
    const std::string happened = rows.choice("happened");
    c.after = rows.seconds("after");
    c.stopped = happened == kStopped;
    if (happened == kNothingFlows && !c.watts) {
        c.watts = 0.0;
        c.measured = Measured(0.0);
    }
    if (!c.watts && !c.stopped)
        return std::nullopt; // a hole: not tried
    if (c.source.empty()) {
        rows.remark("charger", "no_source", "the row does not say what it came from.",
                    "Write a charger, a port of this bank, or “own charger”.");
        return std::nullopt;
    }
    if (portOf(facts, c.source) && portOf(facts, c.into)) {
        rows.remark("port", "into_itself", "both ends are ports of this bank.",
                    "Write the device it went into, or the charger it came from.");
        return std::nullopt;
    }
    expect(facts, c);
    return c;
}

} // namespace

const MatrixAxisName& nameOf(MatrixAxis axis) {
    static const std::array<MatrixAxisName, kMatrixAxes.size()> kAll{{{"charger", "Source", &MatrixCell::source},
                                                                      {"cable", "Cable", &MatrixCell::cable},
                                                                      {"port", "Into", &MatrixCell::into},
                                                                      {"state", "State", &MatrixCell::state}}};
    return kAll[static_cast<std::size_t>(axis)];
}

std::string intoWords(const std::string& into, const std::string& state) {
    return into.empty() || state.empty() ? into + state : into + " (" + state + ")";
}

std::string pairOf(const MatrixCell& c) { return c.source + (c.cable.empty() ? "" : " + " + c.cable); }

std::string placeOf(const MatrixCell& c) {
    const std::string into = intoWords(c.into, c.state);
    return pairOf(c) + (into.empty() ? "" : say(" into {}", into));
}

bool isOwnCharger(const MatrixCell& c) { return lowered(c.source).find("own charger") != std::string::npos; }

bool alikeBut(const MatrixCell& a, const MatrixCell& b, MatrixAxis axis) {
    return std::ranges::all_of(kMatrixAxes, [&](MatrixAxis each) {
        const auto of = nameOf(each).of;
        return (a.*of == b.*of) != (each == axis);
    });
}

const label::Port* portOf(const Facts& facts, const std::string& name) {
    return name.empty() ? nullptr : pieceNamed(facts.label.ports, name);
}

std::optional<path::Prediction> predictFor(const Facts& facts, const std::string& charger, const std::string& cable,
                                           const std::string& port) {
    const Source* source = pieceNamed(facts.chargers, charger);
    const Wire* wire = pieceNamed(facts.cables, cable);
    if (!source || !wire)
        return std::nullopt;
    std::optional<path::Prediction> best;
    for (const label::Port& p : facts.label.ports) {
        if (!p.takes() || (!port.empty() && lowered(p.name) != lowered(port)))
            continue;
        path::Side bank{p.tiersFor(label::Way::In), p.wattsFor(label::Way::In)};
        if (facts.label.inputWatts)
            bank.watts = bank.watts ? std::min(*bank.watts, *facts.label.inputWatts) : *facts.label.inputWatts;
        const auto tier = path::predictTier(source->side, {wire->limit}, bank);
        if (tier && (!best || tier->best.watts() > best->best.watts()))
            best = tier;
    }
    return best;
}

std::string axisName(const std::string& cell) { return cell == kNotStated ? std::string() : cell; }

Sheet spelledOut(Sheet sheet) {
    const std::size_t computer = columnAt(sheet, "computer"), into = columnAt(sheet, "port"),
                      state = columnAt(sheet, "state"), columns = columnsOf(sheet).size();
    std::vector<std::string> above(columns);
    for (auto& row : sheet.rows) {
        row.resize(columns);
        if (std::ranges::all_of(row, [](const std::string& cell) { return trimmed(cell).empty(); }))
            continue;
        for (const std::size_t k : {columnAt(sheet, "charger"), columnAt(sheet, "cable"), into, state, computer}) {
            if (trimmed(row[k]).empty())
                row[k] = above[k];
            above[k] = row[k];
        }
        if (!row[computer].empty()) {
            row[into] = "computer";
            row[state] = std::exchange(row[computer], {});
        }
    }
    return sheet;
}

MatrixFinding matrix(const Sheet& written, const Facts& facts) {
    MatrixFinding f;
    const Sheet sheet = spelledOut(written);
    Rows rows(sheet, f.said.remarks);
    while (rows.next()) {
        for (const MatrixAxis axis : kMatrixAxes)
            remember(f.names[static_cast<std::size_t>(axis)], axisName(rows.text(nameOf(axis).key)));
        if (auto c = cellOf(rows, facts))
            f.cells.push_back(std::move(*c));
    }
    for (const MatrixCell& c : f.cells) {
        auto at = std::ranges::find_if(f.layers,
                                       [&](const MatrixLayer& l) { return l.into == c.into && l.state == c.state; });
        if (at == f.layers.end())
            at = f.layers.insert(at, {c.into, c.state, {}, false, 0, nullptr, {}, nullptr});
        at->cells.push_back(&c);
    }
    sayMatrix(facts, f);
    blame(facts, f);
    return f;
}

} // namespace otterstone::kinds
