// What a notebook says, in words and figures. Each sentence stands on what was written down; what was not is named.
#include <algorithm>
#include <cmath>

#include "core/kinds/notebook/notebook.h"
#include "core/kinds/parts.h"
#include "core/kinds/traced/heat.h"
#include "core/label/rating.h"
#include "core/quantity/format.h"

namespace otterstone::kinds {

namespace {

// Two moments that a reader would call one.
constexpr double kOneMoment = 150.0;
constexpr double kStarvedSeconds = 1800.0;

std::string number(double points) { return showNumber(points, 3); }

// "22", "full", "25 to 50": an end of "from … to … %".
std::string bare(const Look& l) {
    return l.state.low >= 100.0             ? "full"
           : l.state.high <= 0.0 && l.exact ? "empty"
           : l.leds                         ? "between " + number(l.state.low) + " and " + number(l.state.high) + " %"
                                            : number(l.state.low) + " %";
}

// "from 22 to 80 %", "from 22 % to full".
std::string fromTo(const Look& a, const Look& b) {
    const bool plain = !a.leds && !b.leds && a.state.low < 100.0 && b.state.low < 100.0 && !a.exact && !b.exact;
    return plain ? "from " + number(a.state.low) + " to " + bare(b) : "from " + bare(a) + " to " + bare(b);
}

std::string moment(const Between& b) {
    return b.high - b.low <= kOneMoment ? "after " + showDuration(b.high)
           : b.low <= 0.0               ? "after " + showDuration(b.high) + " at the latest"
                          : "between " + showDuration(b.low) + " and " + showDuration(b.high) + " after the beginning";
}

std::string span(const Between& b) {
    return b.high - b.low <= kOneMoment ? showDuration(b.high)
           : b.low <= 0.0               ? "at most " + showDuration(b.high)
                                        : showDuration(b.low) + " to " + showDuration(b.high);
}

std::string after(double seconds) { return seconds > 0.0 ? "After " + showDuration(seconds) : "At the beginning"; }

std::string lowHigh(double low, double high) {
    const auto digits = [](double v) { return showNumber(v, v < 10.0 ? 2 : 3); };
    if (!std::isfinite(high))
        return "at least " + digits(low);
    return digits(low) == digits(high) ? digits(low) : digits(low) + " to " + digits(high);
}

class Speaker {
public:
    Speaker(const Facts& facts, NotebookFinding& f) : facts_(facts), f_(f) {}

    void speak() {
        if (f_.flow == Flow::In)
            recharge();
        else
            devices();
        energy();
        if (f_.flow == Flow::Out)
            bankByDevices();
        warn();
        // What is of the bank stands before what is of one device.
        std::ranges::stable_partition(f_.said.figures,
                                      [](const Working& w) { return w.key.find(':') == std::string::npos; });
        std::string& s = f_.said.sentence;
        s.erase(0, std::min(s.find_first_not_of(' '), s.size()));
    }

private:
    void say(const std::string& sentence) { f_.said.sentence += " " + sentence; }
    void add(Working w) { f_.said.figures.push_back(std::move(w)); }
    [[nodiscard]] const std::string& name(std::size_t device) const { return f_.notes.devices[device].name; }
    [[nodiscard]] static std::string byWay(const Sitting& s) {
        return s.way == "pad" ? " on the pad" : s.way == "wire" ? " by wire" : "";
    }
    [[nodiscard]] Measured bounded(const Between& b, const std::string& what) const {
        return between(b.low, b.high, ErrorSource::ofRun(facts_.run, "between the looks: " + what));
    }

    [[nodiscard]] std::string went(const Sitting& s) const {
        if (s.looks.size() < 2)
            return name(s.device) + " was seen once, at " + bare(s.looks.front());
        const double gained = s.charging.gained.value();
        if (gained == 0.0 && !s.looks.front().leds)
            return name(s.device) + " stayed at " + bare(s.looks.back()) + byWay(s);
        if (gained < 0.0)
            return name(s.device) + " lost " + number(-gained) + " points" + byWay(s);
        return name(s.device) + " went " + fromTo(s.looks.front(), s.looks.back()) + byWay(s);
    }

    [[nodiscard]] static bool atOnce(const Sitting& a, const Sitting& b) {
        return a.looks.size() > 1 && b.looks.size() > 1 && b.looks.front().at < a.looks.back().at &&
               a.looks.front().at < b.looks.back().at;
    }

