// From what a book holds to a campaign: the runs that would settle what is open, on the gear of the drawer, in the
// hours there are.
#pragma once

#include <functional>
#include <span>

#include "core/evidence/evidence.h"
#include "core/plan/campaign/problem.h"
#include "core/records/gear.h"

namespace otterstone::plan::campaign {

struct Circumstances {
    std::vector<records::Gear> gear; ///< each piece is one
    std::optional<std::vector<Presence>> hours;
    Unattended unattended = Unattended::Never;
    std::optional<double> until; ///< s from the beginning
    double midnight = 0.0;
    /// How long a recipe takes on a bank, s: with the energy that it gives or takes in, and the watts that go in.
    std::function<std::optional<double>(const std::string& recipe, const label::Label& label,
                                        std::optional<double> wattHours, std::optional<double> inputWatts)>
        estimate;
};

/// What a job of the problem is in the book.
struct Drawn {
    long long bank = 0;
    records::Kind kind = records::Kind::Drain;
    std::string recipe;              ///< empty: by hand
    std::vector<std::string> claims; ///< that it would settle, as they are printed
};

struct DrawnUp {
    Problem problem;
    std::vector<Drawn> jobs;           ///< in the order of the problem's
    std::vector<std::string> warnings; ///< what was taken for granted
};

/// A run each for what would settle the open claims of these banks (their value: the claims, weighed: energy and rated
/// output 3, recharge, sharing and pass-through 2, others 1; common practice, no published source), and the recharge
/// and the drain that bring each bank where another run wants it. Banks are as the last run in the book left them.
/// Times from the bank's own runs, else from its label, with a standard deviation of 5 or 15 %.
[[nodiscard]] DrawnUp drawUp(std::span<const evidence::Evidence> banks, const Circumstances& given);

} // namespace otterstone::plan::campaign
