#include "core/label/rating.h"

#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::label {

namespace {

Rating ratingOf(WattHours energy, bool printed, std::string formula, std::string note) {
    Rating rating{energy, printed, {}};
    Working& w = rating.working;
    w.key = "rated_wh";
    w.label = say("rated energy");
    w.value = Measured(energy.value);
    w.unit = Unit::WattHour;
    w.point = say("label");
    w.formula = std::move(formula);
    w.note = std::move(note);
    return rating;
}

std::string product(AmpHours capacity, double volts) {
    return say("{} mAh × {} V ÷ 1000", showNumber(capacity.value * 1000.0, 7), showNumber(volts));
}

} // namespace

namespace {

// Nobody prints less; nothing can be divided by it.
constexpr double kLeastWattHours = 1e-6;

bool isRating(WattHours energy) { return energy.value >= kLeastWattHours && energy.value <= kLargestFigure; }

} // namespace

std::optional<Rating> ratedEnergy(const Label& label, Reference reference, double otherVolts) {
    if (reference == Reference::Printed)
        return label.energy && isRating(*label.energy)
                   ? std::optional(ratingOf(*label.energy, true, {}, say("as printed on the bank")))
                   : std::nullopt;
    if (!label.capacity)
        return std::nullopt;
    if (reference == Reference::MahOther && !isRating(*label.capacity * Volts(otherVolts)))
        return std::nullopt;
    if (reference == Reference::MahOther)
        return ratingOf(*label.capacity * Volts(otherVolts), false, product(*label.capacity, otherVolts),
                        say("the printed mAh times {} V, which is not what is printed", showNumber(otherVolts)));
    if (!label.cellVolts || !isRating(*label.capacity * *label.cellVolts))
        return std::nullopt;
    return ratingOf(*label.capacity * *label.cellVolts, false, product(*label.capacity, label.cellVolts->value),
                    label.energy ? say("the printed mAh times the nominal cell voltage")
                                 : say("no Wh printed, so the printed mAh times the nominal cell voltage"));
}

std::optional<Rating> ratedEnergy(const Label& label) {
    auto printed = ratedEnergy(label, Reference::Printed, 0.0);
    return printed ? printed : ratedEnergy(label, Reference::MahNominal, 0.0);
}

std::optional<WattHours> usualEnergy(const Label& label, Way way) {
    const auto rated = ratedEnergy(label);
    if (!rated)
        return std::nullopt;
    return WattHours(rated->energy.value * (way == Way::Out ? kUsuallyOut : kUsuallyIn));
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
        return say("Up to 100 Wh: usually allowed in the cabin, never in checked baggage. The carrier's rule stands.");
    case FlightClass::AskCarrier:
        return say("Over 100 Wh up to 160 Wh: cabin only, and only with the carrier's approval.");
    case FlightClass::NotOnBoard: return say("Over 160 Wh: not on a passenger aircraft.");
    case FlightClass::Unknown: return say("No rated energy known: treat it as not allowed on an aircraft.");
    }
    return {};
}

} // namespace otterstone::label
