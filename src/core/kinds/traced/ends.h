// What a run really was: how full the bank began and ended, why it ended, how that is known, and what is asked when
// nobody said. Common practice, no published source.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/kinds/names.h"
#include "core/quantity/problem.h"
#include "core/records/kind.h"
#include "core/records/state.h"

namespace otterstone::kinds {

/// Where a state comes from, the strongest first. Taken: as such a run usually begins, and nobody said otherwise.
enum class StateFrom { Stated, Trace, Stamped, Chain, Taken };
/// "stated", "trace", "stamped", "chain", "taken": as in --json.
[[nodiscard]] std::string fromKey(StateFrom from);

struct KnownState {
    State state;
    StateFrom from = StateFrom::Taken;
    std::string words = {}; ///< what says so: "the display said 92 %"; empty when it was stated or taken
    /// Read off a gauge, by whoever did, which may be wrong by some points; full and empty tell themselves.
    [[nodiscard]] bool byGauge() const {
        return from != StateFrom::Trace && from != StateFrom::Taken && !state.isFull() && !state.isEmpty();
    }
};

struct Answer {
    std::string key, text;
    bool operator==(const Answer&) const = default;
};
/// What a run asks its tester; an answer's key is what `answer` takes: began=full.
struct Question {
    std::string key; ///< "began", "ended"
    std::string sentence;
    std::vector<Answer> answers;
    bool operator==(const Question&) const = default;
};

/// A sign near an end: a stamp, or a recorded column.
struct Sign {
    State state;
    std::string words; ///< "the display said 92 %", "3 of 4 LEDs were lit"
};

/// What a run itself shows of its ends.
struct EndsSeen {
    std::string run; ///< identity of its own errors
    StatedEnds stated;
    std::optional<Sign> began, ended;
    std::optional<Sign> deviceBegan, deviceEnded; ///< what the device that it charged said of itself
    Ending ending = Ending::Unknown;              ///< by trace and stamps, whatever was stated
    bool stamped = false;                         ///< the ending is a stamp's
    bool counters = false;                        ///< no trace: how it ended cannot be seen
    std::optional<double> brokeOffAfter;          ///< s; of a recharge whose power broke off
};

/// The run before or after in the life of its bank, with nothing known between.
struct Neighbour {
    std::string title;
    std::optional<KnownState> state; ///< the end of the one before, the beginning of the one after
    double days = 0.0;               ///< of rest between
    Kind kind = Kind::Drain;
    double wattHours = 0.0; ///< that it moved, at the port
    bool arrival = false;   ///< no run, but how the bank came
};

/// What a run did, as far as it makes its ends plausible.
struct Moved {
    double wattHours = 0.0; ///< at the port; of a recharge until its end
    double u = 0.0;         ///< standard uncertainty
    std::optional<double> ratedWattHours;
};

struct Ends {
    std::optional<KnownState> began, ended;
    std::optional<KnownState> deviceBegan, deviceEnded; ///< of the device that a drain charged
    Ending ending = Ending::Unknown;
    std::vector<Question> questions;
    [[nodiscard]] bool beganFull() const { return began && began->state.isFull(); }
    [[nodiscard]] bool beganEmpty() const { return began && began->state.isEmpty(); }
    [[nodiscard]] bool endedEmpty() const { return ended && ended->state.isEmpty(); }
    [[nodiscard]] bool endedFull() const { return ended && ended->state.isFull(); }
};

/// What is known of both ends: the strongest source says it; where two disagree by more than a display may be wrong,
/// the run asks, and until it is answered that end is not known.
[[nodiscard]] Ends resolve(Kind kind, const EndsSeen& seen, const Moved& moved,
                           const std::optional<Neighbour>& before = {}, const std::optional<Neighbour>& after = {});

/// The device's part of it, for which neighbours do not matter: stated, stamped, or full because it took no more.
void resolveDevice(const EndsSeen& seen, Ends& ends);

/// "it began at 92 % (the display said 92 %)", "how full it began is not known", "it ended because it was unplugged".
[[nodiscard]] std::string beganWords(const Ends& ends);
[[nodiscard]] std::string endedWords(const Ends& ends);

/// An answer written down: what the tester stated, with it. Problems: no_question, bad_state, bad_ending.
[[nodiscard]] Result<StatedEnds> answered(StatedEnds stated, std::string_view key, std::string_view answer);

} // namespace otterstone::kinds
