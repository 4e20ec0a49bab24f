#include "core/kinds/pass_through/pass_through.h"

#include <array>
#include <cmath>

#include "core/kinds/parts.h"
#include "core/label/port_rules.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

struct Named {
    PassClass what;
    const char* key;
    const char* words;
    bool passes; ///< energy goes in and out at once
};
constexpr std::array kClasses = {Named{PassClass::Unknown, "unknown", "unknown", false},
                                 Named{PassClass::Refuses, "refuses", "refuses", false},
                                 Named{PassClass::GivesOnly, "gives_only", "gives only", false},
                                 Named{PassClass::SourceFirst, "source_first", "source first", true},
                                 Named{PassClass::LoadFirst, "load_first", "load first", true},
                                 Named{PassClass::Shares, "shares", "shares", true},
                                 Named{PassClass::SlowsBoth, "slows_both", "slows both", true},
                                 Named{PassClass::ChargesAndGives, "charges_and_gives", "charges and gives", true}};
constexpr bool inOrder() {
    for (std::size_t k = 0; k < kClasses.size(); ++k) {
        if (static_cast<std::size_t>(kClasses[k].what) != k)
            return false;
    }
    return true;
}
static_assert(inOrder(), "each class has its row, in the order of PassClass");

constexpr double kOff = 0.10;     // of its watts alone: less is off
constexpr double kNoInput = 0.05; // the same for what goes in
constexpr double kNothing = 0.1;  // W
constexpr double kTierStep = 0.5; // V
constexpr double kSlowed = 0.75;  // of its watts alone
constexpr double kHolds = 0.05;   // of what comes in
constexpr double kUsualEta = 0.90, kUsualDoubt = 0.05;

bool slowed(const std::optional<double>& aloneVolts, const std::optional<double>& aloneWatts,
            const std::optional<double>& volts, const std::optional<double>& watts) {
    return (aloneVolts && volts && *volts < *aloneVolts - kTierStep) ||
           (aloneWatts && watts && *watts < kSlowed * *aloneWatts);
}

bool flows(const std::optional<double>& watts, const std::optional<double>& aloneWatts, double least) {
    return *watts >= std::max(kNothing, least * aloneWatts.value_or(0.0));
}

PassClass classOf(const PassThroughFinding& f) {
    if (!f.both.outWatts)
        return PassClass::Unknown;
    if (!flows(f.both.outWatts, f.outAlone.outWatts, kOff))
        return f.both.inWatts.value_or(1.0) > kNothing ? PassClass::Refuses : PassClass::Unknown;
    if (!f.both.inWatts)
        return PassClass::Unknown;
    if (!flows(f.both.inWatts, f.inAlone.inWatts, kNoInput))
        return PassClass::GivesOnly;
    if (!f.inAlone.inWatts || !f.outAlone.outWatts)
        return PassClass::ChargesAndGives;
    const bool in = slowed(f.inAlone.inVolts, f.inAlone.inWatts, f.both.inVolts, f.both.inWatts);
    const bool out = slowed(f.outAlone.outVolts, f.outAlone.outWatts, f.both.outVolts, f.both.outWatts);
    return in && out ? PassClass::SlowsBoth
           : in      ? PassClass::LoadFirst
           : out     ? PassClass::SourceFirst
                     : PassClass::Shares;
}

std::string flow(const std::optional<double>& volts, const std::optional<double>& watts) {
    return volts && watts ? tierAndWatts(*volts, *watts) : watts ? showNumber(*watts, 3) + " W" : "unknown";
}

void reckonBalance(const Facts& facts, PassThroughFinding& f) {
    if (!f.both.inWatts || !f.both.outWatts)
        return;
    const bool known = facts.roundTrip.has_value() && facts.roundTrip->value() > 0.0;
    Measured eta(kUsualEta, rectangular(kUsualDoubt), ErrorSource::ofBank(facts.bank, "usual efficiency each way"));
    if (known) {
        const double root = std::sqrt(facts.roundTrip->value());
        const Sensitivity s[] = {{&*facts.roundTrip, 0.5 / root}};
        eta = combine(root, s);
    }
    const Measured in(*f.both.inWatts), out(*f.both.outWatts);
    f.netWatts = in * eta - out / eta;
    f.leastSource = out / (eta * eta);
    const double net = f.netWatts->value(), level = kHolds * std::max(*f.both.inWatts, *f.both.outWatts);
    if (std::fabs(net) <= level)
        f.balance = Balance::Holds;
    else if (std::fabs(net) > f.netWatts->expanded()) // else its sign is not known
        f.balance = net > 0.0 ? Balance::Gains : Balance::Loses;
    const std::string how =
        known ? otterstone::say("η each way = √ round trip of {}", showValue(*facts.roundTrip, Unit::Share))
              : otterstone::say("η each way taken as 90 ± 5 %, since no round trip of this bank is known");
    f.said.figures.push_back(figure(
        "net_watts", "net into the cells",
        otterstone::say("{} W in × η − {} W out ÷ η", showNumber(*f.both.inWatts, 3), showNumber(*f.both.outWatts, 3)),
        *f.netWatts, Unit::Watt, "cells", how));
    f.said.figures.push_back(figure("least_source", "smallest source that holds",
                                    otterstone::say("{} W out ÷ η²", showNumber(*f.both.outWatts, 3)), *f.leastSource,
                                    Unit::Watt, "bank in", how));
}

