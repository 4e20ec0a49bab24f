#include "core/kinds/survey/survey.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/parts.h"
#include "core/label/usb_facts.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kLittle = 0.02;    // A: less says nothing about a tier
constexpr double kOtherAmps = 0.15; // of the larger: currents that tell two ports apart

class Grid {
public:
    Grid(const Facts& facts, std::vector<SurveyCell>& cells, bool inputsToo) : facts_(facts), cells_(cells) {
        // What the label promises stands there from the start, as not tried; inputs only where the survey is about them
        // as well.
        for (const label::Port& p : facts.label.ports) {
            for (const label::Way way : {label::Way::Out, label::Way::In}) {
                if (way == label::Way::In && !inputsToo)
                    continue;
                for (const label::Tier& t : p.tiersFor(way))
                    (void)cell(p.name, way == label::Way::In, t.high.value);
            }
        }
    }
    SurveyCell& cell(const std::string& port, bool in, double volts) {
        const auto at = std::find_if(cells_.begin(), cells_.end(), [&](const SurveyCell& c) {
            return c.port == port && c.in == in && label::sameVolts(c.tierVolts, volts);
        });
        if (at != cells_.end())
            return *at;
        SurveyCell c;
        c.port = port;
        c.in = in;
        c.tierVolts = volts;
        if (const label::Port* p = label::portNamed(facts_.label, port))
            c.promisedAmps = label::promisedAmps(*p, c.way(), volts);
        // Beside its port's others, which the label's order leads.
        const auto last = std::find_if(cells_.rbegin(), cells_.rend(),
                                       [&](const SurveyCell& o) { return o.port == port && o.in == in; });
        return *cells_.insert(last == cells_.rend() ? cells_.end() : last.base(), c);
    }

private:
    const Facts& facts_;
    std::vector<SurveyCell>& cells_;
};

TierState stateOf(const SurveyCell& c, double volts, double amps) {
    const auto tolerance = c.in ? std::nullopt : label::toleranceAt(c.port, c.tierVolts);
    if (label::outputGone(volts))
        return c.in ? TierState::NotOffered : TierState::Sags;
    if (amps < kLittle)
        return TierState::Offered;
    if (tolerance && !tolerance->holds(volts)) // above what is promised it may sag
        return !c.promisedAmps || amps <= *c.promisedAmps / label::kReached ? TierState::Sags : TierState::Offered;
    return c.promisedAmps && amps < label::kReached * *c.promisedAmps ? TierState::HoldsPartly : TierState::Holds;
}

int rank(TierState s) {
    switch (s) {
    case TierState::NotTried: return 0;
    case TierState::Offered: return 1;
    case TierState::HoldsPartly: return 2;
    case TierState::Holds: return 3;
    case TierState::NotOffered: return 4; // what failed once outweighs what held: the worst is shown
    case TierState::Sags: return 5;
    }
    return 0;
}

// The worst row decides; of equal ones that with the most current. A tier that is there at all is offered, whatever an
// earlier row said.
void conclude(SurveyCell& c) {
    const bool seen = std::any_of(c.tries.begin(), c.tries.end(), [](const Try& t) {
        return t.state != TierState::NotTried && t.state != TierState::NotOffered;
    });
    const bool refused =
        std::any_of(c.tries.begin(), c.tries.end(), [](const Try& t) { return t.state == TierState::NotOffered; });
    const bool held =
        std::any_of(c.tries.begin(), c.tries.end(), [](const Try& t) { return t.state == TierState::Holds; });
    for (const Try& t : c.tries) {
        if (t.state == TierState::NotOffered && seen)
            continue;
        const bool heavier = t.amps.value_or(0.0) >= c.amps.value_or(0.0);
        if (rank(t.state) > rank(c.state) || (t.state == c.state && heavier)) {
            c.state = t.state;
            c.volts = t.volts;
            c.amps = t.amps;
        }
    }
    c.disagree = (seen && refused) || (held && c.state == TierState::Sags);
}

bool tried(const SurveyCell& c) { return c.state != TierState::NotTried; }
bool there(const SurveyCell& c) { return tried(c) && c.state != TierState::NotOffered; }

// Where a port and the figures printed for another disagree: a tier that is there or not, a current that was the most
// it gave, or took, and is far from the printed one.
int mismatches(const std::vector<SurveyCell>& cells, const std::string& port, const label::Port& printed) {
    int wrong = 0;
    for (const SurveyCell& c : cells) {
        if (c.port != port || !tried(c))
            continue;
        const auto amps = label::promisedAmps(printed, c.way(), c.tierVolts);
        if (amps.has_value() != there(c))
            ++wrong;
        else if (amps && c.in && c.amps &&
                 *c.amps >= kLittle) // an input takes what it takes; a load takes what it is set to
            wrong += std::fabs(*c.amps - *amps) > kOtherAmps * std::max(*c.amps, *amps);
        else if (amps && c.amps && c.state == TierState::Sags)
            wrong += *c.amps <= *amps / label::kReached;
    }
    return wrong;
}

