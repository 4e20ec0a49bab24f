// What a notebook says of its devices.
#include "core/kinds/notebook/words.h"
#include "core/label/rating.h"
#include "core/quantity/line.h"
#include "core/quantity/parse.h"
#include "core/quantity/repeats.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kStarvedSeconds = 1800.0;
constexpr double kSameStretch = 10.0; // points that two charges must have in common to be compared

class DeviceSpeaker : public Speaker {
public:
    using Speaker::Speaker;
    std::vector<Working> devices() {
        const auto& all = f_.sittings;
        std::string s;
        for (std::size_t k = 0; k < all.size(); ++k) {
            const bool together = std::any_of(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(k),
                                              [&](const Sitting& before) { return atOnce(before, all[k]); });
            s += k == 0 ? "" : together ? "; at the same time " : ", then ";
            s += went(all[k]);
            const auto& full = all[k].charging.toFull;
            const bool lasted = !full || full->high - full->low <= kOneMoment; // else it is told when it was full
            if (all.size() == 1 && all[k].looks.size() > 1 && lasted)
                s += (all[k].charging.gained.value() == 0.0 ? " for " : " in ") + showDuration(all[k].charging.seconds);
        }
        const auto& entries = f_.notes.entries;
        const auto last =
            std::find_if(entries.rbegin(), entries.rend(), [](const Entry& e) { return e.bank.has_value(); });
        if (f_.used && f_.used->ended.state.isEmpty())
            s += ", until the bank was empty";
        else if (last != entries.rend() && last->bank->state.isEmpty())
            s += "; the bank was empty at the end";
        else if (f_.notes.wentOff || f_.notes.offEarly)
            s += "; in the end the bank went off";
        else if (f_.used)
            s += "; the bank went " + fromTo(f_.used->began, f_.used->ended);
        bankSaid_ = s.find("the bank") != std::string::npos; // "it" would be the bank, then
        say(s + ".");
        for (const Sitting& sitting : all)
            detail(sitting, all.size() > 1);
        starved();
        repeats();
        padAndWire();
        for (const Sitting& sitting : all) {
            reaches(sitting);
            slowedByHeat(sitting);
        }
        return std::move(figures_);
    }

private:
    void add(Working w) { figures_.push_back(std::move(w)); }
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
    [[nodiscard]] static std::string byWay(const Sitting& s) {
        return s.way == "pad" ? " on the pad" : s.way == "wire" ? " by wire" : "";
    }

