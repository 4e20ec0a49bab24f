#include "core/kinds/notebook/notebook.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/kinds/parts.h"
#include "core/kinds/traced/hand.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"
#include "core/trace/blocks.h"
#include "core/trace/energy.h"

namespace otterstone::kinds {

namespace {

// A device that lost this many points between two looks was unplugged and used, or is another one.
constexpr double kUsedMeanwhile = 10.0;
constexpr double kSameBattery = 0.05;
constexpr double kSwapSeconds = 900.0; // the next device was plugged in so soon: the one before came off then

class Finder {
public:
    Finder(const Sheet& sheet, const Facts& facts)
        : facts_(facts), between_(sheet.held ? trace::Between::Held : trace::Between::Joined) {
        f_.notes = readNotes(sheet, facts, f_.said.remarks);
    }

    NotebookFinding find() {
        for (std::size_t k = 0; k < f_.notes.devices.size(); ++k)
            sittingsOf(k);
        std::ranges::stable_sort(f_.sittings, {}, [](const Sitting& s) { return s.looks.front().at; });
        bankDisplay();
        f_.flow = flow();
        takeTogether();
        if (f_.flow == Flow::Out)
            usedOfBank();
        else if (f_.flow == Flow::In)
            stopsOfRecharge();
        count();
        return std::move(f_);
    }

private:
    [[nodiscard]] const std::string& nameOf(std::size_t device) const { return f_.notes.devices[device].name; }

    void sittingsOf(std::size_t device) {
        std::optional<Sitting> open;
        const auto close = [&] {
            if (open && !open->looks.empty()) {
                open->charging = chargingOf(open->looks, facts_.run, nameOf(device));
                open->full = open->looks.back().state.low >= 100.0;
                f_.sittings.push_back(std::move(*open));
            }
            open.reset();
        };
        for (const Entry& e : f_.notes.entries) {
            const bool mine = std::ranges::any_of(e.happened, [&](const Happened& h) { return h.device == device; });
            if (mine && e.was(Event::PluggedIn, device))
                close();
            const auto& look = e.devices[device];
            if (look) {
                if (open && !open->looks.empty() &&
                    (open->looks.back().state.low - look->state.high > kUsedMeanwhile ||
                     (!e.way.empty() && e.way != open->way)))
                    close();
                if (!open)
                    open = Sitting{device, e.way, {}, {}};
                open->looks.push_back(*look);
            }
            if (open && mine) {
                open->ended = e.was(Event::Unplugged, device) || e.was(Event::Stopped, device) ||
                              e.was(Event::Died, device) || e.was(Event::WentOff, device);
                if (open->ended)
                    close();
            }
        }
        close();
    }

    void bankDisplay() {
        std::vector<Look> looks;
        for (const Entry& e : f_.notes.entries) {
            if (e.bank)
                looks.push_back(*e.bank);
        }
        if (!looks.empty())
            f_.bank = chargingOf(looks, facts_.run, "the bank");
    }

    [[nodiscard]] Flow flow() const {
        bool out = false, in = false;
        for (const Entry& e : f_.notes.entries) {
            in = in || e.way == "in";
            out = out || e.way == "out" || e.way == "pad" || e.way == "wire" || e.was(Event::Died) ||
                  e.was(Event::WentOff);
        }
        if (in != out)
            return in ? Flow::In : Flow::Out;
        if (std::ranges::any_of(f_.sittings, [](const Sitting& s) { return s.charging.gained.value() > 0.0; }))
            return Flow::Out;
        if (!f_.bank || f_.bank->gained.value() == 0.0)
            return Flow::Unknown;
        return f_.bank->gained.value() > 0.0 ? Flow::In : Flow::Out;
    }

    void takeTogether() {
        for (std::size_t k = 0; k < f_.notes.devices.size(); ++k) {
            Taken t{k, Measured(0.0), 0, {}};
            for (const Sitting& s : f_.sittings) {
                if (s.device != k || s.charging.gained.value() <= 0.0)
                    continue;
                t.points = t.points + s.charging.gained;
                t.complete += s.full && s.charging.from.value() <= records::State::kEmpty ? 1 : 0;
            }
            if (t.points.value() <= 0.0)
                continue;
            if (f_.notes.devices[k].wattHours)
                t.stored = t.points * Measured(*f_.notes.devices[k].wattHours / 100.0);
            f_.taken.push_back(std::move(t));
        }
        if (f_.taken.empty() || !std::ranges::all_of(f_.taken, [](const Taken& t) { return t.stored.has_value(); }))
            return;
        f_.stored = Measured(0.0);
        for (const Taken& t : f_.taken)
            f_.stored = *f_.stored + *t.stored;
    }

