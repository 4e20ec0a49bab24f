// Numbers, spans of time, figures with ±, stamps, dates, and how a run began and ended, as people and instruments write
// them.
#include "core/quantity/date.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/records/conditions.h"
#include "core/records/past.h"
#include "core/records/state.h"
#include "core/trace/clock.h"
#include "entry.h"
#include "logs/time_cell.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text = fuzz::text(data, size);
    for (const Expect expect : {Expect::AnyNumber, Expect::WholeNumber}) {
        if (const auto number = parseNumber(text, "here", expect)) {
            fuzz::must(std::isfinite(*number), "a number is finite");
            fuzz::must(!showNumber(*number).empty(), "a number can be shown");
        }
    }
    for (const auto& bare : {std::optional<double>(), std::optional(60.0)}) {
        if (const auto seconds = parseDuration(text, "here", bare)) {
            fuzz::must(std::isfinite(*seconds), "a span is finite");
            fuzz::must(!showDuration(*seconds).empty(), "a span can be shown");
        }
    }
    if (const auto measured = parseMeasured(text, "here", ErrorSource::ofBench("x", "x"))) {
        fuzz::must(std::isfinite(measured->value()) && std::isfinite(measured->u()), "a figure with ± is finite");
        fuzz::must(!show(*measured, Unit::WattHour).empty(), "a figure can be shown");
    }
    if (const auto factor = trace::parseClockFactor(text, "here", ErrorSource::ofBench("x", "x")))
        fuzz::must(std::isfinite(factor->value()) && std::isfinite(factor->u()), "a clock's factor is finite");
    for (const int parts : {2, 3}) {
        if (const auto clock = logs::parseClock(text, parts))
            fuzz::must(std::isfinite(*clock), "a clock's time is finite");
    }
    if (const auto stamp = logs::parseIso(text))
        fuzz::must(std::isfinite(stamp->seconds), "a stamp is finite");
    (void)logs::parseDate(text);
    if (const auto began = records::parseBegan(text, "here"); began && began->state)
        fuzz::must(began->state->low >= 0.0 && began->state->low <= began->state->high && began->state->high <= 100.0,
                   "a state lies between empty and full");
    records::Past past;
    if (records::parseCame(text, "here", past))
        fuzz::must(records::parseCame(records::showCame(past), "here", past).has_value(),
                   "an arrival can be typed again");
    if (const auto counts = records::parseCounts(text, "here"))
        fuzz::must(records::parseCounts(records::showCounts(*counts), "here").has_value(), "counts can be typed again");
    records::Bought bought;
    if (records::parsePaid(text, "here", bought))
        fuzz::must(records::parsePaid(records::showPaid(bought), "here", bought).has_value(),
                   "a price can be typed again");
    if (const auto contents = records::parseContents(text, "here"))
        fuzz::must(records::parseContents(records::showContents(*contents), "here").has_value(),
                   "contents can be typed again");
    const auto conditions = records::parseConditions(text);
    fuzz::must(records::sameConditions(records::parseConditions(records::showConditions(conditions)), conditions),
               "conditions can be typed again");
    records::StatedEnds device;
    if (records::parseDevice(text, "here", device))
        fuzz::must(records::parseDevice(records::typedDevice(device), "here", device).has_value(),
                   "what is said of a device can be typed again");
    (void)secondsOf(std::string(text));
    records::StatedEnds ends;
    if (records::parseEnded(text, "here", ends))
        fuzz::must(!ends.empty() && !records::typedEnded(ends).empty(), "what is said of an end can be typed again");
    return 0;
}
