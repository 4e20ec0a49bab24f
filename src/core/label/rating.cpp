#include "core/label/rating.h"

namespace otterstone::label {

std::optional<Rating> ratedEnergy(const Label& label) {
    Rating rating;
    Working& w = rating.working;
    w.key = "rated_wh";
    w.label = "rated energy";
    w.unit = Unit::WattHour;
    w.point = "label";
    if (label.energy) {
        rating.energy = *label.energy;
        rating.printed = true;
        w.note = "as printed on the bank";
    } else if (label.capacity && label.cellVolts) {
        rating.energy = *label.capacity * *label.cellVolts;
        const double mah = label.capacity->value * 1000.0;
        w.formula =
            showNumber(mah, 7) + " mAh × " + showNumber(label.cellVolts->value) + " V ÷ 1000";
        w.note = "no Wh printed, so the printed mAh times the nominal cell voltage";
    } else {
        return std::nullopt;
    }
    w.value = Measured(rating.energy.value);
    return rating;
}

std::optional<Volts> impliedCellVolts(const Label& label) {
    if (!label.energy || !label.capacity || label.capacity->value <= 0.0)
        return std::nullopt;
    return *label.energy / *label.capacity;
}

FlightClass flightClass(std::optional<WattHours> rated) {
    if (!rated)
        return FlightClass::Unknown;
    if (rated->value <= 100.0)
        return FlightClass::CarryOn;
    return rated->value <= 160.0 ? FlightClass::AskCarrier : FlightClass::NotOnBoard;
}

std::string flightKey(FlightClass c) {
    switch (c) {
    case FlightClass::CarryOn: return "carry-on";
    case FlightClass::AskCarrier: return "ask-carrier";
    case FlightClass::NotOnBoard: return "not-on-board";
    case FlightClass::Unknown: return "unknown";
    }
    return "unknown";
}

std::string flightSentence(FlightClass c) {
    switch (c) {
    case FlightClass::CarryOn:
        return "Up to 100 Wh: usually allowed in the cabin, never in checked baggage. The carrier's rule stands.";
    case FlightClass::AskCarrier:
        return "Over 100 Wh up to 160 Wh: cabin only, and only with the carrier's approval.";
    case FlightClass::NotOnBoard: return "Over 160 Wh: not on a passenger aircraft.";
    case FlightClass::Unknown: return "No rated energy known: treat it as not allowed on an aircraft.";
    }
    return {};
}

} // namespace otterstone::label
