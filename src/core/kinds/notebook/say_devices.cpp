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
            s += k == 0 ? "" : together ? otterstone::say("; at the same time ") : otterstone::say(", then ");
            s += went(all[k]);
            const auto& full = all[k].charging.toFull;
            const bool lasted = !full || full->high - full->low <= kOneMoment; // else it is told when it was full
            if (all.size() == 1 && all[k].looks.size() > 1 && lasted)
                s += all[k].charging.gained.value() == 0.0
                         ? otterstone::say(" for {}", showDuration(all[k].charging.seconds))
                         : otterstone::say(" in {}", showDuration(all[k].charging.seconds));
        }
        const auto& entries = f_.notes.entries;
        const auto last =
            std::find_if(entries.rbegin(), entries.rend(), [](const Entry& e) { return e.bank.has_value(); });
        bankSaid_ = true; // "it" would be the bank, then
        if (f_.used && f_.used->ended.state.isEmpty())
            s = otterstone::say("{}, until the bank was empty", s);
        else if (last != entries.rend() && last->bank->state.isEmpty())
            s = otterstone::say("{}; the bank was empty at the end", s);
        else if (f_.notes.wentOff || f_.notes.offEarly)
            s = otterstone::say("{}; in the end the bank went off", s);
        else if (f_.used)
            s = otterstone::say("{}; the bank went {}", s, fromTo(f_.used->began, f_.used->ended));
        else
            bankSaid_ = false;
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
            return otterstone::say("{} was seen once, at {}", name(s.device), bare(s.looks.front()));
        const double gained = s.charging.gained.value();
        if (gained == 0.0 && !s.looks.front().leds)
            return otterstone::say("{} stayed at {}{}", name(s.device), bare(s.looks.back()), byWay(s));
        if (gained < 0.0)
            return otterstone::say("{} lost {} points{}", name(s.device), number(-gained), byWay(s));
        return otterstone::say("{} went {}{}", name(s.device), fromTo(s.looks.front(), s.looks.back()), byWay(s));
    }
    [[nodiscard]] static std::string byWay(const Sitting& s) {
        return s.way == "pad" ? otterstone::say(" on the pad") : s.way == "wire" ? otterstone::say(" by wire") : "";
    }

    void detail(const Sitting& s, bool several) {
        const Charging& c = s.charging;
        const std::string who = name(s.device), it = several || bankSaid_ ? who : otterstone::say("It"),
                          within = several || bankSaid_ ? who : otterstone::say("it");
        const std::string nth = nthOf(s), key = who + nth;
        if (c.pace) {
            add(figure("points_an_hour:" + key, otterstone::say("{}: points an hour{}{}", who, byWay(s), nth),
                       "(" + number(c.paceTo) + " − " + number(c.paceFrom) + ") ÷ " +
                           showDuration((c.paceTo - c.paceFrom) / c.pace->value() * 3600.0),
                       *c.pace, Unit::Point, "device", "by its own display, each percent good to its last digit"));
            if (!several && c.gained.value() > 0.0 && !s.looks.front().leds)
                say(otterstone::say("{} gained {} an hour{}", it, show(*c.pace, Unit::Point),
                                    (c.paceTo < c.to.value() || s.full || c.stuck
                                         ? otterstone::say(" up to {} %.", number(c.paceTo))
                                         : ".")));
        }
        for (const auto& [value, words, id] :
             {std::tuple(&c.at30, "after 30 min", "at_30_min:"), {&c.at60, "after 1 h", "at_1_h:"}}) {
            if (*value)
                add(figure(id + key, otterstone::say("{}: {}{}{}", who, sayAsItStands(words), byWay(s), nth), "",
                           **value, Unit::Point, "device", "percent of its battery, by its own display"));
        }
        if (c.to80)
            add(figure("time_to_80:" + key,
                       otterstone::say("{} from {} to 80 %{}{}", who, bare(s.looks.front()), byWay(s), nth), "",
                       *c.to80, Unit::Second, "device", "from the looks around that moment"));
        if (c.toFull) {
            add(figure("time_to_full:" + key,
                       otterstone::say("{} from {} to full{}{}", who, bare(s.looks.front()), byWay(s), nth),
                       "between the last look before and the first that showed it full",
                       bounded(*c.toFull, otterstone::say("{} full", who)), Unit::Second, "device"));
            if (!several || s.charging.saidLeft)
                say(otterstone::say("{} was full {}.", it, moment(*c.toFull)));
        }
        if (c.saidLeft) {
            const SaidLeft& l = *c.saidLeft;
            say(otterstone::say("{} {} said {} left, and it took {}.", after(l.at), within, showDuration(l.said),
                                span({std::max(l.truth.low, 0.0), l.truth.high})));
        }
        if (c.stuck)
            say(otterstone::say("{} stayed at {} % for {}: held, not charging.", it, number(c.stuck->percent),
                                showDuration(c.stuck->seconds)));
        if (c.slowed)
            say(otterstone::say("{} slowed down at {} %, after {}{}: {} points an hour before, {} after.", it,
                                number(c.slowed->percent), showDuration(c.slowed->at),
                                (c.slowed->celsius ? otterstone::say(", at {} °C", number(*c.slowed->celsius)) : ""),
                                number(std::round(c.slowed->before)), number(std::round(c.slowed->after))));
        const auto& device = f_.notes.devices[s.device];
        if (device.wattHours && c.gained.value() > 0.0)
            add(figure("stored_wh:" + key, otterstone::say("stored in {}{}", who, nth),
                       number(c.gained.value()) + " % × " +
                           (device.how.empty() ? otterstone::say("{} Wh", showNumber(*device.wattHours))
                                               : "(" + device.how + ")"),
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
        return n < 2 ? "" : otterstone::say(", sitting {}", std::to_string(mine));
    }

    void starved() {
        for (const Sitting& poor : f_.sittings) {
            if (poor.charging.seconds < kStarvedSeconds || poor.looks.front().leds ||
                poor.charging.gained.value() > 1.0 || poor.charging.gained.value() < 0.0 ||
                poor.looks.front().state.low >= 95.0)
                continue;
            for (const Sitting& rich : f_.sittings) {
                if (rich.device != poor.device && atOnce(poor, rich) && rich.charging.gained.value() >= 10.0) {
                    say(otterstone::say("{} got next to nothing while {} was charged.", name(poor.device),
                                        name(rich.device)));
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
                    *way ? std::string(way == std::string_view("pad") ? otterstone::say(" on the pad")
                                                                      : otterstone::say(" by wire"))
                         : "";
                add(figure("points_an_hour_mean:" + name(k) + (*way ? std::string(", ") + way : ""),
                           otterstone::say("{}: points an hour{}, mean", name(k), words),
                           otterstone::say("mean of {} charges", std::to_string(paces.size())), pooled, Unit::Point,
                           "device", "by their scatter"));
                say(otterstone::say("{} of {}{} gained {} an hour in the mean.",
                                    counted(paces.size(), "charge", "charges"), name(k), words,
                                    show(pooled, Unit::Point)));
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
                    {"no_wire",
                     otterstone::say("The same charge of {} by wire would show what the pad costs.", name(k))});
            if (pad == f_.sittings.end() || wire == f_.sittings.end())
                continue;
            const double common = std::min(pad->charging.paceTo, wire->charging.paceTo) -
                                  std::max(pad->charging.paceFrom, wire->charging.paceFrom);
            if (common < kSameStretch) {
                f_.said.warnings.push_back(
                    {"other_stretch",
                     otterstone::say("Pad and wire charged {} over other percents, so they are not compared.",
                                     name(k))});
                continue;
            }
            const Measured ratio = *pad->charging.pace / *wire->charging.pace;
            add(figure("pad_against_wire:" + name(k), otterstone::say("{}: pad against wire", name(k)),
                       otterstone::say("{} ÷ {} points an hour", number(pad->charging.pace->value()),
                                       number(wire->charging.pace->value())),
                       ratio, Unit::Share, "device"));
            say(otterstone::say("On the pad {} charges {} as fast as by wire.", name(k), show(ratio, Unit::Share)));
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
        add(figure("pad_costs:" + name(pad.device),
                   otterstone::say("{}: of the bank, pad against wire", name(pad.device)),
                   otterstone::say("{} ÷ {} points of the bank for a point of the device",
                                   showNumber(byPad->value(), 3), showNumber(byWire->value(), 3)),
                   more, Unit::None, "device", "both displays taken as good to their last digit"));
        say(otterstone::say("For the same charge the pad takes {} times as much of the bank.", show(more, Unit::None)));
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
        add(figure(s.way + "_transfer:" + device.name + nthOf(s),
                   otterstone::say("reaches {}{}{}", device.name, byWay(s), nthOf(s)),
                   otterstone::say("{} points × {} Wh ÷ ({} points × {} Wh)", number(s.charging.gained.value()),
                                   showNumber(*device.wattHours), number(given->value()),
                                   showNumber(rating->energy.value)),
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
        say(otterstone::say("As it warms, {} takes {} W less for every 10 K.", name(s.device),
                            showNumber(-slope.value() * 10.0, 2)));
        add(figure("watts_per_kelvin:" + name(s.device) + nthOf(s),
                   otterstone::say("{}: watts per kelvin{}", name(s.device), nthOf(s)), "slope of watts over °C", slope,
                   Unit::Watt, "device"));
    }

    std::vector<Working> figures_;
    bool bankSaid_ = false;
};

} // namespace

std::vector<Working> sayDevices(const Facts& facts, NotebookFinding& f) { return DeviceSpeaker(facts, f).devices(); }

} // namespace otterstone::kinds
