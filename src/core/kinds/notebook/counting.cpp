#include "core/kinds/notebook/counting.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/parts.h"
#include "core/kinds/traced/hand.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"
#include "core/trace/blocks.h"
#include "core/trace/energy.h"

namespace otterstone::kinds {

namespace {

class MeterCount {
public:
    MeterCount(NotebookFinding& f, const Facts& facts, trace::Between between)
        : f_(f), facts_(facts), between_(between) {}
    void count() {
        if (!byReadings() && !byCounter())
            byCharge();
    }

private:
    // Once it has ended nothing flows, which is as good as a reading of nothing. What flowed since the last reading
    // lies between the two, and is in the doubt.
    static HandRow nothingAt(const Entry& end, const Entry& last) {
        const bool gone = end.was(Event::Died) || end.was(Event::WentOff) || last.volts.empty();
        HandRow row;
        constexpr double kAtOnce = 1.0; // s: read as it ended, and nothing lies open between
        row.time = showNumber(&end == &last ? end.at + kAtOnce : end.at, 12) + " s";
        if (last.volts.empty() && last.amps.empty()) {
            row.watts = "0";
        } else {
            row.volts = gone ? "0" : last.volts;
            row.amps = "0";
        }
        return row;
    }

    bool byReadings() {
        std::vector<HandRow> rows;
        std::vector<std::size_t> rowOf; // of the sheet
        const Entry* last = nullptr;
        for (const Entry& e : f_.notes.entries) {
            if (!readsPower(e))
                continue;
            last = &e;
            std::string surface;
            for (const auto& [where, value] : e.celsius)
                surface = where == "bank" || (where.empty() && e.devices.empty()) ? showNumber(value, 6) : surface;
            rows.push_back({showNumber(e.at, 12) + " s", e.volts, e.amps, e.watts, "", surface, ""});
            rowOf.push_back(e.row);
        }
        f_.readings = readByHand(rows, between_);
        const std::size_t readings = f_.readings.rows;
        if (const Entry* end = last ? endOf(f_, last->at) : nullptr;
            end && f_.readings.trace.size() >= 2 && f_.readings.trace.power(f_.readings.trace.size() - 1) > 0.0) {
            rows.push_back(nothingAt(*end, *last));
            rowOf.push_back(end->row);
            f_.readings = readByHand(rows, between_);
        }
        for (const HandRemark& r : f_.readings.remarks)
            f_.said.remarks.push_back({rowOf[r.row],
                                       r.column.substr(0, 1),
                                       {r.problem.code, say("row {}, {}", std::to_string(rowOf[r.row] + 1), r.column),
                                        r.problem.text, r.problem.mend}});
        const trace::Trace& read = f_.readings.trace;
        if (read.size() < 2)
            return false;
        const auto totals = trace::integrate(read, trace::Plateau{}, HUGE_VAL);
        if (!(totals.wattHours > 0.0))
            return false;
        const auto blocks = trace::blocksOf(read, HUGE_VAL);
        const auto energy = trace::energyFigures(
            read, totals, blocks, {facts_.meter, Measured(1.0), between_, facts_.run, f_.flow == Flow::In});
        const bool held = between_ == trace::Between::Held;
        f_.counted = Counted{energy.wattHours,
                             counted(readings, "reading", "readings") +
                                 (held ? say(", each held until the next") : say(" joined by lines")),
                             say("what lies between the readings is in its doubt"),
                             read.time.front(),
                             read.time.back(),
                             facts_.meter.accuracyKnown()};
        return true;
    }

    // What a counter counted: between the first and the last time that it was read. Read once, in the end, it is taken
    // as set to zero at the beginning, and that is told.
    struct Count {
        const Entry *first = nullptr, *last = nullptr;
        double from = 0.0, to = 0.0;
        [[nodiscard]] bool once() const { return first == last; }
        [[nodiscard]] double counted() const { return to - from; }
    };
    std::optional<Count> countOf(std::optional<double> Entry::*counter, const char* column, const char* unit) {
        Count n;
        for (const Entry& e : f_.notes.entries) {
            if (!(e.*counter))
                continue;
            if (n.last && *(e.*counter) < n.to) {
                f_.said.remarks.push_back({e.row,
                                           column,
                                           {"counter_steps_back", say("row {}, {}", std::to_string(e.row + 1), unit),
                                            say("the counter went back: it was set to zero, or a reading slipped."),
                                            say("Begin another notebook where the counter begins anew.")}});
                return std::nullopt;
            }
            n.first = n.first ? n.first : &e;
            n.last = &e;
            n.to = *(e.*counter);
        }
        if (!n.last)
            return std::nullopt;
        n.from = n.once() ? 0.0 : *(n.first->*counter);
        const bool ended = !n.once() || n.last->at > 0.0; // else it is how it began
        return ended && n.counted() > 0.0 ? std::optional(n) : std::nullopt;
    }

