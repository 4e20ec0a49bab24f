#include "core/kinds/notebook/notebook.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/kinds/notebook/counting.h"
#include "core/kinds/parts.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

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
        countMeter(f_, facts_, between_);
        if (f_.counted)
            f_.counted->coversDevices =
                !unseenBy(f_.counted->to) && std::ranges::all_of(f_.sittings, [&](const Sitting& s) {
                    return s.looks.front().at >= f_.counted->from && s.looks.back().at <= f_.counted->to;
                });
    }

    const Facts& facts_;
    trace::Between between_;
    NotebookFinding f_;
};

} // namespace

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