    void devices() {
        const auto& all = f_.sittings;
        if (all.empty())
            return bankAlone();
        std::string s;
        for (std::size_t k = 0; k < all.size(); ++k) {
            const bool together = k > 0 && atOnce(all[k - 1], all[k]);
            s += k == 0 ? "" : together ? "; at the same time " : ", then ";
            s += went(all[k]);
            if (all.size() == 1 && all[k].looks.size() > 1)
                s += (all[k].charging.gained.value() == 0.0 ? " for " : " in ") + showDuration(all[k].charging.seconds);
        }
        const auto& entries = f_.notes.entries;
        if (f_.used && f_.used->ended.state.isEmpty())
            s += ", until the bank was empty";
        else if (std::ranges::any_of(entries, [](const Entry& e) { return e.bank && e.bank->state.isEmpty(); }))
            s += "; the bank was empty at the end";
        else if (f_.used)
            s += "; the bank went " + fromTo(f_.used->began, f_.used->ended);
        say(s + ".");
        for (const Sitting& sitting : all)
            detail(sitting, all.size() > 1);
        starved();
        padAndWire();
    }

    void detail(const Sitting& s, bool several) {
        const Charging& c = s.charging;
        const std::string who = name(s.device), it = several ? who : "It";
        const std::string nth = nthOf(s), key = who + nth;
        if (c.pace) {
            add(figure("points_an_hour:" + key, who + ": points an hour" + byWay(s) + nth,
                       "(" + number(c.paceTo) + " − " + number(c.paceFrom) + ") ÷ " +
                           showDuration((c.paceTo - c.paceFrom) / c.pace->value() * 3600.0),
                       *c.pace, Unit::Point, "device", "by its own display, each percent good to its last digit"));
            if (!several && c.gained.value() > 0.0 && !s.looks.front().leds)
                say("It gained " + show(*c.pace, Unit::Point) + " an hour" +
                    (c.paceTo < c.to.value() || s.full || c.stuck ? " up to " + number(c.paceTo) + " %." : "."));
        }
        for (const auto& [value, words, id] :
             {std::tuple(&c.at30, "after 30 min", "at_30_min:"), {&c.at60, "after 1 h", "at_1_h:"}}) {
            if (*value)
                add(figure(id + key, who + ": " + words + byWay(s) + nth, "", **value, Unit::Point, "device",
                           "percent of its battery, by its own display"));
        }
        if (c.to80)
            add(figure("time_to_80:" + key, who + " from " + bare(s.looks.front()) + " to 80 %" + byWay(s) + nth, "",
                       *c.to80, Unit::Second, "device", "from the looks around that moment"));
        if (c.toFull) {
            add(figure("time_to_full:" + key, who + " from " + bare(s.looks.front()) + " to full" + byWay(s) + nth,
                       "between the last look before and the first that showed it full",
                       bounded(*c.toFull, who + " full"), Unit::Second, "device"));
            if (!several || s.charging.saidLeft)
                say(it + " was full " + moment(*c.toFull) + ".");
        }
        if (c.saidLeft) {
            const SaidLeft& l = *c.saidLeft;
            say(after(l.at) + " it said " + showDuration(l.said) + " left, and it took " +
                span({std::max(l.truth.low, 0.0), l.truth.high}) + ".");
        }
        if (c.stuck)
            say(it + " stayed at " + number(c.stuck->percent) + " % for " + showDuration(c.stuck->seconds) +
                ": held, not charging.");
        if (c.slowed)
            say(it + " slowed down at " + number(c.slowed->percent) + " %, after " + showDuration(c.slowed->at) +
                (c.slowed->celsius ? ", at " + number(*c.slowed->celsius) + " °C" : "") + ": " +
                number(std::round(c.slowed->before)) + " points an hour before, " +
                number(std::round(c.slowed->after)) + " after.");
        const auto& device = f_.notes.devices[s.device];
        if (device.wattHours && c.gained.value() > 0.0)
            add(figure("stored_wh:" + key, "stored in " + who + nth,
                       number(c.gained.value()) + " % × " +
                           (device.how.empty() ? showNumber(*device.wattHours) + " Wh" : "(" + device.how + ")"),
                       c.gained * Measured(*device.wattHours / 100.0), Unit::WattHour, "the device's battery",
                       "by its own display"));
    }

    // ", 2nd time": where a device was charged more than once.
    [[nodiscard]] std::string nthOf(const Sitting& s) const {
        std::size_t n = 0, mine = 0;
        for (const Sitting& other : f_.sittings) {
            n += other.device == s.device ? 1 : 0;
            if (&other == &s)
                mine = n;
        }
        return n < 2 ? "" : ", sitting " + std::to_string(mine);
    }