    [[nodiscard]] Measured withGains(Measured m) const {
        const double value = m.value();
        if (const auto volts = facts_.meter.voltsUpTo(0.0))
            m = m.with(ErrorSource::ofInstrument(facts_.meter.name, "volts gain"), value * rectangular(volts->gain));
        if (const auto range = facts_.meter.ampsUpTo(0.0))
            m = m.with(ErrorSource::ofInstrument(facts_.meter.name, "amps gain"), value * rectangular(range->gain));
        return m;
    }

    void keepCount(const Count& n, Measured wattHours, std::string formula, std::string note, Counters counters) {
        const double from = n.once() ? 0.0 : n.first->at;
        if (n.last->at > from)
            counters.seconds = n.last->at - from;
        if (n.once())
            note = say("the counter was read once: it is taken as set to zero at the beginning{}",
                       (note.empty() ? std::string() : "; " + note));
        f_.counted = Counted{std::move(wattHours), std::move(formula),          std::move(note), from,
                             n.last->at,           facts_.meter.accuracyKnown()};
        f_.counted->counters = counters;
        f_.counted->once = n.once();
    }

    // The mean of the volts that were read beside the counters.
    [[nodiscard]] std::optional<double> voltsRead() const {
        double sum = 0.0;
        std::size_t count = 0;
        for (const Entry& e : f_.notes.entries) {
            const auto volts = parseNumber(e.volts);
            if (e.volts.empty() || !volts || *volts <= 0.0)
                continue;
            sum += *volts;
            ++count;
        }
        return count > 0 ? std::optional(sum / static_cast<double>(count)) : std::nullopt;
    }

    bool byCounter() {
        const auto n = countOf(&Entry::wattHours, "wh", "Wh");
        if (!n)
            return false;
        Measured m = Measured(n->counted())
                         .with(ErrorSource::ofRun(facts_.run, "first reading of the counter"),
                               rectangular(n->from > 0.0 ? n->first->wattHoursDigit / 2.0 : 0.0))
                         .with(ErrorSource::ofRun(facts_.run, "last reading of the counter"),
                               rectangular(n->last->wattHoursDigit / 2.0));
        Counters counters{n->counted(), {}, {}, {}};
        if (const auto charge = countOf(&Entry::milliampHours, "mah", "mAh");
            charge && charge->last == n->last && charge->once() == n->once()) {
            counters.milliampHours = charge->counted();
            counters.meanVolts = voltsRead();
        }
        keepCount(*n, withGains(std::move(m)),
                  n->once() ? say("{} Wh", showNumber(n->counted()))
                            : say("{} Wh − {} Wh", showNumber(n->to), showNumber(n->from)),
                  n->once() ? "" : say("as the counter said at both moments"), counters);
        return true;
    }

    void byCharge() {
        const auto volts = voltsRead();
        if (!volts)
            return;
        const auto n = countOf(&Entry::milliampHours, "mah", "mAh");
        if (!n)
            return;
        keepCount(*n, withGains(Measured(n->counted() * *volts / 1000.0)),
                  say("{} mAh × {} V ÷ 1000", showNumber(n->counted()), showNumber(*volts, 4)),
                  say("the volts that were read are taken as their mean"), {{}, n->counted(), volts, {}});
    }

    NotebookFinding& f_;
    const Facts& facts_;
    trace::Between between_;
};

} // namespace

// What a pad or a device shows of itself is no meter's.
bool readsPower(const Entry& e) {
    return !e.volts.empty() + !e.amps.empty() + !e.watts.empty() >= 2 || (!e.watts.empty() && e.way != "pad");
}

const Entry* endOf(const NotebookFinding& f, double from) {
    const bool out = f.flow == Flow::Out, in = f.flow == Flow::In;
    const Entry* end = nullptr;
    for (const Entry& e : f.notes.entries) {
        if (e.at < from)
            continue;
        if (e.was(Event::Resumed) || e.was(Event::Replug) || e.was(Event::PluggedIn))
            end = nullptr; // it went on
        // What is written beside a reading that flows ends it only where the output went.
        const bool gone = out && (e.was(Event::Died) || e.was(Event::WentOff));
        const bool later = (in || out) && !readsPower(e);
        const bool ends =
            gone || (later && (e.was(Event::Unplugged) || e.was(Event::Stopped) ||
                               (in && (e.was(Event::Full) || e.was(Event::Error))) ||
                               (e.bank && e.bank->exact && (in ? e.bank->state.isFull() : e.bank->state.isEmpty()))));
        if (ends && !end)
            end = &e;
    }
    return end;
}

void countMeter(NotebookFinding& f, const Facts& facts, trace::Between between) {
    MeterCount(f, facts, between).count();
}

} // namespace otterstone::kinds
