// F, first version: what a simulated bank is made of. Parameters are the truth that findings are held against.
#pragma once

#include <string>
#include <vector>

namespace otterstone::model {

enum class Chemistry { Nmc, Lfp };

/// The cells of a bank as one: `series` strings share the pack's resistance; capacity in Ah at pack voltage.
struct Cells {
    Chemistry chemistry = Chemistry::Nmc;
    int series = 1;
    double ampHours = 10.0;
    double ohms = 0.03;            ///< of the whole pack
    double fullVolts = 4.20;       ///< per cell, constant-voltage limit
    double cutOffVolts = 3.0;      ///< per cell, under load
    /// Open-circuit volts per cell at evenly spaced states of charge 0 … 1; empty takes the chemistry's table.
    std::vector<double> openCircuit;

    /// Pack volts without load at a state of charge, clamped to 0 … 1, linear between table points.
    [[nodiscard]] double openCircuitVolts(double stateOfCharge) const;
};

/// Loss in watts at an output (or input) current: idle + perAmp·I + ohms·I².
struct Converter {
    double idle = 0.15;
    double perAmp = 0.45;
    double ohms = 0.05;
    double outputOhms = 0.02; ///< sag of the port with current
    [[nodiscard]] double loss(double amps) const { return idle + perAmp * amps + ohms * amps * amps; }
};

/// One heat store: dT/dt = (P·resistance − (T − ambient)) / seconds.
struct Thermal {
    double kelvinPerWatt = 6.0;
    double seconds = 1800.0;
    double tripCelsius = 95.0;
};

/// The bank's own display: lags behind, bulges by `errorPoints` half way, and shows 0 % while `hiddenShare` is left.
struct Gauge {
    double lagSeconds = 30.0;
    double errorPoints = 0.0;
    double hiddenShare = 0.0;
    /// What a display without lag would say, 0 to 100.
    [[nodiscard]] double says(double stateOfCharge) const;
};

struct Bank {
    Cells cells;
    Converter output;
    Converter input;
    Thermal thermal;
    Gauge gauge;
    double inputWatts = 18.0;        ///< what it takes at most
    double chargeAmps = 5.0;         ///< constant-current limit into the pack
    double endOfChargeShare = 0.04;  ///< of chargeAmps, at which constant-voltage charging ends
    double idleInputWatts = 0.05;    ///< drawn from the charger when full
    double overCurrentAmps = 3.3;    ///< output trips above this
};

} // namespace otterstone::model