void say(const Facts& facts, PassThroughFinding& f) {
    std::string& s = f.said.sentence;
    switch (f.what) {
    case PassClass::Unknown: break;
    case PassClass::Refuses: s = otterstone::say("While it charges it gives nothing."); break;
    case PassClass::GivesOnly:
        s = otterstone::say(
            "While it gives nothing goes in: with source and load at once it gives {} and takes nothing.",
            flow(f.both.outVolts, f.both.outWatts));
        break;
    case PassClass::ChargesAndGives:
        s = otterstone::say(
            "It charges and gives at once: {} in, {} out; what {} was not written down, so it cannot be said who is slowed.",
            flow(f.both.inVolts, f.both.inWatts), flow(f.both.outVolts, f.both.outWatts),
            (f.inAlone.inWatts     ? otterstone::say("it gives alone")
             : f.outAlone.outWatts ? otterstone::say("it takes alone")
                                   : otterstone::say("each does alone")));
        break;
    case PassClass::SourceFirst:
        s = otterstone::say("It charges and gives at once; the output falls from {} to {}.",
                            flow(f.outAlone.outVolts, f.outAlone.outWatts), flow(f.both.outVolts, f.both.outWatts));
        break;
    case PassClass::LoadFirst:
        s = otterstone::say("It charges and gives at once; the input falls from {} to {}.",
                            flow(f.inAlone.inVolts, f.inAlone.inWatts), flow(f.both.inVolts, f.both.inWatts));
        break;
    case PassClass::Shares:
        s = otterstone::say("It charges and gives at once, and keeps both: {} in, {} out.",
                            flow(f.both.inVolts, f.both.inWatts), flow(f.both.outVolts, f.both.outWatts));
        break;
    case PassClass::SlowsBoth:
        s = otterstone::say("It charges and gives at once, both slowed: {} in, {} out.",
                            flow(f.both.inVolts, f.both.inWatts), flow(f.both.outVolts, f.both.outWatts));
        break;
    }
    if (passesThrough(f.what) && f.netWatts && !f.balance)
        s = otterstone::say("{} Whether it then gains or loses is too close to call ({}); {} W would hold it level.", s,
                            show(*f.netWatts, Unit::Watt), showNumber(f.leastSource->value(), 2));
    else if (passesThrough(f.what) && f.balance)
        s = otterstone::say(
            "{} It then {}{}; {} W would hold it level.", s, balanceWords(*f.balance),
            (f.balance == Balance::Holds ? "" : " " + showNumber(std::fabs(f.netWatts->value()), 2) + " W"),
            showNumber(f.leastSource->value(), 2));
    if (f.dropOutSeconds && *f.dropOutSeconds <= 0.0)
        s = otterstone::say("{} When the source goes the output stays on.", s);
    else if (!f.back.empty() || f.dropOutSeconds)
        s +=
            (s.empty() ? "" : " ") +
            otterstone::say(
                "When the source goes the output is out{}{}: not an uninterruptible supply.",
                (f.dropOutSeconds ? otterstone::say(" for {}", showDuration(*f.dropOutSeconds, 1.0)) : std::string()),
                (f.back.empty()          ? std::string()
                 : f.back == "stays off" ? otterstone::say(" and stays off")
                                         : otterstone::say(", and comes back {}",
                                                           (f.back == "button" ? std::string("at a press of the button")
                                                            : f.back == "replug" ? otterstone::say("when replugged")
                                                                                 : f.back))));
    if (f.after.outWatts)
        s += (s.empty() ? "" : " ") +
             (*f.after.outWatts >= kNothing
                  ? otterstone::say("After that it gives {}.", flow(f.after.outVolts, f.after.outWatts))
                  : otterstone::say("After that it gives nothing."));
    if (f.bankFull && f.deviceFull)
        s = *f.deviceFull < *f.bankFull
                ? otterstone::say("{} From one source the device is full first (device {}, bank {}).", s,
                                  showDuration(*f.deviceFull), showDuration(*f.bankFull))
                : otterstone::say("{} From one source the bank is full first (device {}, bank {}).", s,
                                  showDuration(*f.deviceFull), showDuration(*f.bankFull));
    if (f.what != PassClass::Unknown) {
        Working w = remark("class", passClassWords(f.what));
        w.key = "pass_class";
        for (const auto& [name, corner] : {std::pair("in alone", &f.inAlone),
                                           {"out alone", &f.outAlone},
                                           {"both", &f.both},
                                           {"source removed", &f.after}}) {
            if (corner->inWatts || corner->outWatts)
                w.parts.push_back(
                    remark(sayAsItStands(name),
                           (corner->inWatts ? otterstone::say("{} in", flow(corner->inVolts, corner->inWatts))
                                            : std::string()) +
                               (corner->inWatts && corner->outWatts ? ", " : "") +
                               (corner->outWatts ? otterstone::say("{} out", flow(corner->outVolts, corner->outWatts))
                                                 : std::string())));
        }
        f.said.figures.insert(f.said.figures.begin(), std::move(w));
    }
    if (f.dropOutSeconds)
        f.said.figures.push_back(figure("drop_out", "output out when the source goes", "", Measured(*f.dropOutSeconds),
                                        Unit::Second, "bank out", f.back));
    if ((f.what == PassClass::Refuses || f.what == PassClass::GivesOnly) && facts.label.claimsPassThrough)
        f.said.warnings.push_back(
            {"pass_through_promised",
             f.what == PassClass::Refuses
                 ? otterstone::say(
                       "The label promises pass-through; with this source and load it gave nothing while charging.")
                 : otterstone::say(
                       "The label promises pass-through; with this source and load nothing went in while it gave.")});
    f.said.warnings.push_back(
        {"pass_through_schools",
         otterstone::say(
             "Some hold that charging and giving at once stresses the cells and never do it; others take it for a feature to be tested. Whether to use the bank so is the reader's choice. For medical or safety equipment use only its maker's approved supply.")});
}

} // namespace

