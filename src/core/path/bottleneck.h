// B3: which tier a charger, a cable and a bank can agree on, and which of the three decides it.
#pragma once

#include <optional>
#include <vector>

#include "core/label/label.h"
#include "core/quantity/working.h"

namespace otterstone::path {

struct CableLimit {
    Amps amps{3.0}; ///< 3 A without a marker, 5 A with one: USB Type-C, quoted from memory
    bool operator==(const CableLimit&) const = default;
};

enum class Binding { Charger, Cable, Bank };
[[nodiscard]] std::string bindingName(Binding b);

struct Meeting {
    Volts volts;
    std::optional<Amps> charger, bank; ///< nothing: that side does not know this voltage
    Amps cable;
    Amps amps; ///< the least of the three, 0 when one side lacks the voltage
    Binding binding = Binding::Charger;
    [[nodiscard]] Watts watts() const { return volts * amps; }
};

struct Prediction {
    std::vector<Meeting> meetings; ///< every voltage one of them names, upwards
    Meeting best;                  ///< the most watts; of equals the lower voltage
    Working working;
};

struct Side {
    std::vector<label::Tier> tiers;
    std::optional<Watts> watts; ///< limit of the port over all tiers
};

/// The most watts a side can give or take at one of its tiers.
[[nodiscard]] std::optional<double> mostWatts(const Side& side);

/// At each voltage min(charger A, cable A, bank A); the most watts wins. Nothing when either side names no tier or they
/// share no voltage. Source: USB PD negotiation picks one offered tier (from memory); the rule of the least is common
/// practice.
[[nodiscard]] std::optional<Prediction> predictTier(const Side& charger, CableLimit cable, const Side& bank);

/// What a source of this many watts offers by the USB PD power rules (A6, USB PD 3.x, from memory): 5 V 3 A; above 15 W
/// 9 V; above 27 W 15 V; above 45 W 20 V; above 100 W 28 V, each at min(3 A, or 5 A from 60 W on, P/V).
[[nodiscard]] std::vector<label::Tier> powerRuleTiers(Watts watts);

/// Measured below the prediction by more than 15 %: the questions to ask. Empty when nothing is odd. Common practice,
/// no published source.
[[nodiscard]] std::vector<std::string> whyBelow(Watts measured, const Prediction& predicted);

} // namespace otterstone::path