// Two ports whose printed figures fit each other's behaviour better than their own.
void lookForSwaps(const std::vector<SurveyCell>& cells, const Facts& facts, SurveyFinding& f) {
    const auto& ports = facts.label.ports;
    const auto anyTried = [&](const label::Port& p) {
        return std::any_of(cells.begin(), cells.end(),
                           [&](const SurveyCell& c) { return c.port == p.name && tried(c); });
    };
    for (std::size_t a = 0; a < ports.size(); ++a) {
        for (std::size_t b = a + 1; b < ports.size(); ++b) {
            if (!anyTried(ports[a]) || !anyTried(ports[b]))
                continue;
            const int asPrinted =
                mismatches(cells, ports[a].name, ports[a]) + mismatches(cells, ports[b].name, ports[b]);
            const int swapped = mismatches(cells, ports[a].name, ports[b]) + mismatches(cells, ports[b].name, ports[a]);
            if (asPrinted >= 2 && 2 * swapped < asPrinted)
                f.swapped.emplace_back(ports[a].name, ports[b].name);
        }
    }
}

std::string cellWords(const SurveyCell& c) {
    return c.port + (c.in ? " in at " : " at ") + showNumber(c.tierVolts) + " V";
}

std::string tryWords(const SurveyCell& c, const Try& t) {
    std::string s = tierStateWords(t.state, c.way());
    if (t.volts && t.amps)
        s = say("{}: {} V at {} A", s, showNumber(*t.volts, 4), showNumber(*t.amps, 3));
    return s + (t.note.empty() ? "" : " (" + t.note + ")");
}

Working cellFigure(const SurveyCell& c, const Facts& facts) {
    const auto tolerance = c.in ? std::nullopt : label::toleranceAt(c.port, c.tierVolts);
    Working w = figure((c.in ? "in:" : "tier:") + c.port + ":" + showNumber(c.tierVolts), cellWords(c), "",
                       Measured(0.0), Unit::Watt, c.in ? "bank in" : "bank out", tierStateWords(c.state, c.way()));
    if (!c.handshake.empty())
        w.note += "; " + c.handshake;
    if (c.volts && c.amps && *c.amps >= kLittle) {
        Measured volts = meteredVolts(*c.volts, 0.0, facts);
        if (facts.pathOhms && !c.in) // they are at the port already; the path's doubt is theirs
            volts = volts + Measured(*c.amps) * (*facts.pathOhms - Measured(facts.pathOhms->value()));
        w.value = volts * meteredAmps(*c.amps, 0.0, facts);
        w.partialDoubt = !facts.meter.accuracyKnown();
        w.formula = showNumber(*c.volts, 4) + " V × " + showNumber(*c.amps, 3) + " A";
    } else {
        w.isText = true;
    }
    if (c.promisedAmps)
        w.parts.push_back(remark("promised", showNumber(c.tierVolts) + " V " + showNumber(*c.promisedAmps, 3) + " A, " +
                                                 showNumber(c.tierVolts * *c.promisedAmps, 3) + " W"));
    if (tolerance)
        w.parts.push_back(remark(
            "tolerance",
            say("{} to {} V at the port ({}, from memory)", showNumber(tolerance->low), showNumber(tolerance->high),
                label::usbFacts()[static_cast<std::size_t>(c.tierVolts > 5.6 ? label::Fact::FixedTolerance
                                                                             : label::Fact::SourceLow)]
                    .standard)));
    for (const Try& t : c.tries) {
        if (c.tries.size() > 1 || !t.note.empty())
            w.parts.push_back(remark(say("row {}", std::to_string(t.row + 1)), tryWords(c, t)));
    }
    return w;
}

