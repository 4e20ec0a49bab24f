#include "core/path/meter.h"

#include <algorithm>

#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::path {

namespace {

tl::unexpected<Problem> bad(std::string_view text, std::string_view place) {
    return problem("bad_meter_accuracy", std::string(place), say("“{}” is not an accuracy.", trimmed(text)),
                   "Write it like: volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm.");
}

struct Term {
    double number;
    std::string unit;
};

Result<Term> parseTerm(std::string_view text, std::string_view place) {
    const std::string_view t = trimmed(text);
    std::size_t end = t.find_first_not_of("0123456789.,");
    end = std::min(end, t.size());
    const auto number = parseNumber(t.substr(0, end), place);
    if (!number || *number < 0.0)
        return bad(text, place);
    return Term{*number, lowered(trimmed(t.substr(end)))};
}

Result<Accuracy> parseAccuracy(std::string_view text, std::string_view baseUnit, std::string_view place) {
    Accuracy a;
    std::string_view rest = text;
    while (!trimmed(rest).empty()) {
        const std::size_t plus = rest.find('+');
        const auto term = parseTerm(rest.substr(0, plus), place);
        if (!term)
            return tl::unexpected(term.error());
        if (term->unit == "digits" || term->unit == "digit" || term->unit == "d")
            a.digits += term->number;
        else if (term->unit == "%")
            a.gain += term->number / 100.0;
        else if (term->unit == "ppm")
            a.gain += term->number * 1e-6;
        else if (term->unit == baseUnit)
            a.offset += term->number;
        else if (term->unit == "m" + std::string(baseUnit))
            a.offset += term->number * 1e-3;
        else if (term->unit == "u" + std::string(baseUnit) || term->unit == "µ" + std::string(baseUnit))
            a.offset += term->number * 1e-6;
        else
            return bad(text, place);
        rest = plus == std::string_view::npos ? std::string_view{} : rest.substr(plus + 1);
    }
    return a;
}

// "0.05%+2mV to 10V": the words before "to", and where the range ends.
struct Ranged {
    std::string_view figures;
    std::optional<double> upTo;
};

Result<Ranged> parseRanged(std::string_view text, std::string_view base, std::string_view place) {
    const std::size_t to = text.find(" to ");
    if (to == std::string_view::npos)
        return Ranged{text, std::nullopt};
    const auto end = parseTerm(text.substr(to + 4), place);
    if (!end || (end->unit != base && end->unit != "m" + std::string(base)) || !(end->number > 0.0))
        return bad(text, place);
    return Ranged{text.substr(0, to), end->unit == base ? end->number : end->number * 1e-3};
}

std::optional<Accuracy> upTo(double greatest, const std::vector<Range>& ranges, const std::optional<Accuracy>& widest) {
    for (const Range& r : ranges) {
        if (greatest <= r.upTo)
            return r.accuracy;
    }
    // A meter whose widest range is stated with its end is not known beyond it; the nearest it says is that range.
    return widest || ranges.empty() ? widest : std::optional(ranges.back().accuracy);
}

} // namespace

std::optional<Accuracy> Meter::voltsUpTo(double greatest) const { return upTo(greatest, voltsRanges, volts); }
std::optional<Accuracy> Meter::ampsUpTo(double greatest) const { return upTo(greatest, ampsRanges, amps); }

Result<Meter> parseMeter(std::string_view text, std::string_view place) {
    Meter meter;
    std::size_t start = 0;
    for (std::size_t i = 0; i <= text.size(); ++i) {
        // A comma between digits is a decimal comma, not the end of a part.
        const bool digitsAround = i > 0 && i + 1 < text.size() && text[i - 1] >= '0' && text[i - 1] <= '9' &&
                                  text[i + 1] >= '0' && text[i + 1] <= '9';
        if (i < text.size() && (text[i] != ',' || digitsAround) && text[i] != ';')
            continue;
        const std::string_view part = trimmed(text.substr(start, i - start));
        start = i + 1;
        if (part.empty())
            continue;
        const std::size_t space = part.find(' ');
        if (space == std::string_view::npos)
            return bad(part, place);
        const std::string what = lowered(part.substr(0, space));
        const std::string_view figures = part.substr(space + 1);
        const std::string_view base = what == "volts" ? "v" : what == "amps" ? "a" : what == "clock" ? "s" : "";
        if (base.empty())
            return bad(part, place);
        const auto ranged = parseRanged(figures, base, place);
        if (!ranged)
            return tl::unexpected(ranged.error());
        const auto accuracy = parseAccuracy(ranged->figures, base, place);
        if (!accuracy)
            return tl::unexpected(accuracy.error());
        if (ranged->upTo) {
            if (what == "clock")
                return bad(part, place);
            auto& ranges = what == "volts" ? meter.voltsRanges : meter.ampsRanges;
            ranges.push_back({*ranged->upTo, *accuracy});
            std::sort(ranges.begin(), ranges.end(), [](const Range& a, const Range& b) { return a.upTo < b.upTo; });
        } else if (what == "volts")
            meter.volts = *accuracy;
        else if (what == "amps")
            meter.amps = *accuracy;
        else
            meter.clock = accuracy->gain;
    }
    return meter;
}

std::string showAccuracy(const Accuracy& a, std::string_view unit) {
    std::string text = showNumber(a.gain * 100.0) + "%";
    if (a.offset > 0.0 || a.digits == 0.0)
        text += "+" + showNumber(a.offset * 1000.0) + "m" + std::string(unit);
    if (a.digits > 0.0)
        text += "+" + showNumber(a.digits) + " digits";
    return text;
}

std::string showMeter(const Meter& meter) {
    std::string text;
    const auto part = [&text](const std::string& t) { text += (text.empty() ? "" : ", ") + t; };
    for (const Range& r : meter.voltsRanges)
        part("volts " + showAccuracy(r.accuracy, "V") + " to " + showNumber(r.upTo) + "V");
    for (const Range& r : meter.ampsRanges)
        part("amps " + showAccuracy(r.accuracy, "A") + " to " + showNumber(r.upTo) + "A");
    if (meter.volts)
        part("volts " + showAccuracy(*meter.volts, "V"));
    if (meter.amps)
        part("amps " + showAccuracy(*meter.amps, "A"));
    if (meter.clock)
        part("clock " + showNumber(*meter.clock * 1e6) + "ppm");
    return text;
}

} // namespace otterstone::path
