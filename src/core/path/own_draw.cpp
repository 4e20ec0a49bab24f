#include "core/path/own_draw.h"

#include <cmath>

#include "core/quantity/say.h"

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
    e.working.label = say("the meter's own draw");
    e.working.formula = say("between {} Wh (constant power) and {} Wh (constant current)",
                            showNumber(e.constantPowerWh, 3), showNumber(e.constantCurrentWh, 3));
    e.working.value = e.wattHours;
    e.working.unit = Unit::WattHour;
    e.working.point = say("meter");
    e.working.note = say("{} mA read at {} V; {}", showNumber(draw.amps * 1000.0, 3), showNumber(draw.volts, 3),
                         (e.matters ? say("counted, the two views' spread as doubt")
                                    : say("less than a third of the standard uncertainty either way: left out")));
    return e;
}

} // namespace otterstone::path
