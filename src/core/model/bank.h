// F: what a simulated bank is made of. Its parameters are the truth that findings are held against; nothing here
// changes while it runs.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/label/label.h"

namespace otterstone::model {

enum class Chemistry { Nmc, Lfp };

/// The cells of a bank as one: capacity in Ah at pack voltage, resistances of the whole pack.
struct Cells {
    Chemistry chemistry = Chemistry::Nmc;
    int series = 1;
    double ampHours = 10.0;
    double ohms = 0.03;       ///< felt at once
    double fullVolts = 4.20;  ///< per cell, constant-voltage limit
    double cutOffVolts = 3.0; ///< per cell, under load
    /// Open-circuit volts per cell at evenly spaced states of charge 0 … 1; empty takes the chemistry's table.
    std::vector<double> openCircuit = {};
    double slowOhms = 0.0;     ///< of the RC pair: felt after a while; 0 for none
    double slowSeconds = 60.0; ///< time constant of that pair

    /// A pack of equal cells; `cell` describes one (its series is 1).
    [[nodiscard]] static Cells of(const Cells& cell, int series, int parallel);
    /// Pack volts without load at a state of charge, clamped to 0 … 1, linear between table points.
    [[nodiscard]] double openCircuitVolts(double stateOfCharge) const;
    /// ∫ open-circuit volts over charge from empty, exact for the table; Wh.
    [[nodiscard]] double storedWattHours(double stateOfCharge) const;
};

/// Loss in watts at an output (or input) current: idle + perAmp·I + ohms·I².
struct Converter {
    double idle = 0.15;
    double perAmp = 0.45;
    double ohms = 0.05;
    double outputOhms = 0.02; ///< sag of the port with current
    [[nodiscard]] double loss(double amps) const { return idle + perAmp * amps + ohms * amps * amps; }
    /// Input watts at `volts` of which this many are left behind the converter. The greatest it can pass when more is
    /// asked.
    [[nodiscard]] double inputFor(double watts, double volts) const;
};

/// Two heat stores: the core, where the losses arise, and the case. Without a resistance between them they are one.
struct Thermal {
    double kelvinPerWatt = 6.0;     ///< case to air
    double seconds = 1800.0;        ///< time constant of the whole: kelvinPerWatt × both heat capacities
    double tripCelsius = 95.0;      ///< of the core
    double restartCelsius = 0.0;    ///< of the core; 0: only when plugged in anew
    double coreKelvinPerWatt = 0.0; ///< core to case
    double coreShare = 0.6;         ///< of the heat capacity
};

/// The bank's own display: lags behind, bulges by `errorPoints` half way, and shows 0 % while `hiddenShare` is left.
struct Gauge {
    double lagSeconds = 30.0;
    double errorPoints = 0.0;
    double hiddenShare = 0.0;
    int leds = 0; ///< 0: it shows percent
    /// What a display without lag would say, 0 to 100.
    [[nodiscard]] double says(double stateOfCharge) const;
    /// LEDs lit at what a percentage display would say: each stands for an equal interval, the last goes out at 0.
    [[nodiscard]] int lit(double percent) const;
};

/// A socket. Without tiers it gives (or takes) whatever volts are asked for.
struct Port {
    std::string name = "C1";
    label::Direction direction = label::Direction::Both;
    std::vector<label::Tier> gives = {}, takes = {};
    double watts = 0.0;    ///< the most it gives; 0: its tiers decide
    double tripAmps = 0.0; ///< 0: the bank's
};

/// What becomes of the outputs when several are in use.
struct Sharing {
    enum class Policy {
        Independent,    ///< each as if alone, until the total trips
        FallBackToFive, ///< all give 5 V
        FirstKeeps,     ///< the first plugged keeps its tier, the others get what is left
        SplitAmps       ///< 5 V, and the total current is divided evenly
    };
    Policy policy = Policy::Independent;
    double totalWatts = 0.0; ///< 0: no limit
    double totalAmps = 0.0;  ///< for SplitAmps
};

/// What becomes of input and output when both are in use.
enum class PassThrough {
    Refuses,     ///< no output while it charges
    SourceFirst, ///< charging keeps its tier, outputs fall to 5 V
    LoadFirst,   ///< outputs keep their tiers, the input falls to 5 V
    Shares,      ///< both keep their tiers
    SlowsBoth    ///< both fall to 5 V
};

/// Output that goes off when next to nothing is drawn.
struct LightLoad {
    double belowAmps = 0.0; ///< 0: never
    double afterSeconds = 30.0;
    double lowModeSeconds = 7200.0; ///< how long the low-current mode keeps it on
};

/// How an output comes back after it tripped.
struct Recovery {
    enum class How { ByItself, Replug, Button, WaitThenReplug };
    How how = How::Replug;
    double seconds = 10.0; ///< until it comes back by itself, or until a replug helps
};

/// Who gives when two dual-role sockets meet.
enum class DualRole { GivesFirst, TakesFirst };

/// Also a device with a battery of its own: a bank that only takes, with `useWatts` while it is in use.
struct Bank {
    Cells cells = {};
    Converter output = {};
    Converter input = {};
    Thermal thermal = {};
    Gauge gauge = {};
    double inputWatts = 18.0;        ///< what it takes at most
    double chargeAmps = 5.0;         ///< constant-current limit into the pack
    double endOfChargeShare = 0.04;  ///< of chargeAmps, at which constant-voltage charging ends
    double topOffBelow = 0.0;        ///< state of charge at which a full bank begins anew; 0: never
    double idleInputWatts = 0.05;    ///< drawn from the charger when full
    double overCurrentAmps = 3.3;    ///< output trips above this
    double overCurrentSeconds = 0.0; ///< that long above it
    double standbyWatts = 0.0;       ///< out of the cells, always
    double useWatts = 0.0;           ///< out of the cells while a device is in use
    std::vector<Port> ports = {Port{}};
    Sharing sharing = {};
    PassThrough passThrough = PassThrough::Shares;
    LightLoad lightLoad = {};
    Recovery recovery = {};
    DualRole dualRole = DualRole::GivesFirst;
    double renegotiateSeconds = 0.0; ///< outputs are off that long after something is plugged or unplugged elsewhere
};

/// A socket on the wall.
struct Charger {
    std::vector<label::Tier> tiers = {}; ///< empty: `volts` at any watts
    double volts = 5.0;
    double watts = 18.0;      ///< the most it gives
    double efficiency = 0.88; ///< wall to socket
    double idleWatts = 0.1;   ///< from the wall with nothing to do
};

struct Cable {
    double ohms = 0.0; ///< loop
    double amps = 5.0; ///< what it is rated for, and so negotiated to
};

} // namespace otterstone::model
