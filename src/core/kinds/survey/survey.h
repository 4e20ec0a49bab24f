// The port survey: what every port really gives (or takes) on every tier, held against the label; and labels that sit
// on the wrong ports.
#pragma once

#include "core/kinds/judge.h"
#include "core/label/port_rules.h"

namespace otterstone::kinds {

enum class TierState {
    NotTried,    ///< never "fails": a trigger may not have worked on that port
    NotOffered,  ///< asked for, and not there; of an input: not taken
    Offered,     ///< there without a load, or with one that says little
    Holds,       ///< the promised current (any, where none is promised) within tolerance
    HoldsPartly, ///< within tolerance, but tried below the promised current
    Sags         ///< out of tolerance, or gone, at no more than the promised current
};
[[nodiscard]] std::string tierStateWords(TierState state, label::Way way = label::Way::Out);

/// One row of the sheet about a tier.
struct Try {
    std::size_t row = 0; ///< of the sheet
    TierState state = TierState::NotTried;
    std::optional<double> volts, amps; ///< at the port where the path is known, else as read
    std::string note;
};

struct SurveyCell {
    std::string port;
    bool in = false;
    double tierVolts = 0.0;
    std::optional<double> promisedAmps; ///< by the label
    TierState state = TierState::NotTried;
    std::optional<double> volts, amps; ///< of the row that decided it
    std::string handshake;
    std::vector<Try> tries; ///< all rows about it; none replaces another
    bool disagree = false;  ///< at like current it held in one row and not in another
    [[nodiscard]] label::Way way() const { return in ? label::Way::In : label::Way::Out; }
    [[nodiscard]] bool promised() const { return promisedAmps.has_value(); }
};

struct SurveyFinding {
    std::vector<SurveyCell> cells; ///< by port as on the label, then tier; promised ones that nobody tried as well
    std::vector<std::pair<std::string, std::string>> swapped; ///< ports whose printed figures belong to each other
    Said said;
};

/// Tolerance: A6 (label/usb_facts.h), referred to the port where the path's resistance is known; sockets that are not
/// USB have none. Promised current counts as reached from 97 % on, for a load's own steps. Of several rows the worst at
/// no more than the promised current decides. Common practice, no published source.
[[nodiscard]] SurveyFinding survey(const Sheet& sheet, const Facts& facts);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind surveyKind();

} // namespace otterstone::kinds