std::string passClassKey(PassClass c) { return kClasses[static_cast<std::size_t>(c)].key; }
std::string passClassWords(PassClass c) { return sayAsItStands(kClasses[static_cast<std::size_t>(c)].words); }

bool passesThrough(PassClass c) { return kClasses[static_cast<std::size_t>(c)].passes; }

std::vector<std::string> passingKeys() {
    std::vector<std::string> keys;
    for (const Named& n : kClasses) {
        if (n.passes)
            keys.emplace_back(n.key);
    }
    return keys;
}

std::string balanceWords(Balance b) {
    return b == Balance::Gains   ? otterstone::say("gains")
           : b == Balance::Holds ? otterstone::say("holds")
                                 : otterstone::say("loses");
}

PassThroughFinding passThrough(const Sheet& sheet, const Facts& facts) {
    PassThroughFinding f;
    Rows rows(sheet, f.said.remarks);
    while (rows.next()) {
        const std::string corner = rows.choice("corner");
        if (corner.empty()) {
            rows.remark("corner", "no_corner", "the row does not say what was plugged in.");
            continue;
        }
        Corner c;
        const auto pair = [&](const char* volts, const char* amps, std::optional<double>& v, std::optional<double>& w) {
            v = rows.number(volts);
            const auto a = rows.number(amps);
            if (v && a)
                w = *v * *a;
            else if ((v && label::outputGone(*v)) || (a && *a == 0.0))
                w = 0.0; // one of them says it
        };
        pair("in_v", "in_a", c.inVolts, c.inWatts);
        pair("out_v", "out_a", c.outVolts, c.outWatts);
        const auto time = rows.seconds("time");
        if (corner == "in alone")
            f.inAlone = c;
        else if (corner == "out alone")
            f.outAlone = c;
        else if (corner == "both")
            f.both = c;
        else if (corner == "bank full")
            f.bankFull = time;
        else if (corner == "device full")
            f.deviceFull = time;
        else {
            f.after = c;
            f.back = rows.choice("back");
            f.dropOutSeconds = f.back == "never went off" ? std::optional(0.0) : time;
            if (f.back == "never went off")
                f.back.clear();
        }
    }
    f.what = classOf(f);
    if (passesThrough(f.what))
        reckonBalance(facts, f);
    say(facts, f);
    return f;
}

} // namespace otterstone::kinds