    void starved() {
        for (const Sitting& poor : f_.sittings) {
            if (poor.charging.seconds < kStarvedSeconds || poor.looks.front().leds ||
                poor.charging.gained.value() > 1.0 || poor.charging.gained.value() < 0.0 ||
                poor.looks.front().state.low >= 95.0)
                continue;
            for (const Sitting& rich : f_.sittings) {
                if (rich.device != poor.device && atOnce(poor, rich) && rich.charging.gained.value() >= 10.0) {
                    say(name(poor.device) + " got next to nothing while " + name(rich.device) + " was charged.");
                    break;
                }
            }
        }
    }

    void padAndWire() {
        for (std::size_t k = 0; k < f_.notes.devices.size(); ++k) {
            const auto of = [&](const char* way) {
                return std::ranges::find_if(f_.sittings, [&](const Sitting& s) {
                    return s.device == k && s.way == way && s.charging.pace && s.charging.pace->value() > 0.0;
                });
            };
            const auto pad = of("pad"), wire = of("wire");
            if (pad == f_.sittings.end() || wire == f_.sittings.end())
                continue;
            const double common = std::min(pad->charging.paceTo, wire->charging.paceTo) -
                                  std::max(pad->charging.paceFrom, wire->charging.paceFrom);
            if (common < 10.0) {
                f_.said.warnings.push_back({"other_stretch", "Pad and wire charged " + name(k) +
                                                                 " over other percents, so they are not compared."});
                continue;
            }
            const Measured ratio = *pad->charging.pace / *wire->charging.pace;
            add(figure("pad_against_wire:" + name(k), name(k) + ": pad against wire",
                       number(pad->charging.pace->value()) + " ÷ " + number(wire->charging.pace->value()) +
                           " points an hour",
                       ratio, Unit::Share, "device"));
            say("On the pad " + name(k) + " charges " + show(ratio, Unit::Share) + " as fast as by wire.");
            costOf(*pad, *wire);
        }
    }

    // Points of the bank for a point of the device, either way: both looked at in the rows that begin and end it.
    void costOf(const Sitting& pad, const Sitting& wire) {
        const auto cost = [&](const Sitting& s) -> std::optional<Measured> {
            const auto bankAt = [&](std::size_t row) -> const Look* {
                for (const Entry& e : f_.notes.entries) {
                    if (e.row == row && e.bank)
                        return &*e.bank;
                }
                return nullptr;
            };
            const Look *a = bankAt(s.looks.front().row), *b = bankAt(s.looks.back().row);
            if (!a || !b || a->state.middle() <= b->state.middle())
                return std::nullopt;
            return (stateOf(*a, facts_.run, "the bank") - stateOf(*b, facts_.run, "the bank")) / s.charging.gained;
        };
        const auto byPad = cost(pad), byWire = cost(wire);
        if (!byPad || !byWire)
            return;
        const Measured more = *byPad / *byWire;
        add(figure("pad_costs:" + name(pad.device), name(pad.device) + ": of the bank, pad against wire",
                   showNumber(byPad->value(), 3) + " ÷ " + showNumber(byWire->value(), 3) +
                       " points of the bank for a point of the device",
                   more, Unit::None, "device", "both displays taken as good to their last digit"));
        say("For the same charge the pad takes " + show(more, Unit::None) + " times as much of the bank.");
    }

    void bankAlone() {
        if (f_.flow != Flow::Out || !f_.bank || f_.bank->gained.value() >= 0.0)
            return;
        if (f_.used)
            say("The bank went " + fromTo(f_.used->began, f_.used->ended) + " in " + showDuration(f_.bank->seconds) +
                ".");
    }

    void recharge() {
        std::vector<Look> looks;
        for (const Entry& e : f_.notes.entries) {
            if (e.bank)
                looks.push_back(*e.bank);
        }
        if (looks.size() < 2)
            return; // what flowed is told by who counted it
        const Charging& c = *f_.bank;
        const std::string start = bare(looks.front());
        if (c.toFull) {
            say("It went from " + start + " to full in " + span(*c.toFull) + ".");
            add(figure("time_to_100", "time from " + start + " to full",
                       "between the last look before and the first that showed it full",
                       bounded(*c.toFull, "the bank full"), Unit::Second, "bank in",
                       "by the bank's own display or LEDs"));
        } else {
            say("It went " + fromTo(looks.front(), looks.back()) + " in " + showDuration(c.seconds) + ".");
        }
        if (c.to80)
            add(figure("time_to_80", "time from " + start + " to 80 %", "", *c.to80, Unit::Second, "bank in",
                       "by the bank's own display or LEDs"));
        if (c.pace && !looks.front().leds)
            add(figure("points_an_hour", "points an hour",
                       "(" + number(c.paceTo) + " − " + number(c.paceFrom) + ") ÷ " +
                           showDuration((c.paceTo - c.paceFrom) / c.pace->value() * 3600.0),
                       *c.pace, Unit::Point, "bank in", "by its own display"));
        if (c.saidLeft)
            say(after(c.saidLeft->at) + " its display said " + showDuration(c.saidLeft->said) + " left, and it took " +
                span({std::max(c.saidLeft->truth.low, 0.0), c.saidLeft->truth.high}) + ".");
        for (const auto& [at, seconds] : f_.stops)
            say("Nothing went in for " + showDuration(seconds) + " after " + showDuration(at) + ".");
        if (c.stuck)
            say("Its display stayed at " + number(c.stuck->percent) + " % for " + showDuration(c.stuck->seconds) + ".");
    }

