#include "core/kinds/pad/pad.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/parts.h"
#include "core/kinds/traced/heat.h"
#include "core/label/rating.h"
#include "core/quantity/line.h"

namespace otterstone::kinds {

namespace {

constexpr double kDisplayPoint = 1.0;

std::optional<double> spanOf(const std::vector<PadReading>& all, std::optional<double> PadReading::*member) {
    std::optional<double> first, last;
    for (const PadReading& r : all) {
        if (!(r.*member))
            continue;
        if (!first)
            first = r.*member;
        last = r.*member;
    }
    return first && *first != *last ? std::optional(*last - *first) : std::nullopt;
}

// A difference of two readings of one display.
Measured points(double difference, const ErrorSource& display) {
    return Measured(difference, rectangular(kDisplayPoint) * std::sqrt(2.0), display);
}

void conclude(Way& w, const Facts& facts, const char* name) {
    w.devicePoints = spanOf(w.readings, &PadReading::device);
    const auto bank = spanOf(w.readings, &PadReading::bank);
    w.bankPoints = bank ? std::optional(-*bank) : std::nullopt;
    w.seconds = spanOf(w.readings, &PadReading::seconds);
    const auto rating = label::ratedEnergy(facts.label);
    if (w.devicePoints && w.bankPoints && *w.devicePoints > 0.0 && *w.bankPoints > 0.0 && facts.deviceWattHours &&
        rating)
        w.transfer = points(*w.devicePoints, ErrorSource::ofRun(facts.run, std::string("device's display, ") + name)) *
                     Measured(*facts.deviceWattHours) /
                     (points(*w.bankPoints, ErrorSource::ofRun(facts.run, std::string("bank's display, ") + name)) *
                      Measured(rating->energy.value));
}

void slowedByHeat(const Facts& facts, PadFinding& f) {
    std::vector<double> celsius, watts;
    for (const PadReading& r : f.pad.readings) {
        if (r.celsius)
            f.hottest = std::max(f.hottest.value_or(*r.celsius), *r.celsius);
        if (r.celsius && r.watts) {
            celsius.push_back(*r.celsius);
            watts.push_back(*r.watts);
        }
    }
    if (const auto line = celsius.size() >= 3 ? fitLine(celsius, watts) : std::nullopt)
        f.wattsPerKelvin =
            Measured(line->slope, line->uSlope, ErrorSource::ofRun(facts.run, "scatter of the readings"), line->dof);
}

void say(const Facts& facts, PadFinding& f) {
    Said& said = f.said;
    const std::string device = facts.device.empty() ? "the device" : facts.device;
    if (f.pad.devicePoints)
        said.sentence = "On the pad " + device + " gained " + showNumber(*f.pad.devicePoints, 3) + " points" +
                        (f.pad.seconds ? " in " + showDuration(*f.pad.seconds) : std::string()) +
                        (f.pad.bankPoints ? " and cost the bank " + showNumber(*f.pad.bankPoints, 3) : std::string()) +
                        ".";
    if (f.against) {
        said.sentence += " For the same charge the pad takes " + showNumber(1.0 / f.against->value(), 3) +
                         " times as much of the bank as a wire.";
        said.figures.push_back(figure("pad_against_wire", "pad against wire",
                                      "device points per bank point: " + showNumber(*f.pad.devicePoints, 3) + "/" +
                                          showNumber(*f.pad.bankPoints, 3) + " ÷ " +
                                          showNumber(*f.wire.devicePoints, 3) + "/" + showNumber(*f.wire.bankPoints, 3),
                                      *f.against, Unit::Share, "device", "both displays taken as good to ± 1 point"));
    }
    for (const auto& [way, key, label] : {std::tuple(&f.pad, "pad_transfer", "reaches the device by pad"),
                                          {&f.wire, "wire_transfer", "reaches the device by wire"}}) {
        if (way->transfer)
            said.figures.push_back(figure(key, label, "points × battery ÷ (bank's points × rated energy)",
                                          *way->transfer, Unit::Share, "device",
                                          "by the displays of both; a meter at the port says more"));
    }
    if (f.wattsPerKelvin && f.wattsPerKelvin->value() + f.wattsPerKelvin->expanded() < 0.0) {
        said.sentence += " It slows down as it warms: " + showNumber(-f.wattsPerKelvin->value() * 10.0, 2) +
                         " W less for every 10 K.";
        said.figures.push_back(figure("watts_per_kelvin", "watts per kelvin", "slope of watts over °C",
                                      *f.wattsPerKelvin, Unit::Watt, "device"));
    }
    if (f.hottest && *f.hottest > kHeldSurfaceCelsius)
        said.warnings.push_back({"hot_surface", "The device reached " + showNumber(*f.hottest, 3) +
                                                    " °C; a surface held for a minute or longer should stay below " +
                                                    showNumber(kHeldSurfaceCelsius) +
                                                    " °C (IEC 62368-1, from memory)."});
    if (f.pad.devicePoints && !f.wire.devicePoints)
        said.warnings.push_back({"no_wire", "A run of the same device by wire would show what the pad costs."});
}

} // namespace

PadFinding pad(const Sheet& sheet, const Facts& facts) {
    PadFinding f;
    Rows rows(sheet, f.said.remarks);
    while (rows.next()) {
        PadReading r{rows.seconds("time"), rows.number("device"), rows.number("bank"), rows.temperature("celsius"),
                     rows.number("watts")};
        for (const auto& [value, key] : {std::pair(&r.device, "device"), {&r.bank, "bank"}}) {
            if (*value && **value > 100.0) {
                rows.remark(key, "above_hundred", "a display says 0 to 100 %.");
                value->reset();
            }
        }
        (rows.choice("way") == "wire" ? f.wire : f.pad).readings.push_back(r);
    }
    conclude(f.pad, facts, "pad");
    conclude(f.wire, facts, "wire");
    const auto gainPerPoint = [&facts](const Way& w, const char* name) -> std::optional<Measured> {
        if (!w.devicePoints || !w.bankPoints || *w.devicePoints <= 0.0 || *w.bankPoints <= 0.0)
            return std::nullopt;
        return points(*w.devicePoints, ErrorSource::ofRun(facts.run, std::string("device's display, ") + name)) /
               points(*w.bankPoints, ErrorSource::ofRun(facts.run, std::string("bank's display, ") + name));
    };
    const auto byPad = gainPerPoint(f.pad, "pad"), byWire = gainPerPoint(f.wire, "wire");
    if (byPad && byWire)
        f.against = *byPad / *byWire;
    slowedByHeat(facts, f);
    say(facts, f);
    return f;
}

} // namespace otterstone::kinds
