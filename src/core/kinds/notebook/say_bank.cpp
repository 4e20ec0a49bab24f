// What a notebook says of the bank: a recharge without a meter, energy that was counted, what it charges in all.
#include "core/kinds/figure_keys.h"
#include "core/kinds/notebook/words.h"
#include "core/label/rating.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

class BankSpeaker : public Speaker {
public:
    using Speaker::Speaker;
    void bankAlone() {
        if (f_.flow != Flow::Out || !f_.bank || f_.bank->gained.value() >= 0.0)
            return;
        if (f_.used)
            say(otterstone::say("The bank went {} in {}.", fromTo(f_.used->began, f_.used->ended),
                                showDuration(f_.bank->seconds)));
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
            say(otterstone::say("It went from {} to full in {}.", start, span(*c.toFull)));
            add(figure(key::timeTo100, otterstone::say("time from {} to full", start),
                       "between the last look before and the first that showed it full",
                       bounded(*c.toFull, "the bank full"), Unit::Second, "bank in",
                       "by the bank's own display or LEDs"));
        } else {
            say(otterstone::say("It went {} in {}.", fromTo(looks.front(), looks.back()), showDuration(c.seconds)));
        }
        if (c.to80)
            add(figure(key::timeTo80, otterstone::say("time from {} to 80 %", start), "", *c.to80, Unit::Second,
                       "bank in", "by the bank's own display or LEDs"));
        if (c.pace && !looks.front().leds && f_.stops.empty())
            add(figure(key::pointsAnHour, "points an hour",
                       "(" + number(c.paceTo) + " − " + number(c.paceFrom) + ") ÷ " +
                           showDuration((c.paceTo - c.paceFrom) / c.pace->value() * 3600.0),
                       *c.pace, Unit::Point, "bank in", "by its own display"));
        if (c.saidLeft)
            say(otterstone::say("{} its display said {} left, and it took {}.", after(c.saidLeft->at),
                                showDuration(c.saidLeft->said),
                                span({std::max(c.saidLeft->truth.low, 0.0), c.saidLeft->truth.high})));
        for (const auto& stop : f_.stops)
            say(otterstone::say("Nothing went in for {} after {}.",
                                span({stop.until - stop.began.high, stop.until - stop.began.low}), span(stop.began)));
        if (c.stuck)
            say(otterstone::say("Its display stayed at {} % for {}.", number(c.stuck->percent),
                                showDuration(c.stuck->seconds)));
    }

    void energy() {
        if (f_.counted) {
            const Counted& n = *f_.counted;
            Working w =
                figure(key::energyWh, "energy at the meter", n.formula, n.wattHours, Unit::WattHour, "meter", n.note);
            w.partialDoubt = !n.doubtKnown && !mostlyKnown(n.wattHours);
            if (!f_.toldByMeter)
                say(w.shown() +
                    (f_.flow == Flow::In    ? otterstone::say(" went into the bank")
                     : f_.flow == Flow::Out ? otterstone::say(" came out")
                                            : otterstone::say(" flowed")) +
                    (n.to > n.from ? otterstone::say(" in {}", showDuration(n.to - n.from)) : std::string()) + ".");
            if (f_.stored && f_.flow == Flow::Out && n.coversDevices) {
                Working t =
                    figure(key::transfer, "port to device",
                           showValue(*f_.stored, Unit::WattHour) + " ÷ " + showValue(n.wattHours, Unit::WattHour),
                           *f_.stored / n.wattHours, Unit::Share, "meter to the device's battery",
                           "what the devices stored of what passed the meter");
                t.partialDoubt = w.partialDoubt;
                if (t.value.value() <= 1.0)
                    add(std::move(t));
                else
                    f_.said.warnings.push_back(
                        {"more_stored",
                         otterstone::say(
                             "The devices stored more than passed the meter: a battery, a percent or the counter is wrong, so no transfer is told.")});
            }
            if (!f_.toldByMeter)
                add(std::move(w));
        }
        steps();
    }

    void bankByDevices() {
        const auto rating = label::ratedEnergy(facts_.label);
        if (f_.taken.size() > 1 && f_.stored)
            add(figure(key::storedWh, "stored in all devices", "sum of what each stored", *f_.stored, Unit::WattHour,
                       "the devices' batteries", "by their own displays"));
        if (f_.taken.size() == 1) {
            const Taken& t = f_.taken.front();
            add(figure("charges", otterstone::say("charges of {}", name(t.device)),
                       otterstone::say("{} points ÷ 100", number(t.points.value())), t.points * Measured(0.01),
                       Unit::None, "device",
                       t.complete > 0 ? counted(t.complete, "complete one among them", "complete ones among them")
                                      : ""));
        }
        if (f_.perBank && f_.used->whole()) {
            say(otterstone::say("From full to empty the bank charged {} {} times.", f_.perBank->name,
                                show(f_.perBank->points * Measured(0.01), Unit::None)));
            addPerBank(otterstone::say("as it was charged from the full bank until that was empty"));
        } else if (f_.perBank) {
            const bool leds = f_.used->began.leds || (f_.used->ended.leds && !f_.used->ended.wentOff);
            const std::string times = lowHigh(f_.perBank->low, f_.perBank->high);
            say(leds ? otterstone::say("By its LEDs the full bank charges {} {} times.", f_.perBank->name, times)
                     : otterstone::say("By its display the full bank charges {} {} times.", f_.perBank->name, times));
            addPerBank(leds ? otterstone::say("by the bank's LEDs, which bounds it from both sides")
                            : otterstone::say("by the bank's display, which bounds it from both sides"));
        }
        if (!f_.stored || !f_.used || f_.unseen || !rating)
            return;
        const double rated = rating->energy.value;
        const bool whole = f_.used->whole();
        if (!whole && f_.used->low <= 0.0)
            return;
        const double least = f_.stored->value() / (rated * (whole ? 1.0 : f_.used->high / 100.0)),
                     most = f_.stored->value() / (rated * (whole ? 1.0 : f_.used->low / 100.0));
        if (least > 1.0) {
            f_.said.warnings.push_back(
                {"more_arrived",
                 otterstone::say(
                     "More arrived than the label says it holds: a battery, a percent or the label is wrong, so no share is told.")});
            return;
        }
        const std::string note =
            rating->printed ? otterstone::say("of the printed Wh") : otterstone::say("of the rated Wh");
        if (whole) {
            const Measured share = *f_.stored / Measured(rated);
            add(figure(key::arrivedShare, "arrived in the devices' batteries",
                       otterstone::say("{} ÷ {} Wh", showValue(*f_.stored, Unit::WattHour), showNumber(rated)), share,
                       Unit::Share, "the devices' batteries", note));
            const std::string stored = show(*f_.stored, Unit::WattHour), part = show(share, Unit::Share);
            say(rating->printed ? otterstone::say("{} arrived in their batteries, {} of the printed {} Wh.", stored,
                                                  part, showNumber(rated))
                                : otterstone::say("{} arrived in their batteries, {} of the rated {} Wh.", stored, part,
                                                  showNumber(rated)));
        } else {
            add(figure(
                key::arrivedShare, "arrived in the devices' batteries",
                otterstone::say("{} ÷ ({} to {} % of {} Wh)", showValue(*f_.stored, Unit::WattHour),
                                number(f_.used->low), number(f_.used->high), showNumber(rated)),
                bounds(least, std::min(most, 1.0)), Unit::Share, "the devices' batteries",
                otterstone::say("{} that the bank's own display says it gave; it bounds it from both sides", note)));
        }
    }

