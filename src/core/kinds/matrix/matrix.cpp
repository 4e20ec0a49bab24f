#include "core/kinds/matrix/matrix.h"

#include <algorithm>

#include "core/kinds/parts.h"
#include "core/quantity/parse.h"

namespace otterstone::kinds {

namespace {

constexpr double kNearBest = 0.95; // of its watts

template<class T>
const T* named(const std::vector<T>& all, const std::string& name) {
    const auto at = std::find_if(all.begin(), all.end(),
                                 [wanted = lowered(name)](const T& t) { return lowered(t.name) == wanted; });
    return at == all.end() ? nullptr : &*at;
}

void remember(std::vector<std::string>& names, const std::string& name) {
    if (std::find(names.begin(), names.end(), name) == names.end())
        names.push_back(name);
}

std::optional<double> priceOf(const Facts& facts, const MatrixCell& c) {
    const Source* charger = named(facts.chargers, c.charger);
    const Wire* cable = named(facts.cables, c.cable);
    return charger && cable && charger->price && cable->price ? std::optional(*charger->price + *cable->price)
                                                              : std::nullopt;
}

std::string place(const MatrixCell& c) {
    return c.charger + " + " + c.cable + (c.port.empty() ? "" : " into " + c.port) +
           (c.computer.empty() ? "" : ", computer " + c.computer);
}

Working cellFigure(const MatrixCell& c) {
    Working w =
        figure("cell:" + c.charger + ":" + c.cable + ":" + c.port + (c.computer.empty() ? "" : ":" + c.computer),
               place(c), "", Measured(*c.watts), Unit::Watt, "bank in");
    if (c.volts)
        w.formula = showNumber(*c.volts, 4) + " V × " + showNumber(*c.watts / *c.volts, 3) + " A";
    if (c.predicted)
        w.parts.push_back(c.predicted->working);
    for (const std::string& why : c.why)
        w.parts.push_back(remark("less than predicted", why));
    return w;
}

void choose(const Facts& facts, MatrixFinding& f) {
    for (const MatrixCell& c : f.cells) {
        if (!f.best || *c.watts > *f.best->watts)
            f.best = &c;
    }
    if (!f.best)
        return;
    f.said.sentence =
        "Most comes in with " + place(*f.best) + ": " +
        (f.best->volts ? tierAndWatts(*f.best->volts, *f.best->watts) : showNumber(*f.best->watts, 3) + " W") + ".";
    std::optional<double> least;
    for (const MatrixCell& c : f.cells) {
        const auto price = priceOf(facts, c);
        if (*c.watts >= kNearBest * *f.best->watts && price && (!least || *price < *least)) {
            least = price;
            f.affordable = &c;
        }
    }
    if (f.affordable && f.affordable != f.best)
        f.said.sentence += " As good for less: " + place(*f.affordable) + " (" + showNumber(*f.affordable->watts, 3) +
                           " W for " + showNumber(*least) + ").";
    else if (f.affordable)
        f.said.sentence += " It is also the cheapest that comes near.";
}

} // namespace

const MatrixCell* MatrixFinding::at(const std::string& charger, const std::string& cable, const std::string& port,
                                    const std::string& computer) const {
    const auto found = std::find_if(cells.begin(), cells.end(), [&](const MatrixCell& c) {
        return c.charger == charger && c.cable == cable && c.port == port && c.computer == computer;
    });
    return found == cells.end() ? nullptr : &*found;
}

std::optional<path::Prediction> predictFor(const Facts& facts, const std::string& charger, const std::string& cable,
                                           const std::string& port) {
    const Source* source = named(facts.chargers, charger);
    const Wire* wire = named(facts.cables, cable);
    if (!source || !wire)
        return std::nullopt;
    std::optional<path::Prediction> best;
    for (const label::Port& p : facts.label.ports) {
        if (!p.takes() || (!port.empty() && lowered(p.name) != lowered(port)))
            continue;
        path::Side bank{p.tiersFor(label::Way::In), p.wattsFor(label::Way::In)};
        if (facts.label.inputWatts)
            bank.watts = bank.watts ? std::min(*bank.watts, *facts.label.inputWatts) : *facts.label.inputWatts;
        const auto tier = path::predictTier(source->side, {wire->limit}, bank);
        if (tier && (!best || tier->best.watts() > best->best.watts()))
            best = tier;
    }
    return best;
}

Result<CellText> parseCell(std::string_view text, std::string_view place) {
    CellText cell;
    for (const label::Printed& p : label::scanPrinted(text)) {
        if (p.unit == "w")
            cell.watts = p.high;
        else if (p.unit == "v")
            cell.volts = p.high;
        else if (p.unit == "a")
            cell.amps = p.high;
        else if (p.unit == "ma")
            cell.amps = p.high / 1000.0;
        else if (p.unit.empty() && !cell.volts &&
                 (text.find('x') != std::string_view::npos || text.find('*') != std::string_view::npos ||
                  text.find("×") != std::string_view::npos))
            cell.volts = p.high;
        else if (p.unit.empty() && cell.volts && !cell.amps)
            cell.amps = p.high;
        else if (p.unit.empty() && !cell.watts)
            cell.watts = p.high; // a bare number counts watts
        else
            return problem("bad_cell", std::string(place), "“" + std::string(trimmed(text)) + "” is not understood.",
                           "Write 18 W, 9 V 18 W or 9 V 2 A.");
    }
    if (!cell.watts && !cell.amps)
        return problem("bad_cell", std::string(place), "“" + std::string(trimmed(text)) + "” says no watts.",
                       "Write 18 W, 9 V 18 W or 9 V 2 A.");
    if (!cell.watts && !cell.volts)
        return problem("bad_cell", std::string(place), "amps alone give no watts.",
                       "Write the volts as well: 9 V 2 A.");
    return cell;
}

MatrixFinding matrix(const Sheet& sheet, const Facts& facts) {
    MatrixFinding f;
    Rows rows(sheet, f.said.remarks);
    while (rows.next()) {
        MatrixCell c;
        c.row = rows.at();
        c.charger = rows.text("charger");
        c.cable = rows.text("cable");
        c.port = rows.text("port");
        c.computer = rows.choice("computer");
        if (!c.charger.empty())
            remember(f.chargers, c.charger);
        if (!c.cable.empty())
            remember(f.cables, c.cable);
        if (!c.port.empty())
            remember(f.ports, c.port);
        c.volts = rows.number("volts");
        const auto amps = rows.number("amps");
        c.watts = rows.number("watts");
        if (!c.watts && c.volts && amps)
            c.watts = *c.volts * *amps;
        if (!c.volts && c.watts && amps && *amps > 0.0)
            c.volts = *c.watts / *amps;
        if (!c.watts)
            continue; // a hole: not tried
        if (c.charger.empty() || c.cable.empty()) {
            rows.remark(c.charger.empty() ? "charger" : "cable", "no_gear",
                        "the row does not say which charger and cable it is about.");
            continue;
        }
        c.predicted = predictFor(facts, c.charger, c.cable, c.port);
        if (c.predicted) {
            c.why = path::whyBelow(Watts(*c.watts), *c.predicted);
            const Wire* wire = named(facts.cables, c.cable);
            if (!c.why.empty() && wire && wire->ohms && c.volts && *c.volts > 0.0) {
                const double drop = *wire->ohms * *c.watts / *c.volts;
                c.why.insert(c.why.begin(), "This cable's " + showNumber(*wire->ohms, 3) + " Ω lose " +
                                                showNumber(drop, 2) + " V at this current.");
            }
        }
        f.cells.push_back(std::move(c));
    }
    choose(facts, f);
    for (const MatrixCell& c : f.cells)
        f.said.figures.push_back(cellFigure(c));
    const auto below = static_cast<std::size_t>(
        std::count_if(f.cells.begin(), f.cells.end(), [](const MatrixCell& c) { return !c.why.empty(); }));
    if (below > 0)
        f.said.warnings.push_back(
            {"below_predicted",
             counted(below, "combination stays", "combinations stay") +
                 " more than 15 % below what charger, cable and bank could agree on; open the figure for what to ask."});
    return f;
}

} // namespace otterstone::kinds
