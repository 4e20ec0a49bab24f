#include "core/behaviour/survey.h"

#include <algorithm>
#include <cmath>

#include "core/behaviour/parts.h"
#include "core/label/usb_facts.h"

namespace otterstone::behaviour {

namespace {

constexpr double kReached = 0.97;  // of the promised amps
constexpr double kSameVolts = 0.3; // V between a tier asked for and one printed
constexpr double kGone = 1.0;      // V: less is no output
constexpr double kLittle = 0.02;   // A: less says nothing about a tier

std::optional<double> promisedAmps(const label::Port& port, double volts) {
    std::optional<double> most;
    for (const label::Tier& t : port.tiers) {
        if (volts < t.low.value - kSameVolts || volts > t.high.value + kSameVolts)
            continue;
        double amps = t.amps.value;
        if (port.watts)
            amps = std::min(amps, port.watts->value / volts);
        most = std::max(most.value_or(0.0), amps);
    }
    return most;
}

bool isAType(std::string_view name) { return !name.empty() && (name.front() == 'A' || name.front() == 'a'); }

class Grid {
public:
    Grid(const Facts& facts, std::vector<SurveyCell>& cells, bool inputsToo) : facts_(facts), cells_(cells) {
        // What the label promises stands there from the start, as not tried; inputs only where the survey is about them
        // as well.
        for (const label::Port& p : facts.label.ports) {
            for (const bool in : {false, true}) {
                if (in ? !p.takes() || !inputsToo : !p.gives())
                    continue;
                for (const label::Tier& t : p.tiers)
                    (void)cell(p.name, in, t.high.value);
            }
        }
    }
    SurveyCell& cell(const std::string& port, bool in, double volts) {
        const auto at = std::find_if(cells_.begin(), cells_.end(), [&](const SurveyCell& c) {
            return c.port == port && c.in == in && std::fabs(c.tierVolts - volts) < kSameVolts;
        });
        if (at != cells_.end())
            return *at;
        SurveyCell c;
        c.port = port;
        c.in = in;
        c.tierVolts = volts;
        if (const label::Port* p = label::portNamed(facts_.label, port); p && (in ? p->takes() : p->gives()))
            c.promisedAmps = promisedAmps(*p, volts);
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
    const bool inside = c.in || label::toleranceOf(c.tierVolts, isAType(c.port)).holds(volts);
    if (volts < kGone)
        return TierState::Sags;
    if (amps < kLittle)
        return TierState::Offered;
    if (!inside) // above what is promised it may sag
        return !c.promisedAmps || amps <= *c.promisedAmps / kReached ? TierState::Sags : TierState::Offered;
    return c.promisedAmps && amps < kReached * *c.promisedAmps ? TierState::HoldsPartly : TierState::Holds;
}

int rank(TierState s) {
    switch (s) {
    case TierState::NotTried: return 0;
    case TierState::NotOffered: return 1;
    case TierState::Offered: return 2;
    case TierState::HoldsPartly: return 3;
    case TierState::Sags: return 4; // one sag outweighs a lighter step that held
    case TierState::Holds: return 5;
    }
    return 0;
}

bool tried(const SurveyCell& c) { return c.state != TierState::NotTried; }
bool there(const SurveyCell& c) { return tried(c) && c.state != TierState::NotOffered; }

// Tiers on which a port and the figures printed for another disagree.
int mismatches(const std::vector<SurveyCell>& cells, const std::string& port, const label::Port& printed) {
    int wrong = 0;
    for (const SurveyCell& c : cells) {
        if (c.port != port || !tried(c))
            continue;
        const bool may = c.in ? printed.takes() : printed.gives();
        wrong += (may && promisedAmps(printed, c.tierVolts).has_value()) != there(c);
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

std::string cellWords(const SurveyCell& c) { return c.port + " at " + showNumber(c.tierVolts) + " V"; }

Working cellFigure(const SurveyCell& c) {
    const auto tolerance = label::toleranceOf(c.tierVolts, isAType(c.port));
    Working w =
        figure((c.in ? "in:" : "tier:") + c.port + ":" + showNumber(c.tierVolts), cellWords(c) + (c.in ? ", in" : ""),
               "", Measured(0.0), Unit::Watt, c.in ? "bank in" : "bank out", tierStateWords(c.state));
    if (!c.handshake.empty())
        w.note += "; " + c.handshake;
    if (c.volts && c.amps && *c.amps >= kLittle) {
        w.value = Measured(*c.volts * *c.amps);
        w.formula = showNumber(*c.volts, 4) + " V × " + showNumber(*c.amps, 3) + " A";
    } else {
        w.isText = true;
    }
    if (c.promisedAmps)
        w.parts.push_back(remark("promised", showNumber(c.tierVolts) + " V " + showNumber(*c.promisedAmps, 3) + " A, " +
                                                 showNumber(c.tierVolts * *c.promisedAmps, 3) + " W"));
    if (!c.in)
        w.parts.push_back(remark(
            "tolerance",
            showNumber(tolerance.low) + " to " + showNumber(tolerance.high) + " V at the port (" +
                std::string(label::usbFacts()[static_cast<std::size_t>(c.tierVolts > 5.6 ? label::Fact::FixedTolerance
                                                                                         : label::Fact::SourceLow)]
                                .standard) +
                ", from memory)"));
    return w;
}

void sayIt(const Facts& facts, SurveyFinding& f) {
    std::vector<std::string> missing, sagging, surprises;
    std::size_t promised = 0, good = 0, holes = 0;
    for (const SurveyCell& c : f.cells) {
        if (c.promised()) {
            ++promised;
            good += c.state == TierState::Holds;
            holes += !tried(c);
            if (c.state == TierState::NotOffered)
                missing.push_back(cellWords(c));
        } else if (there(c)) {
            surprises.push_back(cellWords(c));
        }
        if (c.state == TierState::Sags)
            sagging.push_back(
                cellWords(c) +
                (c.volts && c.amps ? " (" + showNumber(*c.volts, 4) + " V at " + showNumber(*c.amps, 3) + " A)" : ""));
    }
    std::string& s = f.said.sentence;
    if (!f.swapped.empty()) {
        std::vector<std::string> pairs;
        for (const auto& [a, b] : f.swapped)
            pairs.push_back(a + " and " + b);
        s = "The labels of " + listed(pairs) + " look swapped: each does what is printed on the other.";
    } else if (promised > 0) {
        s = good + holes == promised && holes < promised
                ? "Every promised tier that was tried holds (" + std::to_string(good) + " of " +
                      std::to_string(promised) + ")."
                : std::to_string(good) + " of " + counted(promised, "promised tier holds", "promised tiers hold") +
                      " its current.";
    } else {
        s = counted(static_cast<std::size_t>(std::count_if(f.cells.begin(), f.cells.end(), there)), "tier is",
                    "tiers are") +
            " there; the label promises none.";
    }
    if (!missing.empty())
        s += " Not offered: " + listed(missing) + ".";
    if (!sagging.empty())
        s += " Out of tolerance: " + listed(sagging) + ".";
    if (!surprises.empty())
        s += " Not on the label: " + listed(surprises) + ".";
    if (holes > 0)
        f.said.warnings.push_back({"not_tried", counted(holes, "promised tier was", "promised tiers were") +
                                                    " not tried; that says nothing about them."});
    if (!facts.pathOhms)
        f.said.warnings.push_back(
            {"not_referred",
             "Volts are as read; the cable between port and meter is not known, so the port itself may stand higher."});
    for (const SurveyCell& c : f.cells) {
        if (tried(c))
            f.said.figures.push_back(cellFigure(c));
    }
}

} // namespace

std::string tierStateWords(TierState state) {
    switch (state) {
    case TierState::NotTried: return "not tried";
    case TierState::NotOffered: return "not offered";
    case TierState::Offered: return "offered";
    case TierState::Holds: return "holds";
    case TierState::HoldsPartly: return "holds so far";
    case TierState::Sags: return "out of tolerance";
    }
    return {};
}

SurveyFinding survey(const Sheet& sheet, const Facts& facts) {
    SurveyFinding f;
    const std::size_t way = sheet.column("way");
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
        if (rank(state) < rank(cell.state))
            continue;
        cell.state = state;
        cell.volts = volts;
        cell.amps = amps;
    }
    lookForSwaps(f.cells, facts, f);
    sayIt(facts, f);
    return f;
}

} // namespace otterstone::behaviour