void sayIt(const Facts& facts, SurveyFinding& f) {
    std::vector<std::string> missing, untaken, sagging, surprises;
    std::size_t promised = 0, good = 0, holes = 0;
    for (const SurveyCell& c : f.cells) {
        if (c.promised()) {
            ++promised;
            good += c.state == TierState::Holds;
            holes += !tried(c);
            if (c.state == TierState::NotOffered)
                (c.in ? untaken : missing).push_back(cellWords(c));
        } else if (there(c)) {
            surprises.push_back(cellWords(c));
        }
        if (c.state == TierState::Sags)
            sagging.push_back(
                cellWords(c) +
                (c.volts && c.amps ? say(" ({} V at {} A)", showNumber(*c.volts, 4), showNumber(*c.amps, 3)) : ""));
        if (c.disagree) {
            std::vector<std::string> rows;
            for (const Try& t : c.tries)
                rows.push_back(tryWords(c, t));
            f.said.warnings.push_back(
                {"rows_disagree", say("{}: its rows disagree ({}). Try it once more.", cellWords(c), listed(rows))});
        }
    }
    std::string& s = f.said.sentence;
    if (!f.swapped.empty()) {
        std::vector<std::string> pairs;
        for (const auto& [a, b] : f.swapped)
            pairs.push_back(say("{} and {}", a, b));
        s = say("The labels of {} look swapped: each does what is printed on the other.", listed(pairs));
    } else if (promised > holes) {
        const std::size_t triedOnes = promised - holes;
        s = good == triedOnes && triedOnes == 1 ? say("The promised tier that was tried holds its current.")
            : good == triedOnes
                ? say("All {} promised tiers that were tried hold their current.", std::to_string(triedOnes))
                : say("{} of {}", std::to_string(good),
                      counted(triedOnes, "promised tier that was tried holds its current.",
                              "promised tiers that were tried hold their current."));
        if (holes > 0)
            s = say("{} {} not tried.", s, counted(holes, "was", "were"));
    } else if (promised > 0) {
        s = say("None of the promised tiers was tried.");
    } else if (std::any_of(f.cells.begin(), f.cells.end(), tried)) {
        s = say("{} there; the label promises none.",
                counted(static_cast<std::size_t>(std::count_if(f.cells.begin(), f.cells.end(), there)), "tier is",
                        "tiers are"));
    }
    if (!missing.empty())
        s = say("{} Not offered: {}.", s, listed(missing));
    if (!untaken.empty())
        s = say("{} Not taken: {}.", s, listed(untaken));
    if (!sagging.empty())
        s = say("{} Out of tolerance: {}.", s, listed(sagging));
    if (!surprises.empty())
        s = say("{} Not on the label: {}.", s, listed(surprises));
    if (!facts.pathOhms)
        f.said.warnings.push_back(
            {"not_referred",
             say("Volts are as read; the cable between port and meter is not known, so the port itself may stand higher.")});
    for (const SurveyCell& c : f.cells) {
        if (tried(c))
            f.said.figures.push_back(cellFigure(c, facts));
    }
}

} // namespace

std::string tierStateWords(TierState state, label::Way way) {
    switch (state) {
    case TierState::NotTried: return say("not tried");
    case TierState::NotOffered: return way == label::Way::In ? say("not taken") : say("not offered");
    case TierState::Offered: return way == label::Way::In ? say("taken") : say("offered");
    case TierState::Holds: return way == label::Way::In ? say("takes its current") : say("holds");
    case TierState::HoldsPartly: return way == label::Way::In ? say("takes less than printed") : say("holds so far");
    case TierState::Sags: return say("out of tolerance");
    }
    return {};
}

SurveyFinding survey(const Sheet& sheet, const Facts& facts) {
    SurveyFinding f;
    const std::size_t way = columnAt(sheet, "way");
    Grid grid(facts, f.cells, std::any_of(sheet.rows.begin(), sheet.rows.end(), [way](const auto& row) {
                  return way < row.size() && row[way].starts_with("i");
              }));
    Rows rows(sheet, f.said.remarks);
    while (rows.next()) {
        const std::string port = rows.text("port");
        const bool in = rows.choice("way") == "in";
        const auto asked = rows.number("asked_v");
        const std::string offered = rows.choice("offered");
        auto volts = rows.number("volts");
        const auto amps = rows.number("amps");
        if (port.empty() || !asked) {
            if (volts || !offered.empty())
                rows.remark(port.empty() ? "port" : "asked_v", "no_place",
                            "the row does not say which port and tier it is about.",
                            "Write the port and the volts asked for.");
            continue;
        }
        const label::Port* named = label::portNamed(facts.label, port);
        SurveyCell& cell = grid.cell(named ? named->name : port, in, *asked);
        if (volts && amps && facts.pathOhms && !in)
            *volts += *amps * facts.pathOhms->value();
        const TierState state = offered == "no"    ? TierState::NotOffered
                                : volts            ? stateOf(cell, *volts, amps.value_or(0.0))
                                : offered == "yes" ? TierState::Offered
                                                   : TierState::NotTried;
        if (const std::string handshake = rows.choice("handshake"); !handshake.empty())
            cell.handshake = handshake;
        cell.tries.push_back({rows.at(), state, volts, amps, rows.text("note")});
    }
    for (SurveyCell& c : f.cells)
        conclude(c);
    lookForSwaps(f.cells, facts, f);
    sayIt(facts, f);
    return f;
}

} // namespace otterstone::kinds
