#include "core/kinds/cells/cells.h"

#include <algorithm>

#include "core/kinds/parts.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kLeastShare = 0.60;
constexpr double kUneven = 0.05; // V between the highest and the lowest cell of one kind

} // namespace

CellsFinding cells(const Sheet& sheet, const Facts& facts) {
    CellsFinding f;
    Rows rows(sheet, f.said.remarks);
    Measured sum(0.0);
    std::optional<Measured> input;
    while (rows.next()) {
        const std::string name = rows.text("cell");
        const auto volts = readVolts(rows, "volts", facts), amps = readAmps(rows, "amps", facts);
        if (!volts || !amps) {
            rows.remark(volts ? "amps" : "volts", "half_row", "a cell needs its volts and amps.");
            continue;
        }
        const Measured watts = *volts * *amps;
        if (lowered(name) == "input") {
            input = watts;
            f.inputWatts = watts.value();
            continue;
        }
        f.cells.push_back({name.empty() ? std::to_string(f.cells.size() + 1) : name, volts->value(), amps->value()});
        f.said.figures.push_back(figure("cell:" + f.cells.back().name, say("cell {}", f.cells.back().name),
                                        showNumber(volts->value(), 4) + " V × " + showNumber(amps->value(), 3) + " A",
                                        watts, Unit::Watt, "cells"));
        sum = sum + watts;
    }
    f.cellWatts = sum.value();
    if (f.cells.empty())
        return f;
    f.said.sentence = say("{} {} W", counted(f.cells.size(), "cell takes", "cells take"), showNumber(f.cellWatts, 3));
    f.said.figures.insert(f.said.figures.begin(), figure("cells_watts", "into the cells",
                                                         say("Σ V × A of {}", counted(f.cells.size(), "cell", "cells")),
                                                         sum, Unit::Watt, "cells"));
    if (input && input->value() > 0.0) {
        f.share = sum / *input;
        f.said.sentence = say("{}: {} % of the {} W that come in", f.said.sentence,
                              showNumber(f.share->value() * 100.0, 3), showNumber(*f.inputWatts, 3));
        f.said.figures.push_back(figure("cells_share", "of what comes in",
                                        showNumber(f.cellWatts, 4) + " W ÷ " + showNumber(*f.inputWatts, 4) + " W",
                                        *f.share, Unit::Share, "cells"));
        if (f.share->value() - f.share->expanded() > 1.0)
            f.said.warnings.push_back(
                {"cells_above_input",
                 say("The cells would take more than comes in; check the readings, or the meter's direction.")});
        else if (f.share->value() < kLeastShare)
            f.said.warnings.push_back(
                {"cells_far_below_input", say("Less than 60 % of the input reaches the cells; was a cell missed?")});
    }
    f.said.sentence += ".";
    const auto [low, high] = std::minmax_element(f.cells.begin(), f.cells.end(),
                                                 [](const Cell& a, const Cell& b) { return a.volts < b.volts; });
    if (high->volts - low->volts > kUneven)
        f.said.warnings.push_back(
            {"cells_uneven", say("Cell {} stands {} mV above cell {}; with cells in series that costs capacity.",
                                 high->name, showNumber((high->volts - low->volts) * 1000.0, 2), low->name)});
    return f;
}

} // namespace otterstone::kinds
