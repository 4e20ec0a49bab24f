#include "core/kinds/notebook/measured.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/kinds/notebook/counting.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr std::array kOfMeter = {"v", "a", "w", "wh", "mah"};

Kind kindOf(const NotebookFinding& f) {
    const bool measured = f.counted && (f.readings.trace.size() >= 2 || f.counted->counters);
    return !measured || f.flow == Flow::Unknown ? Kind::Notebook : f.flow == Flow::In ? Kind::Recharge : Kind::Drain;
}

// "2 of 4" again, from the interval that it says; another interval is no stamp.
std::optional<Mark> lightsAt(const Look& l) {
    const int all = static_cast<int>(std::max(1.0, std::round(100.0 / (l.state.high - l.state.low))));
    const double lit = std::round(l.state.high / 100.0 * all);
    const State said = litLeds(lit, all);
    if (std::fabs(said.low - l.state.low) > 0.5 || std::fabs(said.high - l.state.high) > 0.5)
        return std::nullopt;
    return Mark{l.at, Mark::What::Leds, lit, say("of {}", std::to_string(all))};
}

std::optional<Mark> stampOf(const Happened& h, double at) {
    if (h.device)
        return std::nullopt;
    switch (h.event) {
    case Event::PluggedIn:
    case Event::Replug:
    case Event::Resumed: return Mark{at, Mark::What::Plugged, {}, h.event == Event::Replug ? "replug" : ""};
    case Event::Unplugged: return Mark{at, Mark::What::Unplugged, {}, ""};
    case Event::Button: return Mark{at, Mark::What::Note, {}, "button"};
    case Event::Error: return Mark{at, Mark::What::Trip, {}, "error"};
    case Event::Stopped:
    case Event::Full:
    case Event::Died:
    case Event::WentOff: return std::nullopt;
    }
    return std::nullopt;
}

// What the displays said, as stamps.
std::vector<Mark> stampsOf(const NotebookFinding& f) {
    std::vector<Mark> all;
    for (const Entry& e : f.notes.entries) {
        if (e.bank && !e.bank->exact && !e.bank->wentOff) {
            const auto said = e.bank->leds ? lightsAt(*e.bank)
                                           : std::optional(Mark{e.at, Mark::What::Percent, e.bank->state.middle(), ""});
            if (said)
                all.push_back(*said);
        }
        if (e.bank && e.bank->left)
            all.push_back({e.at, Mark::What::Estimate, e.bank->left, ""});
        for (const Happened& h : e.happened) {
            if (const auto stamp = stampOf(h, e.at))
                all.push_back(*stamp);
        }
        if (!readsPower(e)) {
            for (const auto& [where, value] : e.celsius) {
                if (where == "bank" || (where.empty() && e.devices.empty()))
                    all.push_back({e.at, Mark::What::Temperature, value, ""});
            }
        }
        if (!e.note.empty())
            all.push_back({e.at, Mark::What::Note, {}, e.note});
    }
    return all;
}

// How long before the bank's end a counter was read last, s: what passed since is not counted. 0: at that end.
double leftOut(const NotebookFinding& f) {
    constexpr double kLittle = 0.01; // of what was counted
    if (!f.counted->counters)
        return 0.0; // readings are joined to it
    const Entry* const end = endOf(f, f.counted->to);
    const double late = end ? end->at - f.counted->to : 0.0;
    return late > kLittle * (f.counted->to - f.counted->from) ? late : 0.0;
}

// Full, empty and how it ended, where the tester wrote it in so many words before or after all that was counted.
void stateEnds(const NotebookFinding& f, StatedEnds& ends) {
    const Look *before = nullptr, *after = nullptr;
    for (const Entry& e : f.notes.entries) {
        if (e.bank && e.at <= f.counted->from)
            before = &*e.bank;
        if (e.bank && e.at >= f.counted->to)
            after = &*e.bank;
    }
    // Without a trace no stamp is looked at: what a display said then is stated as well.
    const bool any = f.counted->counters.has_value();
    if (!ends.began && before && (before->exact || any))
        ends.began = Stating{before->state};
    if (!ends.ended && leftOut(f) > 0.0)
        ends.ended = Stating{};
    if (!ends.ended && after && (after->exact || any))
        ends.ended = Stating{after->state};
    if (!ends.ended && f.notes.offEarly && !f.notes.offEarly->died) // the output went, and it was not empty
        ends.ended = Stating{};
    if (ends.ending || leftOut(f) > 0.0)
        return;
    for (const Entry& e : f.notes.entries) {
        if (e.at < f.counted->to)
            continue;
        for (const Happened& h : e.happened) {
            if (h.device) { // the only one there is: with it the load was gone
                if (f.flow == Flow::Out && f.notes.devices.size() == 1)
                    ends.ending = h.event == Event::Unplugged ? std::optional(Ending::Unplugged)
                                  : h.event == Event::Full    ? std::optional(Ending::DeviceFull)
                                                              : ends.ending;
                continue;
            }
            if (h.event == Event::Died && f.flow == Flow::Out)
                ends.ending = Ending::CutOff;
            else if (h.event == Event::Full && f.flow == Flow::In)
                ends.ending = Ending::Full;
            else if (h.event == Event::Unplugged)
                ends.ending = Ending::Unplugged;
            else if (h.event == Event::Error && f.flow == Flow::In)
                ends.ending = Ending::ChargerError;
        }
    }
}

