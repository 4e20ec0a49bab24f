// How full a bank was at an end of a run, why a run ended, and what the tester said of both.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

#include "core/quantity/problem.h"
#include "core/records/kind.h"

namespace otterstone::records {

/// In percent of what it holds when full, from `low` to `high`, 0 to 100. Full is from 97 %, empty to 3 %: common
/// practice, no published source.
struct State {
    double low = 0.0, high = 100.0;
    static constexpr double kFull = 97.0, kEmpty = 3.0;
    static constexpr double kGaugeDoubt = 5.0; ///< points that a display is trusted to, half-width; the same practice
    [[nodiscard]] static constexpr State full() { return {100.0, 100.0}; }
    [[nodiscard]] static constexpr State empty() { return {0.0, 0.0}; }
    [[nodiscard]] static constexpr State at(double percent) { return {percent, percent}; }
    [[nodiscard]] bool isFull() const { return low >= kFull; }
    [[nodiscard]] bool isEmpty() const { return high <= kEmpty; }
    /// It may have been full, or empty, for all this says.
    [[nodiscard]] bool mayBeFull(double doubt = 0.0) const { return high + doubt >= kFull; }
    [[nodiscard]] bool mayBeEmpty(double doubt = 0.0) const { return low - doubt <= kEmpty; }
    [[nodiscard]] double middle() const { return (low + high) / 2.0; }
    bool operator==(const State&) const = default;
};
/// "full", "empty", "at 40 %", "at 25 to 50 %".
[[nodiscard]] std::string stateWords(const State& state);
/// As it is typed: "full", "empty", "40 %", "25 to 50 %".
[[nodiscard]] std::string typedState(const State& state);
/// "full", "empty", "percent", "between": as in --json.
[[nodiscard]] std::string stateKey(const State& state);
/// "full", "empty", "92", "92 %", "25-50 %", "2 of 4" (LEDs: the quarter from 25 to 50 %).
[[nodiscard]] Result<State> parseState(std::string_view text, std::string_view place = {});

/// LEDs: n of m lit = (n − 1)/m … n/m, none lit = 0. Common practice, no published source.
[[nodiscard]] State litLeds(double lit, int inAll);

/// Why a run ended.
enum class Ending {
    Unknown,
    CutOff,
    DeviceFull,
    LoadStopped,
    Heat,
    OverCurrent,
    ChargerError,
    SourceGone,
    Full,
    Unplugged,
    LogEnds
};
struct EndingName {
    Ending ending;
    const char* key;   ///< in files
    const char* words; ///< of a run: "ended by the bank's cut-off"
};
/// In the order of the enumeration.
inline constexpr std::array<EndingName, 11> kEndings{
    {{Ending::Unknown, "unknown", "how it ended is not known"},
     {Ending::CutOff, "cut-off", "ended by the bank's cut-off"},
     {Ending::DeviceFull, "device full", "ended because the device was full"},
     {Ending::LoadStopped, "load stopped", "ended by the load, while the port still had its volts"},
     {Ending::Heat, "heat", "ended early by heat"},
     {Ending::OverCurrent, "over-current", "ended by over-current protection"},
     {Ending::ChargerError, "charger error", "ended by an error of the charger"},
     {Ending::SourceGone, "source gone", "ended because the power broke off"},
     {Ending::Full, "full", "ended when the bank was full"},
     {Ending::Unplugged, "unplugged", "ended because it was unplugged"},
     {Ending::LogEnds, "log ends", "it went on when the record ended"}}};
[[nodiscard]] std::string endingKey(Ending ending);
[[nodiscard]] std::string endingWords(Ending ending);
/// Also "cutoff", "device-full", "overcurrent", "charger_error".
[[nodiscard]] std::optional<Ending> endingFromKey(std::string_view key);

/// What the tester said of the bank's state at an end. Answers are `sure`: they were given to the question that other
/// signs raised, and it is not asked again.
struct Stating {
    std::optional<State> state; ///< nothing: said to be not known
    bool sure = false;
    bool operator==(const Stating&) const = default;
};
/// All that the tester said of the ends of a run; what is empty was not said.
struct StatedEnds {
    std::optional<Stating> began, ended;
    std::optional<Ending> ending;                  ///< Unknown: said to be not known
    std::optional<State> deviceBegan, deviceEnded; ///< of the device that a drain charged
    [[nodiscard]] bool empty() const { return !began && !ended && !ending && !deviceBegan && !deviceEnded; }
    bool operator==(const StatedEnds&) const = default;
};
/// As such a run usually begins: a drain full, a recharge empty.
[[nodiscard]] Stating usualBeginning(Kind kind);
/// "full", "92 %", "unknown": what --began takes.
[[nodiscard]] Result<Stating> parseBegan(std::string_view text, std::string_view place);
/// What --ended takes: a state, an ending, or both: "empty", "unplugged at 45 %", "heat", "unknown". Cut-off leaves a
/// bank empty, and full a bank full.
[[nodiscard]] Result<void> parseEnded(std::string_view text, std::string_view place, StatedEnds& into);
/// "20 % to full", "20 % to ?", "? to 3 of 4": what the device had at both ends; empty text clears both.
[[nodiscard]] Result<void> parseDevice(std::string_view text, std::string_view place, StatedEnds& into);
[[nodiscard]] std::string typedDevice(const StatedEnds& stated);
/// As they are typed again: "full", "92 %", "unknown"; "unplugged at 45 %".
[[nodiscard]] std::string typedBegan(const StatedEnds& stated);
[[nodiscard]] std::string typedEnded(const StatedEnds& stated);

} // namespace otterstone::records
