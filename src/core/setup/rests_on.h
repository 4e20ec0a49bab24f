// What a run rests on, by the book's records: which gear stands where in its path, what of it is known, and which
// schools the house follows.
#pragma once

#include <optional>
#include <vector>

#include "core/records/run.h"
#include "core/setup/facts.h"
#include "core/setup/prices.h"
#include "core/setup/setup.h"

namespace otterstone::setup {

/// What all runs of a book share.
struct Bench {
    std::vector<records::Gear> gear;
    Schools schools;
    std::vector<records::Bank> banks;
    Prices prices;
    [[nodiscard]] const records::Gear* find(std::optional<records::Id> id) const;
};

/// Accuracy and clock of a meter, or of a load that reads, as a run that was read with it has them.
void takeMeter(const records::Gear& meter, path::Meter& accuracy, Measured& clock);

/// All a finding depends on besides the samples and further traces.
[[nodiscard]] Setup setupOf(const records::Bank& bank, const records::Run& run, const Bench& bench);
/// What a run's sheet is held against: label, meter, path, gear; `roundTrip` is the bank's, from its other runs, where
/// the kind asks for it.
[[nodiscard]] Facts factsOf(const records::Bank& bank, const records::Run& run, const Bench& bench,
                            std::optional<Measured> roundTrip = std::nullopt);

} // namespace otterstone::setup
