// A run with its finding, as all that looks across runs is given it.
#pragma once

#include <initializer_list>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/kinds/traced/finding.h"
#include "core/records/conditions.h"
#include "core/records/past.h"

namespace otterstone::kinds {

/// A finding that all who look at it hold, and none changes: it is large, and a book looks at thousands.
class HeldFinding {
public:
    HeldFinding(Finding finding = {}) : finding_(std::make_shared<const Finding>(std::move(finding))) {}
    operator const Finding&() const { return *finding_; }
    const Finding& operator*() const { return *finding_; }
    const Finding* operator->() const { return finding_.get(); }

private:
    std::shared_ptr<const Finding> finding_;
};

/// One run with its finding, as the book knows it.
struct RunEntry {
    long long run = 0;
    std::string title;
    std::string startedAt; ///< ISO 8601; runs without one keep the order in which they come
    bool settling = false; ///< left out of repeats, pairs and the usable curve
    std::string charger, cable;
    bool intoDevice = false, intoBank = false;
    HeldFinding finding;
    std::string port = {};                      ///< of the bank, as stated
    std::optional<double> chargerWatts = {};    ///< what its charger can give
    std::optional<double> deviceWattHours = {}; ///< battery of the device it charged
    std::string device = {};                    ///< its name
    records::Conditions conditions = {};
};

/// Nothing is known of what it did to the bank's charge: most sheets.
[[nodiscard]] bool saysNothingOfCharge(const Finding& f);
/// Whether energy went into the bank or out of it, as a recharge or a drain.
[[nodiscard]] Kind wayOf(const Finding& f);

/// Marks what is reckoned from the energies of these findings: its doubt is partial where the meter of one of them said
/// nothing of its accuracy, unless what is known of it is most of it.
void markDoubt(Working& w, std::initializer_list<const Finding*> of);
void markDoubt(Working& w, const std::vector<const RunEntry*>& of);

/// Mean watts at the port while a drain was loaded; the plateau where the time is unknown.
[[nodiscard]] double loadOf(const Finding& drain);
/// Loads that differ by less are one, as a share.
inline constexpr double kSameLoad = 0.05;
/// Watts at which a run is repeated: the load of a drain, the plateau of a recharge.
[[nodiscard]] double repeatedAt(const Finding& f);
/// Runs of one kind at one load and one voltage, under the same conditions.
[[nodiscard]] bool alike(const RunEntry& a, const RunEntry& b);
/// A drain from full until it was empty; a recharge from empty until it was full.
[[nodiscard]] bool wholeDrain(const RunEntry& r);
[[nodiscard]] bool wholeRecharge(const RunEntry& r);

/// The life of a bank: one of its runs settled with its neighbours heard. Only dated runs have neighbours, and no sheet
/// of the bank may lie between that says nothing of its charge; runs with a sheet stay as they are. The first hears how
/// the bank came. `run`: its place among them, in whatever order they are; they are not settled with each other yet.
[[nodiscard]] HeldFinding heardAmong(const std::vector<RunEntry>& runs, std::size_t run,
                                     const records::Past& past = {});
/// All of them, in the order in which they came.
void hearNeighbours(std::vector<RunEntry>& runs, const records::Past& past = {});

} // namespace otterstone::kinds
