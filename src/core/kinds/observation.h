// What was seen of a bank, whatever kind of run saw it: each thing once, with its condition and where it is written
// down. Claims about ports, the comparison's watts and the use planner ask these.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/kinds/judge.h"
#include "core/kinds/names.h"
#include "core/label/port_rules.h"
#include "core/quantity/working.h"

namespace otterstone::kinds {

enum class What {
    Tier,        ///< a tier was there or not, with nothing (or nothing known) drawn from it
    Out,         ///< a port gave volts at a current
    Trip,        ///< a port gave way at a current
    In,          ///< a port took volts and a current
    Together,    ///< outputs in use at once gave so much in all
    PassThrough, ///< source and load at once
    AutoOff,     ///< the greatest current at which the output went to sleep
    LowMode,     ///< whether the low-current mode keeps it awake
    TimeTo80,
    TimeTo100,  ///< of a recharge
    Energy,     ///< out of the port, full to empty
    Charges,    ///< of a device, from the full bank until it is empty
    DeviceTo80, ///< how long a device takes from a state to 80 %
    DevicePace, ///< points an hour that a device gains
    DeviceHeat, ///< how warm a device's back became, in °C
};
/// Key in files and words for people: "out", "gave"; one table.
[[nodiscard]] std::string whatKey(What what);
[[nodiscard]] std::string whatWords(What what);
inline constexpr What kAllWhats[] = {What::Tier,       What::Out,         What::Trip,      What::In,
                                     What::Together,   What::PassThrough, What::AutoOff,   What::LowMode,
                                     What::TimeTo80,   What::TimeTo100,   What::Energy,    What::Charges,
                                     What::DeviceTo80, What::DevicePace,  What::DeviceHeat};

/// Who decided that it was no more.
enum class LimitedBy {
    Unknown,
    Nobody, ///< nobody asked for more: a lower bound of what the bank can do
    Bank,   ///< asked for more than it gave
    Source, ///< the charger can give no more
};
[[nodiscard]] std::string limitedWords(LimitedBy by);

struct Observation {
    What what = What::Out;
    label::Way way = label::Way::Out;
    std::string port;                  ///< of the bank; empty: not stated
    double tierVolts = 0.0;            ///< asked for, or the nearest; 0: not known
    std::optional<double> volts, amps; ///< at the port where the path is known, else as read
    std::optional<Working> value;      ///< watts, seconds, Wh, amperes: what the observation is of
    bool atLeast = false;              ///< a bound from below: it was that much or more
    std::optional<Working> level;      ///< Out: its volts, with their doubt
    LimitedBy limited = LimitedBy::Unknown;
    std::optional<bool> yes;               ///< Tier: it was there; LowMode, PassThrough: it does
    std::string code, words;               ///< PassThrough: its class, as files and as people name it
    std::vector<std::string> others;       ///< further ports in use
    bool charging = false;                 ///< a source was there as well
    std::string device;                    ///< Charges, DeviceTo80, DevicePace, DeviceHeat: its name; Out: what drew it
    std::optional<double> deviceWattHours; ///< its battery, where that is known
    std::optional<double> asked;           ///< A or W that a load could have drawn, where that is known
    std::optional<double> sourceWatts;     ///< what the charger can give
    std::string charger, cable;
    long long run = 0;
    std::string title; ///< of the run
    std::string note;
    std::optional<std::size_t> row; ///< of a sheet, from 0
    [[nodiscard]] bool alone() const { return others.empty() && !charging; }
    /// "Gravel 7 survey, row 3", "drain on 2 May".
    [[nodiscard]] std::string where() const;
    /// "gave 9.02 V 2 A at C1", in one sentence without its place.
    [[nodiscard]] std::string said() const;
};

/// Volts, and watts, of a reading with the doubt of its meter and path.
[[nodiscard]] Working voltsWorking(const setup::Facts& facts, const std::string& label, double volts, double amps);
[[nodiscard]] Working wattsWorking(const setup::Facts& facts, const std::string& label, double volts, double amps);

/// Whether it was the source of an input that could give no more. Precondition: `taken` has its watts.
[[nodiscard]] LimitedBy limitedBySource(const Observation& taken);

/// Why a recharge is not held against the time that is claimed for it, s: its charger gives less than the claim needs,
/// or nobody said what it gives. Nothing where it can be: also where it surely took no longer, whatever the charger.
/// `needed`: label::inputNeeded(). Common practice, no published source.
struct ChargerExcuse {
    bool tooSmall = false;
    std::string words;
};
[[nodiscard]] std::optional<ChargerExcuse>
chargerExcuse(const Measured& took, double claimed, std::optional<double> chargerWatts, std::optional<Watts> needed);

} // namespace otterstone::kinds
