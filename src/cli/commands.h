// The subcommands of otterstone-cli: each reads its options, prints, and returns the exit code of the contract.
#pragma once

#include <string>
#include <vector>

#include <nlohmann/json_fwd.hpp>

#include "core/problem.h"

namespace otterstone::cli {

inline constexpr int kDone = 0;
inline constexpr int kUsage = 2;
inline constexpr int kInput = 3;
inline constexpr int kOutput = 4;

struct AnalyseOptions {
    std::string log;
    std::string kind;
    bool json = false;
    std::string ratedWh, ratedMah, cellVolts; // as typed: decimal commas are welcome
    std::vector<std::string> columns, units;
    std::string clockFactor, maxGap, from, to;
    std::string pathOhms, meter;
};
[[nodiscard]] int analyse(const AnalyseOptions& options);

struct LabelOptions {
    bool json = false;
    std::string mah, cellVolts, wh, printed, outputMah, outputVolts, weight, portWatts, totalWatts, inputWatts, rechargeTime;
    std::vector<std::string> tiers;
};
[[nodiscard]] int label(const LabelOptions& options);

[[nodiscard]] int demo(const std::string& book);
[[nodiscard]] int exportBook(const std::string& book, const std::string& folder);
[[nodiscard]] int importBundle(const std::string& bundle, const std::string& book);
[[nodiscard]] int check(const std::string& book);
[[nodiscard]] int findings(const std::string& book, bool asJson);

/// Prints a problem's sentence on standard error and returns `code`.
int complain(const Problem& problem, int code = kInput);
/// Prints JSON on standard output; kOutput when that fails.
[[nodiscard]] int print(const nlohmann::json& json);
/// Pushes out what was printed; kOutput when that fails.
[[nodiscard]] int finish(int code);

} // namespace otterstone::cli
