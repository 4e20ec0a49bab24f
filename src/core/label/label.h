// What a maker prints on a bank, as data. The sums on it are in rating.h, decoder.h and conflicts.h.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/quantity/problem.h"
#include "core/quantity/units.h"

namespace otterstone::label {

/// One voltage, or one programmable range, with its greatest current.
struct Tier {
    Volts low;
    Volts high; ///< equals `low` for a fixed tier
    Amps amps;

    [[nodiscard]] bool programmable() const { return high > low; }
    /// A5: greatest watts of the tier, V·A at the top of a range.
    [[nodiscard]] Watts watts() const { return high * amps; }
    bool operator==(const Tier&) const = default;
};

enum class Direction { In, Out, Both };
/// Which way energy goes through a port.
enum class Way { Out, In };

struct Port {
    std::string name; ///< as printed: "C1", "A", "pad"
    Direction direction = Direction::Out;
    std::vector<Tier> tiers;           ///< what it gives; of a port that only takes, what it takes
    std::optional<Watts> watts;        ///< printed limit of the port alone, for the same way
    std::optional<Watts> sharedWatts;  ///< printed limit of the port while the others are in use
    std::vector<Tier> inTiers = {};    ///< what it takes, where a port both ways prints that by itself
    std::optional<Watts> inWatts = {}; ///< the limit for that

    [[nodiscard]] bool gives() const { return direction != Direction::In; }
    [[nodiscard]] bool takes() const { return direction != Direction::Out; }
    [[nodiscard]] bool goes(Way way) const { return way == Way::In ? takes() : gives(); }
    /// What is printed for this way; where nothing is printed for in alone, what is printed holds both ways. Empty for
    /// a way the port does not go.
    [[nodiscard]] std::vector<Tier> tiersFor(Way way) const;
    [[nodiscard]] std::optional<Watts> wattsFor(Way way) const;
    bool operator==(const Port&) const = default;
};

/// What the label promises for several ports in use at once: "C1 45 W + A 15 W".
struct SharedLimit {
    struct Part {
        std::string port;
        Watts watts;
        bool operator==(const Part&) const = default;
    };
    std::vector<Part> parts; ///< two or more
    [[nodiscard]] Watts total() const;
    bool operator==(const SharedLimit&) const = default;
};

struct SizeMm {
    double length = 0.0, width = 0.0, height = 0.0;
    /// Litres.
    [[nodiscard]] double litres() const { return length * width * height * 1e-6; }
    bool operator==(const SizeMm&) const = default;
};

/// "4 × 12.4 Wh tablet": how often it is said to charge a device. Its battery, its name or both are known.
struct ChargesClaim {
    double times = 0.0;
    std::optional<double> deviceWattHours;
    std::string device; ///< in words
    bool operator==(const ChargesClaim&) const = default;
};

struct Label {
    std::optional<AmpHours> capacity;       ///< of the cells, as printed
    std::optional<Volts> cellVolts;         ///< nominal
    std::optional<WattHours> energy;        ///< as printed
    std::optional<AmpHours> outputCapacity; ///< "rated output capacity"
    std::optional<Volts> outputVolts;       ///< the voltage it is stated at
    std::string alsoPrinted;                ///< figures nobody explains: "15.4V 18.5Wh"
    std::vector<Port> ports;
    std::vector<SharedLimit> shared; ///< by combination of ports
    std::optional<Watts> totalWatts;
    std::optional<Amps> totalAmps;
    std::optional<double> weightGrams;
    std::optional<SizeMm> size;
    std::optional<Hours> rechargeTime; ///< claimed
    std::optional<Watts> inputWatts;   ///< of the charger that claim is made for
    std::optional<double> price;
    std::string currency;
    std::optional<int> warrantyMonths;
    bool claimsPassThrough = false;
    bool claimsLowCurrentMode = false;
    std::vector<ChargesClaim> charges;
    bool operator==(const Label&) const = default;
};

/// The tier of the most watts; nothing for a port without tiers. Of equals the one with the lower voltage.
[[nodiscard]] std::optional<Tier> bestTier(const std::vector<Tier>& tiers);

/// A number, or a range, with its unit as found in free text: "15.4V" is {15.4, 15.4, "v"}.
struct Printed {
    double low = 0.0;
    double high = 0.0;
    std::string unit; ///< lower case; empty when none follows
};

/// All numbers in a text with the unit that follows each; other words are passed over.
[[nodiscard]] std::vector<Printed> scanPrinted(std::string_view text);

/// "9Vx2A", "9 V 2 A", "3.3-11V 5A", "20V 100W", "9x2". `place` names the field or option.
[[nodiscard]] Result<Tier> parseTier(std::string_view text, std::string_view place);
/// Several, divided by "," or ";" or new lines; a comma between digits is a decimal comma.
[[nodiscard]] Result<std::vector<Tier>> parseTiers(std::string_view text, std::string_view place);
/// "9 V 2 A", "3.3–11 V 5 A": what parseTier reads again.
[[nodiscard]] std::string showTier(const Tier& tier);
[[nodiscard]] std::string showTiers(const std::vector<Tier>& tiers);

/// "C1 45W + A 15W; C1 30 W + C2 15 W + A 15 W". `place` names the field or option.
[[nodiscard]] Result<std::vector<SharedLimit>> parseShared(std::string_view text, std::string_view place);
/// What parseShared reads again.
[[nodiscard]] std::string showShared(const std::vector<SharedLimit>& shared);

/// "4 x 12.4 Wh tablet", "4× 12,4 Wh", "4 times a phone 2"; several divided by ";" or new lines. `place` names the
/// field or option.
[[nodiscard]] Result<std::vector<ChargesClaim>> parseCharges(std::string_view text, std::string_view place);
/// "4 × 12.4 Wh tablet; 3 × phone 2": what parseCharges reads again.
[[nodiscard]] std::string showCharges(const ChargesClaim& charges);
[[nodiscard]] std::string showCharges(const std::vector<ChargesClaim>& charges);

/// The port of that name, letters large or small; nullptr for none.
[[nodiscard]] const Port* portNamed(const Label& label, std::string_view name);
/// What the label lets a port give while exactly these ports are in use: the combination's share, else the port's own
/// shared limit; nothing when nothing is promised for it.
[[nodiscard]] std::optional<Watts> promisedTogether(const Label& label, std::string_view port,
                                                    const std::vector<std::string>& inUse);

} // namespace otterstone::label
