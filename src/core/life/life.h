// The life of a bank: its charge from run to run, what a rest cost it, how it came, what it counts itself, and whether
// it fades. Common practice, no published source, but where one is named.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/kinds/traced/run_entry.h"
#include "core/records/past.h"

namespace otterstone::life {

/// A run's place in the life.
struct Passage {
    long long run = 0;
    std::size_t entry = 0; ///< its place among the runs that were given
    std::string title;
    records::Kind kind = records::Kind::Drain;
    bool silent = false;            ///< a sheet that says nothing of the bank's charge
    bool fills = false;             ///< energy went into the bank
    std::string startedAt;          ///< as the run has it; empty when undated
    std::optional<double> from, to; ///< seconds since 1970; nothing when undated
    std::optional<kinds::KnownState> began, ended;
    records::Ending ending = records::Ending::Unknown;
    std::size_t asks = 0;
    Measured wattHours;             ///< at the port; 0 for a sheet
    bool partialDoubt = false;      ///< its meter said nothing of its accuracy
    std::optional<double> restDays; ///< between the run before and this one, both dated
    /// It began as the run before left it, as far as both are known: the line goes through.
    bool joined = false;
};

struct Life {
    std::vector<Passage> passages; ///< the dated ones in their order, then the others as they came
    records::Past past;
    std::vector<Working> figures; ///< of rests, of its own counts, of fading; the keys name them
    std::vector<std::string> sentences;
};

/// `rated` in Wh, for cycles.
[[nodiscard]] Life lifeOf(const std::vector<kinds::RunEntry>& runs, const records::Past& past,
                          const std::optional<double>& rated);

/// The charge lost over a rest, as a share of full: what the two states say, each read off a display good to
/// State::kGaugeDoubt points unless it tells itself. Nothing when either is only taken so, when it was said to begin
/// full or empty, when it did not fall, or when the rest is shorter than two weeks.
[[nodiscard]] std::optional<Measured> lostInRest(const kinds::KnownState& before, const kinds::KnownState& after,
                                                 double restDays);

/// A drain in a row of like ones.
struct Wear {
    double cycles = 0.0; ///< before it
    Measured wattHours;
};
/// Loss of usable energy over a hundred cycles as a share of what the line has at its beginning: the slope of a
/// straight line, its doubt from the scatter (n − 2 degrees of freedom) and from the drains' own; errors common to all
/// drains fall out of it. Nothing below three drains or over fewer than five cycles. Source: least squares, JCGM
/// 100:2008, H.3; checked against scipy.stats.linregress.
[[nodiscard]] std::optional<Measured> fadePerHundred(const std::vector<Wear>& drains, const std::string& bank);

} // namespace otterstone::life