private:
    void steps() {
        std::string all;
        const Entry* before = nullptr;
        std::size_t n = 0;
        for (const Entry& e : f_.notes.entries) {
            if (!e.wattHours)
                continue;
            if (before && e.at > before->at && *e.wattHours >= *before->wattHours) {
                const double wh = *e.wattHours - *before->wattHours;
                all += (all.empty() ? "" : "; ") + otterstone::say("until {} {} Wh, {} W", showDuration(e.at),
                                                                   showNumber(wh, 4),
                                                                   showNumber(wh / (e.at - before->at) * 3600.0, 3));
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

    // Both ends as its interval.
    [[nodiscard]] Measured bounds(double low, double high) const {
        return Measured((low + high) / 2.0, (high - low) / 4.0, ErrorSource::ofRun(facts_.run, "the bank's display"));
    }

    void addPerBank(std::string note) {
        const auto& p = *f_.perBank;
        if (!std::isfinite(p.high))
            return;
        add(figure(key::chargesPerBank, otterstone::say("charges of {} from the full bank", p.name),
                   f_.used->whole()
                       ? otterstone::say("{} points of the device for all of the bank", number(p.points.value()))
                       : otterstone::say("{} points of the device for {} to {} points of the bank",
                                         number(p.points.value()), number(f_.used->low), number(f_.used->high)),
                   bounds(p.low, p.high), Unit::None, "device", std::move(note)));
    }
};

} // namespace

void sayRecharge(const Facts& facts, NotebookFinding& f) { BankSpeaker(facts, f).recharge(); }
void sayEnergy(const Facts& facts, NotebookFinding& f) { BankSpeaker(facts, f).energy(); }
void sayBankByDevices(const Facts& facts, NotebookFinding& f) { BankSpeaker(facts, f).bankByDevices(); }
void sayBankAlone(const Facts& facts, NotebookFinding& f) { BankSpeaker(facts, f).bankAlone(); }

} // namespace otterstone::kinds
