// The campaign as a problem: jobs on banks and pieces of gear, hands that are there or not, a window. Times are seconds
// from the campaign's beginning. Pure: how the jobs came about (from a book, from a file) is no matter here.
#pragma once

#include <cstddef>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/quantity/problem.h"
#include "core/records/state.h"

namespace otterstone::plan::campaign {

using records::State;

/// A stretch of time, s; `from` <= `to`.
struct Span {
    double from = 0.0, to = 0.0;
    bool operator==(const Span&) const = default;
};

/// One piece of gear, or so many that are the same.
struct Piece {
    std::string id, kind;
    int count = 1; ///< 1 to 100
};

/// One of these pieces, from the job's begin to its end.
struct Need {
    std::string kind;
    std::vector<std::size_t> anyOf; ///< positions among the pieces; the one wanted first stands first
};

/// A moment that wants hands: to plug in, to replug, to read a display.
struct Hands {
    double at = 0.0;      ///< s from the job's begin; less than 0: from its end
    double seconds = 0.0; ///< >= 0
    std::string what;
    /// Of a job that takes so long.
    [[nodiscard]] Span within(double jobSeconds) const {
        const double from = at < 0.0 ? jobSeconds + at : at;
        return {from, from + seconds};
    }
};

/// What may go on while nobody is there. Lithium burns: the default is the careful one.
enum class Unattended {
    Never, ///< somebody is there from begin to end
    Stop,  ///< somebody is there when it begins and when it ends; it stops by itself between
    Night  ///< only the moments that want hands need somebody
};
[[nodiscard]] const char* unattendedKey(Unattended unattended);
[[nodiscard]] std::optional<Unattended> unattendedFromKey(const std::string& key);

struct Job {
    std::string id, kind;
    double seconds = 0.0; ///< how long it is expected to take, > 0
    double spread = 0.0;  ///< standard deviation of that, s
    std::vector<Need> needs;
    std::optional<std::size_t> bank; ///< position among the banks
    State begin;                     ///< what it wants its bank to be in
    std::optional<State> end;        ///< what it leaves it in; where nothing is said, what it was in less `uses`
    double uses = 0.0;               ///< percent points that it takes out of its bank at most
    double rest = 0.0;               ///< s for which its bank cools afterwards
    std::vector<std::size_t> after;  ///< jobs that must have ended
    double value = 1.0;              ///< of what it settles, >= 0
    std::vector<Hands> hands;
    std::optional<Unattended> unattended; ///< where it differs from the campaign's
    std::optional<double> pin;            ///< it begins then, s
    bool asNeeded = false; ///< no job of its own: run as often as its bank is not in the state that another one wants
};

/// What a job leaves its bank in that was in this state.
[[nodiscard]] State leftBy(const Job& job, const State& is);

struct Bank {
    std::string id;
    State now; ///< at the campaign's beginning
};

/// At one bench.
inline constexpr int kMostPeople = 100;

/// So many people are there.
struct Presence {
    Span span;
    int people = 1;
};

struct Problem {
    std::vector<Job> jobs;
    std::vector<Piece> pieces;
    std::vector<Bank> banks;
    /// In the order of time, not overlapping. Nothing: one person is always there.
    std::optional<std::vector<Presence>> hours;
    Unattended unattended = Unattended::Never;
    std::optional<double> until;                            ///< all must have ended, s
    std::vector<std::pair<std::size_t, std::size_t>> apart; ///< jobs that may not share a day
    double midnight = 0.0; ///< s of one midnight, before or after the beginning; days are 24 h
};

inline constexpr double kDay = 86400.0;

/// Reads a problem as JSON (docs/file-formats.md); `place` names the file. Problems: not_json; bad_value with the place
/// inside, also for names that are not there, keys that nothing asks for and jobs that wait for themselves.
[[nodiscard]] Result<Problem> problemFromText(const std::string& text, const std::string& place);

} // namespace otterstone::plan::campaign