    void energy() {
        if (f_.counted) {
            const Counted& n = *f_.counted;
            Working w =
                figure("energy_wh", "energy at the meter", n.formula, n.wattHours, Unit::WattHour, "meter", n.note);
            w.partialDoubt = !n.doubtKnown;
            say(w.shown() +
                (f_.flow == Flow::In    ? " went into the bank"
                 : f_.flow == Flow::Out ? " came out"
                                        : " flowed") +
                " in " + showDuration(n.seconds) + ".");
            if (f_.stored && f_.flow == Flow::Out && covers()) {
                Working t =
                    figure("transfer", "port to device",
                           showValue(*f_.stored, Unit::WattHour) + " ÷ " + showValue(n.wattHours, Unit::WattHour),
                           *f_.stored / n.wattHours, Unit::Share, "meter to the device's battery",
                           "what the devices stored of what passed the meter");
                t.partialDoubt = w.partialDoubt;
                if (t.value.value() <= 1.0)
                    add(std::move(t));
                else
                    f_.said.warnings.push_back({"more_stored",
                                                "The devices stored more than passed the meter: a battery, a percent "
                                                "or the counter is wrong, so no transfer is told."});
            }
            add(std::move(w));
        }
        steps();
    }

    // The meter was read from before the first device took anything until after the last did.
    [[nodiscard]] bool covers() const {
        double from = HUGE_VAL, to = -HUGE_VAL;
        for (const Entry& e : f_.notes.entries) {
            if (e.wattHours || !e.watts.empty() || (!e.volts.empty() && !e.amps.empty())) {
                from = std::min(from, e.at);
                to = std::max(to, e.at);
            }
        }
        return std::ranges::all_of(f_.sittings, [&](const Sitting& s) {
            return s.charging.gained.value() <= 0.0 || (s.looks.front().at >= from && s.looks.back().at <= to);
        });
    }

    void steps() {
        std::string all;
        const Entry* before = nullptr;
        std::size_t n = 0;
        for (const Entry& e : f_.notes.entries) {
            if (!e.wattHours)
                continue;
            if (before && e.at > before->at && *e.wattHours >= *before->wattHours) {
                const double wh = *e.wattHours - *before->wattHours;
                all += (all.empty() ? "" : "; ") + std::string("until ") + showDuration(e.at) + " " +
                       showNumber(wh, 4) + " Wh, " + showNumber(wh / (e.at - before->at) * 3600.0, 3) + " W";
                ++n;
            }
            before = &e;
        }
        if (n < 2)
            return;
        Working w = remark("the counter, step by step", all);
        w.key = "counter_steps";
        add(std::move(w));
    }

