// Devices on several banks: who charges what best, and the curves of one device over one another. It is the table of
// one bank and many devices, turned.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/evidence/evidence.h"
#include "core/kinds/observation.h"
#include "core/kinds/sheet_kind.h"

namespace otterstone::evidence {

struct DeviceSeen {
    std::string name;
    std::optional<double> wattHours; ///< its battery, where that is known
};

struct DevicesAcross {
    struct Cell {
        std::size_t device = 0, bank = 0; ///< positions
        kinds::Observation seen;
    };
    struct Curve {
        std::size_t device = 0, bank = 0;
        std::string title; ///< of the run
        kinds::DeviceCurve curve;
    };
    std::vector<DeviceSeen> devices; ///< by name
    std::vector<std::string> banks;
    std::vector<Cell> cells;
    std::vector<Curve> curves;

    /// The best that was seen, and what is meant by it: most watts, points and charges, least time and heat.
    [[nodiscard]] const kinds::Observation* best(kinds::What what, std::size_t device, std::size_t bank) const;
    /// How often.
    [[nodiscard]] std::size_t count(kinds::What what, std::size_t device, std::size_t bank) const;
    /// The banks that are best with a device, those with them that are not told apart by their doubt, or of which only
    /// a bound is known; none where fewer than two were tried, or times begin at unlike percents.
    [[nodiscard]] std::vector<std::size_t> leaders(kinds::What what, std::size_t device) const;
};

/// What is asked of a device on a bank, in the order of interest.
inline constexpr kinds::What kOfDevices[] = {kinds::What::Out, kinds::What::DeviceTo80, kinds::What::DevicePace,
                                             kinds::What::Charges, kinds::What::DeviceHeat};
/// "watts it took", "minutes to 80 %" …
[[nodiscard]] std::string askedWords(kinds::What what);

[[nodiscard]] DevicesAcross devicesAcross(std::span<const Evidence> banks);

} // namespace otterstone::evidence