    // Points of a state of the bank, with the doubt of a gauge; full and empty tell themselves.
    [[nodiscard]] Measured trueState(const Look& l, const char* end) const {
        if (l.state.isFull() || l.state.isEmpty())
            return Measured(l.state.isFull() ? 100.0 : 0.0);
        return stateOf(l, facts_.run, "the bank")
            .with(ErrorSource::ofRun(facts_.run, std::string("the bank's gauge at the ") + end),
                  rectangular(records::State::kGaugeDoubt));
    }

    // A device whose charge had no known end when it was last looked at before a moment: it may have gone on.
    [[nodiscard]] std::optional<std::size_t> unseenBy(double moment) const {
        for (const Sitting& s : f_.sittings) {
            const double last = s.looks.back().at;
            const bool followed = std::ranges::any_of(f_.sittings, [&](const Sitting& next) {
                return &next != &s && next.looks.front().at >= last && next.looks.front().at <= last + kSwapSeconds;
            });
            if (!s.full && !s.ended && !followed && last < moment)
                return s.device;
        }
        return std::nullopt;
    }

    void usedOfBank() {
        const auto& all = f_.notes.entries;
        const auto first = std::ranges::find_if(all, [](const Entry& e) { return e.bank.has_value(); });
        if (first == all.end())
            return;
        const auto last = std::find_if(all.rbegin(), all.rend(), [](const Entry& e) { return e.bank.has_value(); });
        // It must have been read before the first device took anything, and after the last did.
        for (const Sitting& s : f_.sittings) {
            if (s.charging.gained.value() > 0.0 &&
                (s.looks.front().at < first->at || (s.looks.back().at > last->at && !last->bank->state.isEmpty())))
                return;
        }
        if (&*first == &*last)
            return;
        const Measured drop = trueState(*first->bank, "beginning") - trueState(*last->bank, "end");
        f_.bankStood = drop.value() <= 0.0;
        const Look* before = nullptr; // more than its gauge may waver: it was charged between
        for (const Entry& e : all) {
            if (!e.bank)
                continue;
            f_.bankStood = f_.bankStood || (before && e.bank->state.low - before->state.high > State::kGaugeDoubt);
            before = &*e.bank;
        }
        if (f_.bankStood)
            return;
        Used u{*first->bank, *last->bank, std::max(0.0, drop.value() - drop.expanded()),
               std::min(100.0, drop.value() + drop.expanded())};
        f_.used = u;
        f_.unseen = unseenBy(last->at);
        if (f_.unseen ||
            !std::ranges::all_of(f_.sittings, [](const Sitting& s) { return s.charging.gained.value() > 0.0; }))
            return;
        const auto alike = [this](const Taken& t) {
            const auto one = f_.notes.devices[f_.taken.front().device].wattHours,
                       own = f_.notes.devices[t.device].wattHours;
            return one && own && std::fabs(*own / *one - 1.0) <= kSameBattery;
        };
        if (f_.taken.empty() || (f_.taken.size() > 1 && !std::ranges::all_of(f_.taken, alike)))
            return;
        NotebookFinding::PerBank p{f_.taken.front().device, nameOf(f_.taken.front().device), Measured(0.0)};
        for (const Taken& t : f_.taken)
            p.points = p.points + t.points;
        if (f_.taken.size() > 1)
            p.name = say("a device of {} Wh", showNumber(*f_.notes.devices[p.device].wattHours, 3));
        const double d = drop.value(), g = p.points.value();
        // Both doubts in one: that of what was gained, carried over to the drop.
        const double doubt = std::hypot(drop.expanded(), p.points.expanded() * d / g);
        p.low = g / (d + doubt);
        p.high = d > doubt ? g / (d - doubt) : std::numeric_limits<double>::infinity();
        f_.perBank = p;
    }

    [[nodiscard]] static bool timeBefore(const Entry& e) {
        return std::ranges::any_of(e.happened, &Happened::timeBefore);
    }