    void detail(const Sitting& s, bool several) {
        const Charging& c = s.charging;
        const std::string who = name(s.device), it = several || bankSaid_ ? who : "It";
        const std::string nth = nthOf(s), key = who + nth;
        if (c.pace) {
            add(figure("points_an_hour:" + key, who + ": points an hour" + byWay(s) + nth,
                       "(" + number(c.paceTo) + " − " + number(c.paceFrom) + ") ÷ " +
                           showDuration((c.paceTo - c.paceFrom) / c.pace->value() * 3600.0),
                       *c.pace, Unit::Point, "device", "by its own display, each percent good to its last digit"));
            if (!several && c.gained.value() > 0.0 && !s.looks.front().leds)
                say(it + " gained " + show(*c.pace, Unit::Point) + " an hour" +
                    (c.paceTo < c.to.value() || s.full || c.stuck ? " up to " + number(c.paceTo) + " %." : "."));
        }
        for (const auto& [value, words, id] :
             {std::tuple(&c.at30, "after 30 min", "at_30_min:"), {&c.at60, "after 1 h", "at_1_h:"}}) {
            if (*value)
                add(figure(id + key, otterstone::say("{}: {}{}{}", who, words, byWay(s), nth), "", **value, Unit::Point,
                           "device", "percent of its battery, by its own display"));
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
            say(after(l.at) + " " + (it == "It" ? "it" : who) + " said " + showDuration(l.said) +
                " left, and it took " + span({std::max(l.truth.low, 0.0), l.truth.high}) + ".");
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

    // ", sitting 2": where a device was charged more than once.
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

    // Charges of one device the same way over the same percents: their mean (D18).
    void repeats() {
        for (std::size_t k = 0; k < f_.notes.devices.size(); ++k) {
            for (const char* way : {"", "wire", "pad"}) {
                std::vector<Measured> paces;
                double from = 0.0, to = 100.0;
                for (const Sitting& s : f_.sittings) {
                    if (s.device != k || s.way != way || !s.charging.pace || s.charging.pace->value() <= 0.0)
                        continue;
                    paces.push_back(*s.charging.pace);
                    from = std::max(from, s.charging.paceFrom);
                    to = std::min(to, s.charging.paceTo);
                }
                if (paces.size() < 2 || to - from < kSameStretch)
                    continue;
                const Measured pooled = otterstone::repeats(paces, ErrorSource::scatterOf(facts_.run)).mean;
                const std::string words =
                    *way ? std::string(way == std::string_view("pad") ? " on the pad" : " by wire") : "";
                add(figure("points_an_hour_mean:" + name(k) + (*way ? std::string(", ") + way : ""),
                           name(k) + ": points an hour" + words + ", mean",
                           "mean of " + std::to_string(paces.size()) + " charges", pooled, Unit::Point, "device",
                           "by their scatter"));
                say(counted(paces.size(), "charge", "charges") + " of " + name(k) + words + " gained " +
                    show(pooled, Unit::Point) + " an hour in the mean.");
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
            if (pad != f_.sittings.end() && wire == f_.sittings.end())
                f_.said.warnings.push_back(
                    {"no_wire", "The same charge of " + name(k) + " by wire would show what the pad costs."});
            if (pad == f_.sittings.end() || wire == f_.sittings.end())
                continue;
            const double common = std::min(pad->charging.paceTo, wire->charging.paceTo) -
                                  std::max(pad->charging.paceFrom, wire->charging.paceFrom);
            if (common < kSameStretch) {
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
        const auto cost = [this](const Sitting& s) {
            const auto given = givenFor(s);
            return given ? std::optional(*given / s.charging.gained) : std::nullopt;
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

    // Points of the bank while it charged this alone: looked at in the rows that begin and end it.
    [[nodiscard]] std::optional<Measured> givenFor(const Sitting& s) const {
        const auto bankAt = [&](std::size_t row) -> const Look* {
            for (const Entry& e : f_.notes.entries) {
                if (e.row == row && e.bank)
                    return &*e.bank;
            }
            return nullptr;
        };
        const Look *a = bankAt(s.looks.front().row), *b = bankAt(s.looks.back().row);
        const bool alone =
            std::ranges::none_of(f_.sittings, [&s](const Sitting& other) { return &other != &s && atOnce(other, s); });
        if (!alone || !a || !b || a->state.middle() <= b->state.middle())
            return std::nullopt;
        return stateOf(*a, facts_.run, "the bank") - stateOf(*b, facts_.run, "the bank");
    }

    // What the battery stored of what the bank's display says it gave, where it is told which way it was charged.
    void reaches(const Sitting& s) {
        const auto& device = f_.notes.devices[s.device];
        const auto given = givenFor(s);
        const auto rating = label::ratedEnergy(facts_.label);
        if ((s.way != "pad" && s.way != "wire") || !given || !rating || !device.wattHours ||
            s.charging.gained.value() <= 0.0)
            return;
        const Measured share =
            s.charging.gained * Measured(*device.wattHours) / (*given * Measured(rating->energy.value));
        if (share.value() > 1.0)
            return;
        add(figure(s.way + "_transfer:" + device.name + nthOf(s), "reaches " + device.name + byWay(s) + nthOf(s),
                   number(s.charging.gained.value()) + " points × " + showNumber(*device.wattHours) + " Wh ÷ (" +
                       number(given->value()) + " points × " + showNumber(rating->energy.value) + " Wh)",
                   share, Unit::Share, "the device's battery",
                   "by the displays of both, each taken as good to its last digit; a meter at the port says more"));
    }

    // Watts that fall as its back warms: the slope of the line through the rows that have both.
    void slowedByHeat(const Sitting& s) {
        std::vector<double> celsius, watts;
        for (const Entry& e : f_.notes.entries) {
            const auto& look = e.devices[s.device];
            const auto w = parseNumber(e.watts);
            const bool mine = look && e.at >= s.looks.front().at && e.at <= s.looks.back().at;
            if (!mine || !look->celsius || e.watts.empty() || !w)
                continue;
            celsius.push_back(*look->celsius);
            watts.push_back(*w);
        }
        const auto line = celsius.size() >= 3 ? fitLine(celsius, watts) : std::nullopt;
        if (!line)
            return;
        const Measured slope(line->slope, line->uSlope, ErrorSource::ofRun(facts_.run, "scatter of the readings"),
                             line->dof);
        if (slope.value() + slope.expanded() >= 0.0)
            return;
        say("As it warms, " + name(s.device) + " takes " + showNumber(-slope.value() * 10.0, 2) +
            " W less for every 10 K.");
        add(figure("watts_per_kelvin:" + name(s.device) + nthOf(s), name(s.device) + ": watts per kelvin" + nthOf(s),
                   "slope of watts over °C", slope, Unit::Watt, "device"));
    }

    std::vector<Working> figures_;
    bool bankSaid_ = false;
};

} // namespace

std::vector<Working> sayDevices(const Facts& facts, NotebookFinding& f) { return DeviceSpeaker(facts, f).devices(); }

} // namespace otterstone::kinds
