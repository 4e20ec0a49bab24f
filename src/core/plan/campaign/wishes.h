// What a tester wants of a campaign: what is to be known, from when until when, with whose hands, what stands fast; and
// the plan that was agreed on last. Kept in the book as JSON.
#pragma once

#include <compare>
#include <map>

#include "core/plan/campaign/problem.h"
#include "core/records/kind.h"

namespace otterstone::plan::campaign {

/// The variant of a run that brings a bank into the state that another one wants.
inline constexpr const char* kAsNeeded = "as needed";

/// One run of a campaign, whatever the plan says of its time: the same in each plan of a book.
struct JobKey {
    long long bank = 0;
    records::Kind kind = records::Kind::Drain;
    std::string recipe;  ///< empty: by hand
    std::string variant; ///< what tells it from others of its recipe: "12 W", "again"
    auto operator<=>(const JobKey&) const = default;
};
/// "bank3-drain-gentle-drain": no spaces; calendars know their events by it.
[[nodiscard]] std::string nameOf(const JobKey& key);

struct Pin {
    JobKey job;
    std::string at; ///< the moment at which it begins, ISO 8601
    bool operator==(const Pin&) const = default;
};

/// A job as it stood in the plan that was agreed on.
struct KeptJob {
    JobKey job;
    std::string words;                ///< as it was told
    std::string from, to;             ///< ISO 8601
    std::string since;                ///< the moment from which it was planned; empty: that of the plan
    std::optional<double> watts = {}; ///< at which it is made, where that matters
    bool operator==(const KeptJob&) const = default;
};

struct Kept {
    std::string at; ///< the moment from which it was planned; empty: none was agreed on
    std::vector<KeptJob> jobs;
    bool operator==(const Kept&) const = default;
};

struct Wishes {
    static constexpr int kMostLoads = 12, kMostRepeats = 9;
    std::string from, until; ///< moments, ISO 8601; empty: now, and no end
    std::string untilWhat;   ///< what is at its end: "the boat"
    std::string hours;       ///< when somebody is there, as typed (week.h); empty: always
    Unattended unattended = Unattended::Never;
    bool claims = true;           ///< what the labels claim
    std::string purpose;          ///< key of a purpose of which all figures are to be known; empty: none
    int loads = 0;                ///< usable energy at so many loads, 0 to kMostLoads
    int repeats = 1;              ///< of each drain and recharge, 1 to kMostRepeats
    std::vector<long long> banks; ///< none named: all
    std::vector<Pin> pins;
    std::vector<JobKey> out;    ///< taken out by hand
    std::vector<JobKey> first;  ///< before all others
    std::vector<JobKey> ownDay; ///< on a day with no other run of its bank
    std::vector<JobKey> wired;  ///< all lies plugged in and is switched by instruments: no hands are needed
    Kept kept;
    bool operator==(const Wishes&) const = default;
};

/// An empty text is the usual wishes. Problems: not_json; bad_value with the key, also for moments and hours that are
/// none.
[[nodiscard]] Result<Wishes> wishesFromText(const std::string& text, const std::string& place);
[[nodiscard]] std::string wishesToText(const Wishes& wishes);
/// In another book its banks have other numbers: what is of banks that are not there goes.
[[nodiscard]] Wishes withBanks(Wishes wishes, const std::map<long long, long long>& becomes);

} // namespace otterstone::plan::campaign
