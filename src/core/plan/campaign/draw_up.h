// From what a book holds to a campaign: the runs that would settle what is open, on the gear of the drawer, in the
// hours there are.
#pragma once

#include <functional>
#include <span>

#include "core/plan/campaign/aims.h"
#include "core/records/gear.h"

namespace otterstone::plan::campaign {

/// How long a recipe takes, s, and what hands do on its way, each s from its begin.
struct Course {
    double seconds = 0.0;
    std::vector<std::pair<double, std::string>> hands;
};

struct Circumstances {
    Wishes wishes;                   ///< its hours and moments count as they are given here, but for the pins
    std::vector<OwnEntry> own;       ///< of all banks
    double begins = 0.0;             ///< the moment from which it is planned, s since 1970
    std::vector<records::Gear> gear; ///< each piece is one
    std::optional<std::vector<Presence>> hours;
    std::optional<double> until; ///< s from the beginning
    double midnight = 0.0;
    /// How a recipe goes on a bank: with the energy that it gives or takes in, and the watts that go in.
    std::function<std::optional<Course>(const std::string& recipe, const label::Label& label,
                                        std::optional<double> wattHours, std::optional<double> inputWatts)>
        course;
    /// What a recipe is called; empty where nothing is known of it.
    std::function<std::string(const std::string& recipe)> recipeName;
};

/// What a job of the problem is in the book.
struct Drawn {
    JobKey key;
    std::string words;               ///< "drain, gentle-drain"
    std::vector<std::string> claims; ///< that it would settle, and figures that it would tell, as they are printed
    long long own = 0;               ///< the entry of the tester's; 0: none
    std::optional<double> watts;     ///< out of the bank, where that is what it is about
};

struct DrawnUp {
    Problem problem;
    std::vector<long long> banks;      ///< in the order of the problem's: those of which something is to be known
    std::vector<Drawn> jobs;           ///< in the order of the problem's
    std::vector<std::string> warnings; ///< what was taken for granted
};

/// A run each for what is to be known of these banks (aims.h), and the recharge and the drain that bring each bank
/// where another run wants it. Banks are as the last run in the book left them. Times from the bank's own runs, else
/// from its label, with a standard deviation of 5 or 15 %. A pin before the beginning holds no more, which is told.
[[nodiscard]] DrawnUp drawUp(std::span<const evidence::Evidence> banks, const Circumstances& given);

} // namespace otterstone::plan::campaign
