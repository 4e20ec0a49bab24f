// F: hands at a simulated bench. They try what a tester would, read what instruments show, and write it into a sheet:
// what the demo book holds, and what the judges of core/kinds are tested with against policies that are known.
#pragma once

#include <cstdint>

#include "core/kinds/rows.h"
#include "core/model/bank.h"

namespace otterstone::model {

/// What lies on the simulated bench.
struct Tools {
    double ambient = 20.0;
    double stateOfCharge = 0.7; ///< to begin with
    Cable cable{0.06, 5.0};     ///< between port and meter, and between charger and bank
    Charger charger;
    std::vector<double> askVolts = {5.0, 9.0, 12.0, 15.0, 20.0}; ///< that the trigger can ask for
    int decimals = 3;                                            ///< that are written down
};

/// Every port on every tier the trigger knows: drawn at what the label promises, else 1 A. The promise is the printed
/// port's.
[[nodiscard]] records::Sheet surveyByHand(const Bank& bank, const label::Label& label, const Tools& tools);
/// The output with the most watts on its best tier (or `port` at 5 V), in steps of a share of `ratedAmps` up to twice
/// that; then what brings it back.
[[nodiscard]] records::Sheet staircaseByHand(const Bank& bank, std::size_t port, double volts, double ratedAmps,
                                             const Tools& tools, double stepShare = 0.05);
/// Each pair of outputs in both orders, each at its best tier and `share` of that tier's current.
[[nodiscard]] records::Sheet sharingByHand(const Bank& bank, const Tools& tools, double share = 0.8);
/// Input alone, output alone, both, and the source taken away; `out` gives its best tier at half its current.
[[nodiscard]] records::Sheet passThroughByHand(const Bank& bank, std::size_t in, std::size_t out, const Tools& tools);
/// Currents from 10 to 200 mA at 5 V, each watched for `watch` seconds; then the low-current mode; then the bank alone.
[[nodiscard]] records::Sheet lightLoadByHand(const Bank& bank, std::size_t port, const Tools& tools,
                                             double watch = 120.0, bool lowMode = true);
/// What the bank takes from each charger over each cable into a port.
struct NamedCharger {
    std::string name;
    Charger charger;
};
struct NamedCable {
    std::string name;
    Cable cable;
};
[[nodiscard]] records::Sheet matrixByHand(const Bank& bank, std::size_t port, const std::vector<NamedCharger>& chargers,
                                          const std::vector<NamedCable>& cables, const Tools& tools);
/// Joined to another bank as it comes, and forced.
[[nodiscard]] records::Sheet directionsByHand(const Bank& bank, std::size_t port, const Bank& other,
                                              const std::string& otherName, const Tools& tools);

} // namespace otterstone::model
