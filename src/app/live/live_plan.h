// What a live run is to be: made of a book, a bank of it, a recipe and what the tester chose.
#pragma once

#include <set>

#include "app/live/own_files.h"
#include "bench/runner/rehearsal.h"
#include "book/store/book.h"

namespace otterstone::app {

struct LiveChoice {
    records::Bank bank;
    RecipeText recipe;
    bool rehearse = true;
    double speed = 500.0;
    std::optional<double> samplesPerSecond = {}; ///< of a rehearsal; chosen by the speed when not given
    double celsius = 60.0;
    records::StatedEnds ends = {};      ///< how it begins, as the tester says
    std::vector<std::string> gear = {}; ///< names of pieces; none named: as in the bank's last run of this kind
    std::string setup = {};             ///< key of the set-up; empty: the one in use
    bool byItself = false;              ///< nobody began it: the window stays where it is
};

/// How long a recipe will take with a bank, and what that rests on.
struct Expectation {
    std::optional<double> wattHours, seconds;
    QString from;
};
/// `book`: none, when none is open.
[[nodiscard]] Expectation expectationOf(const book::Book* book, const records::Bank& bank, const bench::Recipe& recipe);

/// Without instruments. Pieces that are `busy` elsewhere are not taken from the bank's last run: they lie on another
/// bench now. `here`: pieces that lie on this bench, each in the place of what the last run had of its kind.
[[nodiscard]] bench::Plan planFor(const book::Book& book, const LiveChoice& choice,
                                  const std::set<records::Id>& busy = {}, const std::vector<std::string>& here = {});

/// The simulated bench on which a plan is rehearsed: its meter and cable are those of the gear the run names, so that
/// its finding can be held against the truth.
[[nodiscard]] bench::StandIn::Scene sceneFor(const book::Book& book, const LiveChoice& choice, const bench::Plan& plan);

} // namespace otterstone::app
