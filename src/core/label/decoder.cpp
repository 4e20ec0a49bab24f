#include "core/label/decoder.h"

#include <cmath>
#include <optional>

#include "core/label/rating.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::label {

namespace {

constexpr double kSlack = 0.002; // volts: 3.9 printed as 3.90 stays inside
constexpr int kMostSeries = 6;
constexpr int kMostCells = 24;
constexpr double kWholeTolerance = 0.02; // printed figures are rounded to about a percent

const char* words(int n) {
    static constexpr const char* kWords[] = {"no", "one", "two", "three", "four", "five", "six"};
    return n >= 0 && n <= 6 ? kWords[n] : "many";
}

std::string ampHours(double ah) {
    return ah >= 1.0 ? showNumber(std::round(ah * 100.0) / 100.0) + (ah == std::round(ah) ? ".0 Ah" : " Ah")
                     : say("{} mAh", showNumber(ah * 1000.0));
}

// How many of `part` make up `whole`, when that is a whole number.
std::optional<int> wholeCount(double whole, double part) {
    if (part <= 0.0 || whole <= 0.0)
        return std::nullopt;
    const double ratio = whole / part;
    const double n = std::round(ratio);
    if (!(n >= 2.0 && n <= kMostCells && std::fabs(ratio - n) <= kWholeTolerance * n))
        return std::nullopt;
    return static_cast<int>(n);
}

struct Clues {
    std::optional<int> series;     // from a printed voltage
    std::optional<int> cellsByWh;  // from a printed energy
    std::optional<int> cellsByMah; // from a printed charge
};

void readVolts(double volts, const Label& label, Clues& clues, std::vector<Reading>& out) {
    const int n = seriesCount(Volts(volts));
    if (n == 0) {
        if (cellKind(Volts(volts)) != CellKind::None && !(label.cellVolts && label.cellVolts->value == volts))
            out.push_back({"cell_kind", say("{} V is the nominal voltage of a single cell.", showNumber(volts))});
        return;
    }
    clues.series = n;
    out.push_back({"series_count", say("{} V reads as {} cells in series at {} V each.", showNumber(volts), words(n),
                                       showNumber(volts / n, 3))});
}

// `beside` is a voltage printed right before it: "3.85V 38.5Wh".
void readEnergy(double wh, std::optional<double> beside, const Label& label, std::optional<WattHours> rated,
                Clues& clues, std::vector<Reading>& out) {
    if (!rated && beside && *beside > 0.0)
        out.push_back({"whole_energy",
                       say("{} Wh at {} V are {}.", showNumber(wh), showNumber(*beside), ampHours(wh / *beside))});
    if (!rated)
        return;
    if (std::fabs(wh - rated->value) <= kWholeTolerance * rated->value) {
        out.push_back({"whole_energy", say("{} Wh is the energy of the whole bank.", showNumber(wh))});
        return;
    }
    if (beside && label.capacity && cellKind(Volts(*beside)) != CellKind::None &&
        std::fabs(wh - label.capacity->value * *beside) <= kWholeTolerance * wh) {
        out.push_back(
            {"whole_energy",
             say("{} Wh is the energy of the whole bank with its {} mAh counted at {} V instead of {}{} % more than the rated {} Wh, from the same cells.",
                 showNumber(wh), showNumber(label.capacity->value * 1000.0, 7), showNumber(*beside),
                 (label.cellVolts ? showNumber(label.cellVolts->value) + " V: " : say("the nominal voltage: ")),
                 showNumber(100.0 * (wh / rated->value - 1.0), 2), showNumber(rated->value, 4))});
        return;
    }
    const auto n = wholeCount(rated->value, wh);
    if (!n)
        return;
    clues.cellsByWh = n;
    std::string text = say("{} Wh reads as the energy of one cell", showNumber(wh));
    if (label.capacity) {
        const double ah = label.capacity->value / *n;
        const double volts = label.cellVolts ? label.cellVolts->value : wh / ah;
        text = say("{}: one {} cell at {} V", text, ampHours(ah), showNumber(volts, 3));
    }
    out.push_back({"cell_energy", say("{}; {} of them make {} Wh.", text, (*n <= 6 ? words(*n) : std::to_string(*n)),
                                      showNumber(wh * *n, 4))});
}

void readCharge(double ah, const Label& label, Clues& clues, std::vector<Reading>& out) {
    if (!label.capacity)
        return;
    const auto n = wholeCount(label.capacity->value, ah);
    if (!n)
        return;
    clues.cellsByMah = n;
    out.push_back({"cell_count",
                   say("{} mAh reads as one cell's charge; {} of them make the printed {} mAh.",
                       showNumber(ah * 1000.0, 7), std::to_string(*n), showNumber(label.capacity->value * 1000.0, 7))});
}

// "5V 6000mAh": a charge at a port's voltage is what comes out, not what the cells hold.
void readOutput(double ah, double volts, std::optional<WattHours> rated, std::vector<Reading>& out) {
    const double given = ah * volts;
    out.push_back({"output_share", say("{} mAh at {} V reads as the rated output: {} Wh{}", showNumber(ah * 1000.0, 7),
                                       showNumber(volts), showNumber(given, 4),
                                       (rated && rated->value > 0.0 ? say(", {} % of the rated energy.",
                                                                          showNumber(100.0 * given / rated->value, 3))
                                                                    : "."))});
}

// Watts and amperes that some port, or the whole bank, has on its label.
void readPorts(const Printed& p, const Label& label, std::vector<Reading>& out) {
    const auto is = [&](double v) { return std::fabs(v - p.high) <= kWholeTolerance * p.high; };
    const std::string figure = showNumber(p.high) + (p.unit == "w" ? " W" : " A");
    std::string where;
    for (const Port& port : label.ports) {
        bool fits = false;
        for (const Way way : {Way::Out, Way::In}) {
            if (const auto limit = port.wattsFor(way))
                fits = fits || (p.unit == "w" && is(limit->value));
            for (const Tier& t : port.tiersFor(way))
                fits = fits || is(p.unit == "w" ? t.watts().value : t.amps.value);
        }
        if (fits)
            where += (where.empty() ? "" : ", ") + port.name;
    }
    if (!where.empty())
        out.push_back({"port_watts", say("{} is what the label says of {}.", figure, where)});
    else if ((p.unit == "w" && ((label.totalWatts && is(label.totalWatts->value)) ||
                                (label.inputWatts && is(label.inputWatts->value)))) ||
             (p.unit == "a" && label.totalAmps && is(label.totalAmps->value)))
        out.push_back({"port_watts", say("{} is what the label says of the whole bank.", figure)});
}

void readImplied(const Label& label, std::vector<Reading>& out) {
    const auto implied = impliedCellVolts(label);
    if (!implied)
        return;
    const std::string start = say("The printed Wh and mAh imply {} V", showNumber(implied->value, 3));
    switch (cellKind(*implied)) {
    case CellKind::LithiumIon: out.push_back({"cell_kind", say("{} per cell: lithium-ion or polymer.", start)}); break;
    case CellKind::IronPhosphate:
        out.push_back({"cell_kind", say("{} per cell: lithium iron phosphate.", start)});
        break;
    case CellKind::None:
        if (const int n = seriesCount(*implied); n > 0)
            out.push_back(
                {"series_pack",
                 say("{}: the mAh are counted for {} cells in series, so one cell string of {} V holds {} times the mAh at cell voltage.",
                     start, words(n), showNumber(implied->value / n, 3), words(n))});
        break;
    }
}

} // namespace

