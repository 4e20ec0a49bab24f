// Runs with whatever one has: a phone's percent, LEDs, a clock, a counter now and then. What it says of the devices,
// of the bank by them, and of a recharge without a meter.
#pragma once

#include "core/kinds/judge.h"
#include "core/kinds/notebook/entries.h"
#include "core/kinds/traced/finding.h"
#include "core/kinds/traced/hand.h"

namespace otterstone::kinds {

/// Which way energy went through the bank: out where a device gained or the bank sank, in where it rose.
enum class Flow { Unknown, Out, In };

/// One device from when it was plugged in until it was not, or was used.
struct Sitting {
    std::size_t device = 0;
    std::string way; ///< "wire", "pad"; empty: not said
    std::vector<Look> looks;
    Charging charging;
    bool full = false;  ///< at its end
    bool ended = false; ///< as written: unplugged, stopped, dead
};

/// Two of its V, A and W, or W alone where no pad or device shows it.
[[nodiscard]] bool readsPower(const Entry& entry);
/// Both were on at some time.
[[nodiscard]] bool atOnce(const Sitting& a, const Sitting& b);

/// What one device took in all.
struct Taken {
    std::size_t device = 0;
    Measured points;                ///< gained in all its sittings
    std::size_t complete = 0;       ///< sittings from 3 % or less until it was full
    std::optional<Measured> stored; ///< Wh in its battery
};

/// How much of its charge the bank gave, or took, by its display, LEDs, or because it said so itself.
struct Used {
    Look began, ended;
    double low = 0.0, high = 0.0; ///< points, at about 95 %
    [[nodiscard]] bool whole() const { return began.state.isFull() && ended.state.isEmpty(); }
};

/// Energy where the meter was: integrated from readings, or the steps of a counter.
struct Counted {
    Measured wattHours;
    std::string formula, note;
    double from = 0.0, to = 0.0; ///< s
    bool doubtKnown = true;
    bool coversDevices =
        false; ///< it was read before the first device took anything, and no device was on unseen at its end
    std::optional<Counters> counters = {}; ///< what was counted, where no readings say it
    bool once = false;                     ///< and read in the end alone
};

struct NotebookFinding {
    Flow flow = Flow::Unknown;
    Notes notes;
    std::vector<Sitting> sittings; ///< in the order in which they began
    std::vector<Taken> taken;      ///< of devices that gained
    std::optional<Used> used;      ///< of the bank, going down
    bool bankStood = false;        ///< its display, read at both ends, did not go down, or went up between
    /// How often the full bank would charge the device from 0 to 100 %; the high end is infinite where nothing keeps
    /// it. Only where the bank's state is known at both ends, every device gained until it was known to be off, and all
    /// have one battery.
    struct PerBank {
        std::size_t device = 0; ///< the first of them
        std::string name;       ///< "Phone", "a device of 7.4 Wh"
        Measured points;        ///< that all gained
        double low = 0.0, high = 0.0;
    };
    std::optional<PerBank> perBank;
    std::optional<std::size_t>
        unseen;                     ///< a device whose charge went on when it was last looked at, for all that is known
    std::optional<Measured> stored; ///< Wh in all devices; nothing where a battery is not known
    std::optional<Charging> bank;   ///< its display over the notebook
    std::optional<Counted> counted;
    HandTrace readings;       ///< of power at the meter, as a trace
    bool toldByMeter = false; ///< a drain or a recharge says what passed the meter, so that nothing here does
    /// Of a recharge: nothing went in.
    struct Stop {
        Between began; ///< one moment, or some time before it was found so
        double until = 0.0;
    };
    std::vector<Stop> stops;
    Said said;
};

/// What is in it, without the words.
[[nodiscard]] NotebookFinding findNotebook(const Sheet& sheet, const Facts& facts);
[[nodiscard]] NotebookFinding notebook(const Sheet& sheet, const Facts& facts);
/// The words of it, from what was found: the sentence, the figures, the warnings.
void sayNotebook(const Facts& facts, NotebookFinding& f);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind notebookKind();

} // namespace otterstone::kinds
