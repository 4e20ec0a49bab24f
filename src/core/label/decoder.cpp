#include "core/label/decoder.h"

#include <cmath>
#include <optional>

#include "core/label/rating.h"
#include "core/quantity/format.h"

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
                     : showNumber(ah * 1000.0) + " mAh";
}

// How many of `part` make up `whole`, when that is a whole number.
std::optional<int> wholeCount(double whole, double part) {
    if (part <= 0.0 || whole <= 0.0)
        return std::nullopt;
    const double ratio = whole / part;
    const double n = std::round(ratio);
    if (n < 2.0 || n > kMostCells || std::fabs(ratio - n) > kWholeTolerance * n)
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
            out.push_back({"cell_kind", showNumber(volts) + " V is the nominal voltage of a single cell."});
        return;
    }
    clues.series = n;
    out.push_back({"series_count", showNumber(volts) + " V reads as " + words(n) + " cells in series at " +
                                       showNumber(volts / n, 3) + " V each."});
}

void readEnergy(double wh, const Label& label, std::optional<WattHours> rated, Clues& clues, std::vector<Reading>& out) {
    if (!rated)
        return;
    if (std::fabs(wh - rated->value) <= kWholeTolerance * rated->value) {
        out.push_back({"whole_energy", showNumber(wh) + " Wh is the energy of the whole bank."});
        return;
    }
    const auto n = wholeCount(rated->value, wh);
    if (!n)
        return;
    clues.cellsByWh = n;
    std::string text = showNumber(wh) + " Wh reads as the energy of one cell";
    if (label.capacity) {
        const double ah = label.capacity->value / *n;
        const double volts = label.cellVolts ? label.cellVolts->value : wh / ah;
        text += ": one " + ampHours(ah) + " cell at " + showNumber(volts, 3) + " V";
    }
    out.push_back({"cell_energy", text + "; " + (*n <= 6 ? words(*n) : std::to_string(*n)) + " of them make " +
                                      showNumber(wh * *n, 4) + " Wh."});
}

void readCharge(double ah, const Label& label, Clues& clues, std::vector<Reading>& out) {
    if (!label.capacity)
        return;
    const auto n = wholeCount(label.capacity->value, ah);
    if (!n)
        return;
    clues.cellsByMah = n;
    out.push_back({"cell_count", showNumber(ah * 1000.0, 7) + " mAh reads as one cell's charge; " + std::to_string(*n) +
                                     " of them make the printed " + showNumber(label.capacity->value * 1000.0, 7) +
                                     " mAh."});
}

void readImplied(const Label& label, std::vector<Reading>& out) {
    const auto implied = impliedCellVolts(label);
    if (!implied)
        return;
    const std::string start = "The printed Wh and mAh imply " + showNumber(implied->value, 3) + " V";
    switch (cellKind(*implied)) {
    case CellKind::LithiumIon: out.push_back({"cell_kind", start + " per cell: lithium-ion or polymer."}); break;
    case CellKind::IronPhosphate: out.push_back({"cell_kind", start + " per cell: lithium iron phosphate."}); break;
    case CellKind::None:
        if (const int n = seriesCount(*implied); n > 0)
            out.push_back({"series_pack", start + ": the mAh are counted for " + words(n) + " cells in series, so one cell string "
                                              "of " + showNumber(implied->value / n, 3) + " V holds " + words(n) +
                                              " times the mAh at cell voltage."});
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
    for (const Printed& p : scanPrinted(label.alsoPrinted)) {
        if (p.unit == "v")
            readVolts(p.high, label, clues, out);
        else if (p.unit == "wh")
            readEnergy(p.high, label, rated, clues, out);
        else if (p.unit == "mah")
            readCharge(p.high / 1000.0, label, clues, out);
        else if (p.unit == "ah")
            readCharge(p.high, label, clues, out);
    }
    const std::optional<int> cells = clues.cellsByWh ? clues.cellsByWh : clues.cellsByMah;
    if (clues.series && cells) {
        if (*cells % *clues.series == 0) {
            const int parallel = *cells / *clues.series;
            out.push_back({"consistent", "These agree: " + std::to_string(*cells) + " cells, " + words(*clues.series) +
                                             " in series" +
                                             (parallel > 1 ? " and " + std::to_string(parallel) + " in parallel" : "") +
                                             (rated ? ", " + showNumber(rated->value, 4) + " Wh in all" : "") +
                                             ": consistent."});
        } else {
            out.push_back({"inconsistent", "These do not agree: " + std::to_string(*cells) + " cells cannot be put " +
                                               words(*clues.series) + " in series."});
        }
    }
    if (label.outputCapacity && rated && rated->value > 0.0) {
        const Volts at = label.outputVolts.value_or(Volts(5.0));
        const WattHours given = *label.outputCapacity * at;
        out.push_back({"output_share", "The rated output of " + showNumber(label.outputCapacity->value * 1000.0, 7) +
                                           " mAh at " + showNumber(at.value) + " V is " + showNumber(given.value, 4) +
                                           " Wh: " + showNumber(100.0 * (given / *rated), 3) + " % of the rated energy."});
    }
    return out;
}

} // namespace otterstone::label