CellKind cellKind(Volts v) {
    if (v.value >= 3.5 - kSlack && v.value <= 3.9 + kSlack)
        return CellKind::LithiumIon;
    if (v.value >= 3.2 - kSlack && v.value <= 3.3 + kSlack)
        return CellKind::IronPhosphate;
    return CellKind::None;
}

int seriesCount(Volts volts) {
    // Lithium-ion readings come first: 12.8 V is four iron phosphate cells, but no count of lithium-ion ones.
    for (CellKind wanted : {CellKind::LithiumIon, CellKind::IronPhosphate}) {
        for (int n = 2; n <= kMostSeries; ++n) {
            if (cellKind(Volts(volts.value / n)) == wanted)
                return n;
        }
    }
    return 0;
}

std::vector<Reading> decode(const Label& label) {
    std::vector<Reading> out;
    Clues clues;
    const auto rating = ratedEnergy(label);
    const std::optional<WattHours> rated = rating ? std::optional(rating->energy) : std::nullopt;

    readImplied(label, out);
    const std::vector<Printed> printed = scanPrinted(label.alsoPrinted);
    std::string unexplained;
    for (std::size_t k = 0; k < printed.size(); ++k) {
        const Printed& p = printed[k];
        const std::size_t before = out.size();
        std::optional<double> beside;
        if (k > 0 && printed[k - 1].unit == "v")
            beside = printed[k - 1].high;
        const bool charge = p.unit == "mah" || p.unit == "ah";
        const double ah = p.unit == "mah" ? p.high / 1000.0 : p.high;
        const bool atPort = beside && cellKind(Volts(*beside)) == CellKind::None && seriesCount(Volts(*beside)) == 0;
        bool known = false; // told already, or told with the figure behind it
        if (p.unit == "v") {
            readVolts(p.high, label, clues, out);
            const bool nextIsCharge =
                k + 1 < printed.size() && (printed[k + 1].unit == "mah" || printed[k + 1].unit == "ah");
            known = (label.cellVolts && label.cellVolts->value == p.high) ||
                    (nextIsCharge && cellKind(Volts(p.high)) == CellKind::None && seriesCount(Volts(p.high)) == 0);
            for (const Port& port : label.ports) {
                for (const Way way : {Way::Out, Way::In}) {
                    for (const Tier& t : port.tiersFor(way))
                        known = known || (p.high >= t.low.value - kSlack && p.high <= t.high.value + kSlack);
                }
            }
        } else if (p.unit == "wh") {
            readEnergy(p.high, beside, label, rated, clues, out);
        } else if (charge && atPort) {
            readOutput(ah, *beside, rated, out);
        } else if (charge) {
            known = label.capacity && std::fabs(label.capacity->value - ah) <= kWholeTolerance * ah;
            readCharge(ah, label, clues, out);
        } else if (p.unit == "w" || p.unit == "a") {
            readPorts(p, label, out);
        }
        if (out.size() == before && !known) {
            const std::string unit = p.unit == "v"     ? " V"
                                     : p.unit == "wh"  ? " Wh"
                                     : p.unit == "mah" ? " mAh"
                                     : p.unit == "ah"  ? " Ah"
                                     : p.unit == "w"   ? " W"
                                     : p.unit == "a"   ? " A"
                                     : p.unit.empty()  ? ""
                                                       : " " + p.unit;
            unexplained += (unexplained.empty() ? "" : ", ") + showNumber(p.high, 7) + unit;
        }
    }
    if (!unexplained.empty())
        out.push_back({"unexplained", say("Nothing else on the label explains {}.", unexplained)});
    const std::optional<int> cells = clues.cellsByWh ? clues.cellsByWh : clues.cellsByMah;
    if (clues.series && cells) {
        if (*cells % *clues.series == 0) {
            const int parallel = *cells / *clues.series;
            out.push_back({"consistent", say("These agree: {} cells, {} in series{}{}: consistent.",
                                             std::to_string(*cells), words(*clues.series),
                                             (parallel > 1 ? say(" and {} in parallel", std::to_string(parallel)) : ""),
                                             (rated ? say(", {} Wh in all", showNumber(rated->value, 4)) : ""))});
        } else {
            out.push_back({"inconsistent", say("These do not agree: {} cells cannot be put {} in series.",
                                               std::to_string(*cells), words(*clues.series))});
        }
    }
    if (label.outputCapacity && rated && rated->value > 0.0) {
        const Volts at = label.outputVolts.value_or(Volts(5.0));
        const WattHours given = *label.outputCapacity * at;
        out.push_back({"output_share", say("The rated output of {} mAh at {} V is {} Wh: {} % of the rated energy.",
                                           showNumber(label.outputCapacity->value * 1000.0, 7), showNumber(at.value),
                                           showNumber(given.value, 4), showNumber(100.0 * (given / *rated), 3))});
    }
    return out;
}

} // namespace otterstone::label
