// What a sheet is made from, and how it is put together.
#pragma once

#include <map>

#include "core/judgement/hold.h"
#include "core/judgement/rank.h"
#include "core/plan/use.h"
#include "report/content.h"

namespace otterstone::report {

/// One run as a sheet tells it.
struct RunSaid {
    long long run = 0;
    std::string title, startedAt;
    records::Kind kind = records::Kind::Drain;
    bool settling = false;
    std::string path;  ///< "Hut socket 20, Grey 1 m, Bench meter", as the energy flows
    std::string where; ///< port, ambient temperature, conditions: "at C1, in 21 °C, case on"; may be empty
    std::vector<std::string> notes; ///< the run's own, then those of its sheet's rows: "row 3: warm already"
    kinds::Finding finding;
};

/// One piece of gear, with what is known of its accuracy.
struct GearSaid {
    std::string name, kind, accuracy;
    bool reads = false; ///< volts and amps, or a temperature
    bool operator==(const GearSaid&) const = default;
};

/// A photograph chosen for the sheet.
struct PhotoSaid {
    long long id = 0;
    std::string caption; ///< what it shows; of a run, with its title
};

struct BankMaterial {
    evidence::Evidence evidence;
    std::string notes;
    records::Past past;
    std::vector<RunSaid> runs; ///< all of them, in time
    std::vector<PhotoSaid> photos = {};
};

/// What one sheet said, so that the next can say what changed.
struct Published {
    std::string at;
    int method = 0;
    std::vector<std::pair<std::string, std::string>> figures; ///< name, as shown
    std::map<std::string, std::string> means; ///< schools, clocks, resistances, accuracies: name, as stated
};

struct Material {
    std::vector<BankMaterial> banks; ///< one: a bank's sheet; several: a comparison
    std::vector<GearSaid> gear;      ///< used in these runs
    setup::Schools schools;
    std::string at;                            ///< ISO 8601, now
    std::optional<judgement::Purpose> purpose; ///< of a comparison
    std::vector<plan::Need> needs;             ///< of a comparison: the use plan, when there are any
    double days = 0.0;
    std::optional<Published> before;
};

/// Compared and ranked once, for the tables and the picture alike.
struct Choice {
    judgement::Comparison comparison;
    judgement::Purpose purpose;
    judgement::Ranking ranking;
    plan::UsePlan use;
};

/// The runs a reader looks at first: the complete drain nearest to 1 A at 5 V, the first complete recharge; settling
/// runs do not count.
[[nodiscard]] std::optional<long long> gentlestDrain(const BankMaterial& bank);
[[nodiscard]] std::optional<long long> firstRecharge(const BankMaterial& bank);

/// The sheet of the one bank, or the comparison of several. Precondition: at least one bank.
[[nodiscard]] Content makeContent(const Material& material);

} // namespace otterstone::report
