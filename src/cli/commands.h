// The subcommands of otterstone-cli: each reads its options, prints, and returns the exit code of the contract.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include <nlohmann/json_fwd.hpp>

#include "core/quantity/problem.h"

namespace CLI {
class App;
}
namespace otterstone {
struct Working;
}

namespace otterstone::cli {

inline constexpr int kDone = 0;
inline constexpr int kUsage = 2;
inline constexpr int kInput = 3;
inline constexpr int kOutput = 4;
inline constexpr int kCutShort =
    5; ///< a run that was made ended out of order, or a load may still be on; which, is said

struct AnalyseOptions {
    std::string log;
    std::string kind;
    bool json = false;
    std::string ratedWh, ratedMah, cellVolts; // as typed: decimal commas are welcome
    std::vector<std::string> columns, units;
    std::string clockFactor, maxGap, from, to;
    std::string pathOhms, meter;
    std::vector<std::string> marks, schools, also;
    std::string ambient, point, hand, alsoMeter, began, ended;
};
[[nodiscard]] int analyse(const AnalyseOptions& options);

struct LabelOptions;
[[nodiscard]] int label(const LabelOptions& options);

struct PathOptions {
    bool json = false;
    std::string near, far, amps, awg, metres, charger, bank, cableAmps, measured, volts, watts, energy, time;
};
[[nodiscard]] int pathResistance(const PathOptions& options);
[[nodiscard]] int pathPredict(const PathOptions& options);
[[nodiscard]] int pathWatts(const PathOptions& options);
[[nodiscard]] int pathOwnDraw(const PathOptions& options);

struct CounterOptions {
    bool json = false;
    std::string kind, wh, mah, meanVolts, time, ratedWh, meter, began, ended;
};
[[nodiscard]] int counters(const CounterOptions& options);

struct TransferOptions {
    bool json = false;
    std::string filled, targetWh, sourceWh, efficiency;
};
[[nodiscard]] int transfer(const TransferOptions& options);

struct DeviceOptions {
    bool json = false;
    std::string battery, efficiency, from, to, energy, use, supply;
};
[[nodiscard]] int device(const DeviceOptions& options);

struct BankOptions {
    bool json = false;
    std::string book, name, load, battery;
};
[[nodiscard]] int bank(const BankOptions& options);

struct GearOptions {
    bool json = false;
    std::string book, piece, clock, ohms, accuracy;
};
[[nodiscard]] int gear(const GearOptions& options);

[[nodiscard]] int demo(const std::string& book);
[[nodiscard]] int exportBook(const std::string& book, const std::string& folder);
[[nodiscard]] int importBundle(const std::string& bundle, const std::string& book);
/// `rescue`: what the book did not take of a live run.
[[nodiscard]] int bringIn(const std::string& book, const std::string& rescue);
[[nodiscard]] int check(const std::string& book);
[[nodiscard]] int findings(const std::string& book, bool asJson);

/// What a small file holds: rows, a recipe, a profile, a purpose; also a pipe's. Nothing when it cannot be read, says
/// nothing for ten seconds, or holds more than 64 MiB.
[[nodiscard]] std::optional<std::string> contentsOf(const std::string& path);
/// Prints a problem's sentence on standard error and returns `code`.
int complain(const Problem& problem, int code = kInput);
/// Prints JSON on standard output; kOutput when that fails.
[[nodiscard]] int print(const nlohmann::json& json);
/// A figure with its workings and its other schools; ± in "u".
[[nodiscard]] nlohmann::json shownJson(const Working& working);
/// Does what was typed and returns `code` as its subcommand left it; what cannot be read is told.
[[nodiscard]] int obeyed(CLI::App& app, int argc, char** argv, const int& code);
/// Pushes out what was printed; kOutput when that fails.
[[nodiscard]] int finish(int code);

} // namespace otterstone::cli
