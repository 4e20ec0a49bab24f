// The trade's rules about ports and tiers, each once: whoever judges a reading at a port asks here.
#pragma once

#include "core/label/label.h"
#include "core/label/usb_facts.h"

namespace otterstone::label {

/// Of the promised amperes: from here on they count as drawn, for a load's own steps. Common practice, no published
/// source.
inline constexpr double kReached = 0.97;
/// Of a promised power: from here on it counts as given, or taken, as a tier may stand 5 % below its volts (A6). Common
/// practice, no published source.
inline constexpr double kPowerGiven = 0.95;

/// Volts that mean one tier: within 0.3 V. Common practice, no published source.
[[nodiscard]] bool sameVolts(double a, double b);
/// Less than 1 V is no output. Common practice, no published source.
[[nodiscard]] bool outputGone(double volts);
/// By its name: "A", "A2", "USB-A".
[[nodiscard]] bool isAType(std::string_view name);
/// By its name: not a USB socket but one for a vehicle plug, a barrel, bare terminals or a pad.
[[nodiscard]] bool isOther(std::string_view name);
/// What a USB port may show on a tier (A6); nothing for other sockets, of which no standard says it.
[[nodiscard]] std::optional<Window> toleranceAt(std::string_view port, double tierVolts);
/// Amperes that are promised at these volts: those of the fixed tier there, else of a range that holds them; never more
/// than the port's watts allow. Nothing when nothing is promised there.
[[nodiscard]] std::optional<double> promisedAmps(const Port& port, Way way, double volts);
/// The most any tier makes of its volts, its amperes and the port's watts; the watts alone where no tier is printed.
[[nodiscard]] std::optional<Watts> mostWatts(const Port& port, Way way);
/// What a charger must be able to give for the bank to take all that it promises: the printed greatest input and the
/// most that a port takes, the smaller of both; nothing where neither is printed.
[[nodiscard]] std::optional<Watts> inputNeeded(const Label& label);
/// The ports that promise something at these volts.
[[nodiscard]] std::vector<const Port*> portsAt(const Label& label, Way way, double volts);

} // namespace otterstone::label