// What the meter's counter says of the time over which its power was read, to hold the sum against.
std::optional<double> countedBeside(const NotebookFinding& f) {
    const auto& all = f.notes.entries;
    const auto first = std::ranges::find_if(all, readsPower);
    const auto last = std::find_if(all.rbegin(), all.rend(), readsPower);
    if (first == all.end() || !first->wattHours || !last->wattHours || !(*last->wattHours > *first->wattHours))
        return std::nullopt;
    return *last->wattHours - *first->wattHours;
}

// Behind what the meter says: the devices, and what else the notebook knows.
Finding joined(Finding f, Said said) {
    if (!said.sentence.empty())
        f.said.restsOn += " " + said.sentence;
    const auto isTold = [&f](const std::string& key) {
        return figure(f, key) ||
               std::ranges::any_of(f.withheld, [&](const Withheld& w) { return w.figure.key == key; });
    };
    for (Working& w : said.figures) {
        if (!isTold(w.key))
            f.figures.push_back(std::move(w));
    }
    for (Warning& w : said.warnings) {
        if (std::ranges::none_of(f.warnings, [&](const Warning& known) { return known.code == w.code; }))
            f.warnings.push_back(std::move(w));
    }
    return settled(std::move(f));
}

} // namespace

bool hasReadings(const Sheet& sheet) {
    return std::ranges::any_of(kOfMeter, [&sheet](const char* key) {
        const std::size_t column = columnAt(sheet, key);
        return std::ranges::any_of(sheet.rows,
                                   [column](const auto& row) { return column < row.size() && !row[column].empty(); });
    });
}

Kind servesAs(const Sheet& sheet) { return hasReadings(sheet) ? kindOf(findNotebook(sheet, {})) : sheet.kind; }

bool saysBegan(const Sheet& sheet) {
    const NotebookFinding f = findNotebook(sheet, {});
    return f.counted && std::ranges::any_of(f.notes.entries, [&f](const Entry& e) {
               return e.bank.has_value() && e.at <= f.counted->from;
           });
}

trace::Trace readingsOf(const Sheet& sheet) { return findNotebook(sheet, {}).readings.trace; }

std::optional<Result<Finding>> measuredIn(const Sheet& sheet, const Facts& facts, Setup setup) {
    NotebookFinding f = findNotebook(sheet, facts);
    const Kind kind = kindOf(f);
    if (kind == Kind::Notebook)
        return std::nullopt;
    if (setup.byDisplay)
        setup.point = kind == Kind::Drain ? path::Point::BankOut : path::Point::BankIn;
    const auto stamps = stampsOf(f);
    setup.marks.insert(setup.marks.end(), stamps.begin(), stamps.end());
    std::ranges::stable_sort(setup.marks, {}, &Mark::at);
    stateEnds(f, setup.ends);
    if (!f.notes.devices.empty())
        setup.device.reset(); // the notebook tells of them by itself
    auto found = [&] {
        if (f.counted->counters)
            return analyseCounters(*f.counted->counters, kind, setup);
        setup.counterWattHours = countedBeside(f);
        setup.hand = sheet.held ? trace::Between::Held : trace::Between::Joined;
        return analyse(f.readings.trace, kind, setup);
    }();
    if (!found)
        return found;
    f.toldByMeter = true;
    sayNotebook(facts, f);
    if (const double late = leftOut(f); late > 0.0)
        f.said.warnings.push_back(
            {"counted_until", say("The counter was read last {} before the end: what passed since is not counted.",
                                  showDuration(late))});
    return joined(std::move(*found), std::move(f.said));
}

} // namespace otterstone::kinds
