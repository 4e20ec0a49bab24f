// What a live run is to be: the recipe, the bank, the instruments by role, and where it is written.
#pragma once

#include <map>
#include <optional>

#include <QString>

#include "bench/instruments/link.h"
#include "bench/profiles/role.h"
#include "bench/recipes/recipe.h"
#include "bench/runner/stops.h"
#include "core/records/run.h"

namespace otterstone::bench {

/// The meter that a run's energy is read off.
[[nodiscard]] inline Role mainMeter(records::Kind kind) {
    return kind == records::Kind::Recharge || kind == records::Kind::Matrix ? role::inputMeter : role::meter;
}

struct Instrument {
    Profile profile;
    Address address;
};

/// A stand-in's bench: its time passes faster, and its hands can be told what to do.
struct Rehearsal {
    QString controlAddress; ///< host:port
    double speed = 1.0;
};

struct Plan {
    Recipe recipe;
    std::vector<Source> sources; ///< chargers and cables to be tried, for a recipe that does so
    std::string recipeText;      ///< its JSON, kept with the run
    label::Label label;
    records::Run run; ///< bank, gear and title; the runner adds the rest. Its id, when an open run is gone on with.
    QString book;     ///< path
    std::map<Role, Instrument> instruments;
    std::map<Role, records::Id> pieces; ///< of the drawer: what the meters beside the main one are, where that is known
    Limits limits;
    std::optional<double> expectedWattHours; ///< what the bank will deliver or take in; for the predicted end
    QString expectedFrom;                    ///< where that is known from, in words
    std::optional<Rehearsal> rehearsal;
    QString rescueFolder;
    std::optional<double> cableAmps; ///< what the run's cable carries; nothing when no cable is named
    double giveUpAfter = 60.0;       ///< real seconds with a book that cannot be written, after which the load goes off
    double breakSeconds = 0.0;       ///< of a run that is gone on with: since its last sample
};

} // namespace otterstone::bench
