#include "core/path/own_draw.h"

#include <cmath>

namespace otterstone::path {

OwnDrawEstimate ownDrawEnergy(const OwnDraw& draw, double voltHours, double hours, double u, const std::string& meter) {
    OwnDrawEstimate e;
    e.constantCurrentWh = draw.amps * voltHours;
    e.constantPowerWh = draw.amps * draw.volts * hours;
    const double mean = (e.constantCurrentWh + e.constantPowerWh) / 2.0;
    e.wattHours = Measured(mean).with(ErrorSource::ofInstrument(meter, "own draw"),
                                      rectangular(std::fabs(e.constantCurrentWh - e.constantPowerWh) / 2.0));
    e.matters = std::max(e.constantCurrentWh, e.constantPowerWh) > u / 3.0;
    e.working.key = "own_draw_wh";
    e.working.label = "the meter's own draw";
    e.working.formula = "between " + showNumber(e.constantPowerWh, 3) + " Wh (constant power) and " +
                        showNumber(e.constantCurrentWh, 3) + " Wh (constant current)";
    e.working.value = e.wattHours;
    e.working.unit = Unit::WattHour;
    e.working.point = "meter";
    e.working.note = showNumber(draw.amps * 1000.0, 3) + " mA read at " + showNumber(draw.volts, 3) + " V; " +
                     (e.matters ? "counted, the two views' spread as doubt"
                                : "less than a third of the standard uncertainty either way: left out");
    return e;
}

} // namespace otterstone::path
