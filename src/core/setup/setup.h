// What the finding of a trace rests on besides its samples.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/label/rating.h"
#include "core/path/bottleneck.h"
#include "core/path/meter.h"
#include "core/path/own_draw.h"
#include "core/path/point.h"
#include "core/quantity/measured.h"
#include "core/records/mark.h"
#include "core/records/state.h"
#include "core/setup/device.h"
#include "core/setup/schools.h"
#include "core/trace/phases.h"
#include "core/trace/sampling.h"
#include "core/trace/trace.h"

namespace otterstone::setup {

/// One more trace of a run, read at another point of its path.
struct Reading {
    path::Point point = path::Point::BankOut;
    bool byDisplay = false;
    const trace::Trace* trace = nullptr;
    path::Meter meter;
    Measured clock = Measured(1.0);
    std::optional<double> shift; ///< seconds from this trace's (true) clock to the main one's; found from the onset of
                                 ///< the power when not given
};

/// All that a finding depends on besides the samples.
struct Setup {
    std::optional<label::Rating> rating; ///< the house's reference; setRating() fills it and the other schools'
    std::vector<std::pair<label::Reference, label::Rating>> ratings;
    std::optional<Volts> cellVolts;
    Schools schools;
    path::Point point = path::Point::Meter; ///< where the trace was read
    bool byDisplay = false;                 ///< read off the bank's own display, not a meter
    path::Meter meter;
    Measured clock = Measured(1.0);   ///< C3: factor from logged to true time
    std::optional<Measured> pathOhms; ///< loop resistance between the bank's port and the meter
    std::optional<Measured> farOhms;  ///< of the cable on the meter's other side
    std::string cableName = "cable", farCableName = "far cable";
    std::optional<Measured> chargerEfficiency; ///< wall to the charger's socket, a fraction
    std::optional<path::OwnDraw> ownDraw;
    std::vector<Reading> also;          ///< the run's other traces
    std::optional<trace::Between> hand; ///< C6: a few readings by hand, so no step is a gap
    std::optional<double> maxGap;       ///< seconds; C2's rule when not given
    std::optional<double> from, to;     ///< on the log's own clock
    trace::FullRule full;
    std::optional<Hours> claimedRecharge;
    std::optional<Watts> claimedInput;         ///< what the recharge claim needs
    std::optional<Watts> chargerWatts;         ///< what the charger of this run can give
    std::optional<path::Prediction> predicted; ///< B3: what charger, cable and bank can agree on
    std::optional<double> ambient;             ///< °C
    std::optional<double> thermometerKelvin;   ///< ±, half-width; without it temperatures carry no ±
    std::optional<Device> device;              ///< D13: what a drain charged
    std::optional<TargetBank> target;          ///< D4: the bank a drain went into
    std::vector<records::Mark> marks;
    records::StatedEnds ends; ///< what the tester said of begin and end
    std::string run;          ///< identity of the run's own errors: no other run shares them
    std::string logName;      ///< for the working's leaf
    std::size_t skippedLines = 0;
    std::optional<double> counterWattHours; ///< C5: what the meter itself counted over the whole log
    std::optional<double> counterAmpHours;
};

/// Rating and ratings from a label, as the setup's schools have it.
void setRating(Setup& setup, const label::Label& label);

} // namespace otterstone::setup
