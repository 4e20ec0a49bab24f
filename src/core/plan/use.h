// D17: how long banks keep a set of devices going, when each must be recharged and how long that takes, and which banks
// suffice for so many days.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/evidence/evidence.h"
#include "core/judgement/verdict.h"
#include "core/kinds/traced/device.h"
#include "core/quantity/problem.h"

namespace otterstone::plan {

/// What a device needs in a day. Without a battery it runs from the bank; with one it is charged from it.
struct Need {
    std::string name;
    std::optional<double> watts;         ///< in use: at the port, or out of the device's own battery
    std::optional<double> hoursPerDay;   ///< in use
    std::optional<Stated> battery;       ///< Wh
    std::optional<double> chargesPerDay; ///< where watts and hours are not known: full charges in a day
    std::optional<Stated> efficiency;    ///< into its battery; 85 ± 10 % where not stated (common practice)
    bool startsFull = true;
    bool operator==(const Need&) const = default;
};

/// "Camera 2 W 8 h", "Tablet 26.4 Wh 1x", "Tablet 26.4 Wh 5.5 W 4 h": what a person types. `place` names the row.
[[nodiscard]] Result<Need> parseNeed(std::string_view text, std::string_view place);
[[nodiscard]] std::string showNeed(const Need& need);
/// Wh a day that the device uses; nothing while neither watts with hours nor charges with a battery are known.
[[nodiscard]] std::optional<double> wattHoursPerDay(const Need& need);

struct RechargeWay {
    std::string charger;
    std::optional<Working> full;
    long long run = 0;
};

struct Balance {
    std::string device;
    kinds::UseBalance balance; ///< while the bank supplies what its best port gives
};

/// A bend of the line that a bank's charge falls along.
struct Left {
    double day = 0.0;   ///< since it was full
    double share = 0.0; ///< of what it gives, that is left
};

struct BankUse {
    std::string bank;
    std::optional<Working> days;      ///< until all is dry, the devices starting as they are said to; nothing when it
                                      ///< cannot run one of them
    std::optional<Working> daysEmpty; ///< the devices starting empty: also the rhythm of recharging
    std::vector<Left> left; ///< from full to empty for the first time: a device that starts full draws nothing while
                            ///< its own battery lasts
    judgement::Verdict suffices = judgement::Verdict::NotTested; ///< for the days that were asked for
    std::vector<Working> charges;      ///< full charges of each device with a battery, the bank for it alone
    double recharges = 0.0;            ///< how often it must be filled within the days asked for
    std::vector<double> rechargeOnDay; ///< when, counted from 0: the first hundred
    std::vector<RechargeWay> ways;     ///< as its recharges took
    std::vector<Balance> inUse;        ///< computers and other things used while they charge
    std::vector<std::string> cannot;   ///< needs it cannot run whatever its energy, with the reason
    std::string sentence;
};

struct UsePlan {
    std::vector<BankUse> banks;
    std::vector<std::string>
        smallestSet; ///< fewest banks, and of those the lightest, that together last; empty: none, or no days asked for
    bool setIsSure = false;       ///< it lasts even with everything at the short end of its doubt
    double wattHoursPerDay = 0.0; ///< used by the devices
    std::string sentence;
    std::vector<Warning> warnings;
};

/// "2 h 53 min with Hut socket 20, 5 h with Hut socket 10": how long a full recharge took with each charger; empty when
/// none was complete.
[[nodiscard]] std::string rechargeWords(const BankUse& use);

/// Each device takes its share of a bank: as often as a notebook counted it from the full bank, else at its own load
/// E(P) of the bank's curve (D8), else the usable energy. Days D
/// with all devices dry at the end: Σ max(0, D·d − start) ÷ (η·E(P)) = 1. Common practice, no published source. `days`
/// asked for: 0 for none.
[[nodiscard]] UsePlan planUse(const std::vector<evidence::Evidence>& banks, const std::vector<Need>& needs,
                              double days);

} // namespace otterstone::plan
