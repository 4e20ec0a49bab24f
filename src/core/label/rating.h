// A1, A4: rated energy and what it means for flying.
#pragma once

#include <optional>
#include <string>

#include "core/label/label.h"
#include "core/quantity/working.h"

namespace otterstone::label {

/// A1: printed Wh, else mAh × nominal V. Nothing when neither is known; a nominal voltage is never assumed.
/// Source: definition of energy; the choice of reference is common practice, no published source.
struct Rating {
    WattHours energy;
    bool printed = false; ///< false: computed from mAh × V
    Working working;
};
[[nodiscard]] std::optional<Rating> ratedEnergy(const Label& label);

/// The reference energy as each school takes it; nothing when its figures are not printed. `otherVolts` is the nominal
/// that Reference::MahOther multiplies with (3.6 or 3.85 are met). Common practice, no published source.
enum class Reference { Printed, MahNominal, MahOther };
[[nodiscard]] std::optional<Rating> ratedEnergy(const Label& label, Reference reference, double otherVolts);

/// What an ordinary bank hands out of its rated energy, and takes in until it is full, as multiples of it. Common
/// practice, no published source.
inline constexpr double kUsuallyOut = 0.85, kUsuallyIn = 1.2;
/// Nothing when the rated energy is not known.
[[nodiscard]] std::optional<WattHours> usualEnergy(const Label& label, Way way);

/// Wh ÷ Ah of the printed figures; needs both.
[[nodiscard]] std::optional<Volts> impliedCellVolts(const Label& label);

enum class FlightClass { CarryOn, AskCarrier, NotOnBoard, Unknown };

/// A4, from rated Wh only; watts never matter. Limits 100 Wh and 160 Wh, each included in the easier class: ICAO
/// Technical Instructions and carriers' dangerous-goods rules, quoted from memory.
[[nodiscard]] FlightClass flightClass(std::optional<WattHours> rated);
/// "carry-on", "ask-carrier", "not-on-board", "unknown".
[[nodiscard]] std::string flightKey(FlightClass c);
/// The class in words, with the caution that the carrier's rule stands.
[[nodiscard]] std::string flightSentence(FlightClass c);

} // namespace otterstone::label