    void stopsOfRecharge() {
        const auto& all = f_.notes.entries;
        for (std::size_t k = 0; k < all.size(); ++k) {
            if (!all[k].was(Event::Stopped) && !all[k].was(Event::Unplugged) && !all[k].was(Event::Error))
                continue;
            for (std::size_t n = k + 1; n < all.size(); ++n) {
                if (all[n].was(Event::Resumed) || all[n].was(Event::Replug) || all[n].was(Event::PluggedIn)) {
                    f_.stops.push_back(
                        {{timeBefore(all[k]) && k > 0 ? all[k - 1].at : all[k].at, all[k].at}, all[n].at});
                    break;
                }
            }
        }
    }

    void count() {
        if (!byReadings() && !byCounter())
            byCharge();
        if (f_.counted)
            f_.counted->coversDevices =
                !unseenBy(f_.counted->to) && std::ranges::all_of(f_.sittings, [&](const Sitting& s) {
                    return s.looks.front().at >= f_.counted->from && s.looks.back().at <= f_.counted->to;
                });
    }

    // Once the output has gone, the plug is out or the bank is full nothing flows, which is as good as a reading of
    // nothing. What flowed since the last reading lies between the two, and is in the doubt.
    [[nodiscard]] const Entry* endAfter(const Entry& last) const {
        const bool out = f_.flow == Flow::Out, in = f_.flow == Flow::In;
        const auto ends = [&](const Entry& e) {
            if (e.at < last.at)
                return false;
            if (out && (e.was(Event::Died) || e.was(Event::WentOff)))
                return true;
            const bool later = &e != &last && (in || out);
            return later && (e.was(Event::Unplugged) || e.was(Event::Stopped) ||
                             (in && (e.was(Event::Full) || e.was(Event::Error))) ||
                             (e.bank && e.bank->exact && (in ? e.bank->state.isFull() : e.bank->state.isEmpty())));
        };
        const auto at = std::ranges::find_if(f_.notes.entries, ends);
        return at == f_.notes.entries.end() ? nullptr : &*at;
    }
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
        if (const Entry* end = last ? endAfter(*last) : nullptr;
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

    const Facts& facts_;
    trace::Between between_;
    NotebookFinding f_;
};

} // namespace

// What a pad or a device shows of itself is no meter's.
bool readsPower(const Entry& e) {
    return !e.volts.empty() + !e.amps.empty() + !e.watts.empty() >= 2 || (!e.watts.empty() && e.way != "pad");
}

bool atOnce(const Sitting& a, const Sitting& b) {
    return a.looks.size() > 1 && b.looks.size() > 1 && b.looks.front().at < a.looks.back().at &&
           a.looks.front().at < b.looks.back().at;
}

namespace {

// As far as the bank was looked at before anything moved, and after all had.
std::optional<BankEnds> endsOf(const NotebookFinding& f) {
    const auto& all = f.notes.entries;
    const auto looked = [](const Entry& e) { return e.bank.has_value(); };
    const auto first = std::ranges::find_if(all, looked);
    if (first == all.end() || f.flow == Flow::Unknown)
        return std::nullopt;
    const auto last = std::find_if(all.rbegin(), all.rend(), looked);
    const bool fills = f.flow == Flow::In;
    double moves = fills ? all.front().at : HUGE_VAL, rests = fills ? all.back().at : 0.0;
    for (const Sitting& s : f.sittings) {
        moves = std::min(moves, s.looks.front().at);
        rests = std::max(rests, s.looks.back().at);
    }
    BankEnds ends{{}, {}, all.back().at - all.front().at, fills};
    if (first->at <= moves)
        ends.began = first->bank->state;
    const bool there = fills ? last->bank->state.isFull() : last->bank->state.isEmpty();
    if (&*first != &*last && (last->at >= rests || there) && !(f.unseen && !there))
        ends.ended = last->bank->state;
    return ends.began || ends.ended ? std::optional(ends) : std::nullopt;
}

} // namespace

NotebookFinding findNotebook(const Sheet& sheet, const Facts& facts) { return Finder(sheet, facts).find(); }

NotebookFinding notebook(const Sheet& sheet, const Facts& facts) {
    NotebookFinding f = findNotebook(sheet, facts);
    sayNotebook(facts, f);
    f.said.bank = endsOf(f);
    return f;
}

} // namespace otterstone::kinds