    void bankByDevices() {
        const auto rating = label::ratedEnergy(facts_.label);
        if (f_.taken.size() > 1 && f_.stored)
            add(figure("stored_wh", "stored in all devices", "sum of what each stored", *f_.stored, Unit::WattHour,
                       "the devices' batteries", "by their own displays"));
        if (f_.taken.size() == 1) {
            const Taken& t = f_.taken.front();
            add(figure("charges", "charges of " + name(t.device), number(t.points.value()) + " points ÷ 100",
                       t.points * Measured(0.01), Unit::None, "device",
                       t.complete > 0 ? counted(t.complete, "complete one among them", "complete ones among them")
                                      : ""));
        }
        if (f_.perBank && f_.used->whole()) {
            say("From full to empty the bank charged " + f_.perBank->name + " " +
                show(f_.perBank->points * Measured(0.01), Unit::None) + " times.");
            addPerBank("as it was charged from the full bank until that was empty");
        } else if (f_.perBank) {
            const bool leds = f_.used->began.leds || f_.used->ended.leds;
            say("By its " + std::string(leds ? "LEDs" : "display") + " the full bank charges " + f_.perBank->name +
                " " + lowHigh(f_.perBank->low, f_.perBank->high) + " times.");
            addPerBank(std::string("by the bank's ") + (leds ? "LEDs" : "display") +
                       ", which bounds it from both sides");
        }
        if (!f_.stored || !f_.used || !rating)
            return;
        const double rated = rating->energy.value;
        const bool whole = f_.used->whole();
        if (!whole && f_.used->low <= 0.0)
            return;
        const double least = f_.stored->value() / (rated * (whole ? 1.0 : f_.used->high / 100.0)),
                     most = f_.stored->value() / (rated * (whole ? 1.0 : f_.used->low / 100.0));
        if (least > 1.0) {
            f_.said.warnings.push_back({"more_arrived",
                                        "More arrived than the label says it holds: a battery, a percent or the "
                                        "label is wrong, so no share is told."});
            return;
        }
        const std::string note = rating->printed ? "of the printed Wh" : "of the rated Wh";
        if (whole) {
            const Measured share = *f_.stored / Measured(rated);
            add(figure("arrived_share", "arrived in the devices' batteries",
                       showValue(*f_.stored, Unit::WattHour) + " ÷ " + showNumber(rated) + " Wh", share, Unit::Share,
                       "the devices' batteries", note));
            say(show(*f_.stored, Unit::WattHour) + " arrived in their batteries, " + show(share, Unit::Share) +
                " of the " + (rating->printed ? "printed " : "rated ") + showNumber(rated) + " Wh.");
        } else {
            add(figure("arrived_share", "arrived in the devices' batteries",
                       showValue(*f_.stored, Unit::WattHour) + " ÷ (" + number(f_.used->low) + " to " +
                           number(f_.used->high) + " % of " + showNumber(rated) + " Wh)",
                       bounds(least, std::min(most, 1.0)), Unit::Share, "the devices' batteries",
                       note + " that the bank's own display says it gave; it bounds it from both sides"));
        }
    }

    // Both ends as its interval.
    [[nodiscard]] Measured bounds(double low, double high) const {
        return Measured((low + high) / 2.0, (high - low) / 4.0, ErrorSource::ofRun(facts_.run, "the bank's display"));
    }

    void addPerBank(std::string note) {
        const auto& p = *f_.perBank;
        if (!std::isfinite(p.high))
            return;
        add(figure("charges_per_bank", "charges of " + p.name + " from the full bank",
                   number(p.points.value()) + " points of the device for " +
                       (f_.used->whole() ? std::string("all")
                                         : number(f_.used->low) + " to " + number(f_.used->high) + " points") +
                       " of the bank",
                   bounds(p.low, p.high), Unit::None, "device", std::move(note)));
    }

    void warn() {
        auto& warnings = f_.said.warnings;
        if (f_.flow == Flow::Out && !f_.taken.empty() && f_.bankStood)
            warnings.push_back({"bank_stood",
                                "The bank's display did not go down all the while, so what it charges in all "
                                "cannot be told."});
        else if (f_.flow == Flow::Out && !f_.taken.empty() && !f_.used)
            warnings.push_back(
                {"bank_not_read",
                 "How full the bank was before the first device and after the last was not written down, so what it "
                 "charges in all cannot be told."});
        double hottest = 0.0;
        for (const Entry& e : f_.notes.entries) {
            for (const auto& [where, value] : e.celsius)
                hottest = std::max(hottest, value);
        }
        if (hottest > kHeldSurfaceCelsius)
            warnings.push_back({"hot_surface", "A surface reached " + number(hottest) +
                                                   " °C; one held for a minute or longer should stay below " +
                                                   showNumber(kHeldSurfaceCelsius) +
                                                   " °C (IEC 62368-1, from memory)."});
        const bool charge =
            std::ranges::any_of(f_.notes.entries, [](const Entry& e) { return e.milliampHours.has_value(); });
        if (charge && !f_.counted)
            warnings.push_back({"no_volts", "mAh without the volts they were counted at are no energy: none is told."});
        if (f_.flow == Flow::In && f_.bank && f_.bank->toFull && f_.bank->from.value() > records::State::kEmpty) {
            const double least = f_.bank->from.value() - f_.bank->from.expanded();
            warnings.push_back(
                {"not_from_empty", std::string(least > records::State::kEmpty ? "It did not begin empty"
                                                                              : "It is not known that it began empty") +
                                       ", so its time is not held against a claim from empty to full."});
        }
    }

    const Facts& facts_;
    NotebookFinding& f_;
};

} // namespace

void sayNotebook(const Facts& facts, NotebookFinding& f) { Speaker(facts, f).speak(); }

} // namespace otterstone::kinds
