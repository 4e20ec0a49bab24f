#include "core/together/changes.h"

#include "core/quantity/say.h"
#include <algorithm>

namespace otterstone::together {

using namespace kinds;

namespace {

using Shown = std::vector<std::pair<std::string, std::string>>; // label, shown

std::vector<FigureChange> compare(const Shown& before, const Shown& after) {
    std::vector<FigureChange> changes;
    const auto find = [](const Shown& in, const std::string& label) {
        const auto at = std::find_if(in.begin(), in.end(), [&](const auto& p) { return p.first == label; });
        return at == in.end() ? std::string("unknown") : at->second;
    };
    for (const auto& [label, shown] : before) {
        if (const std::string now = find(after, label); now != shown)
            changes.push_back({label, shown, now});
    }
    for (const auto& [label, shown] : after) {
        if (find(before, label) == "unknown" && shown != "unknown")
            changes.push_back({label, "unknown", shown});
    }
    return changes;
}

Shown shownOf(const std::vector<Working>& figures) {
    Shown all;
    for (const Working& w : figures) {
        if (!w.isText)
            all.emplace_back(w.label, w.shown());
    }
    return all;
}

Shown shownOf(const BankFindings& b) {
    std::vector<Working> figures;
    for (const Pair& p : b.pairs) {
        for (Working w : p.figures) {
            w.label += " (" + p.figures.front().note + ")";
            figures.push_back(std::move(w));
        }
    }
    for (const RepeatGroup& g : b.repeats)
        figures.push_back(g.working);
    for (const auto& w : {b.cycles, b.usableFigure})
        if (w)
            figures.push_back(*w);
    Shown all = shownOf(figures);
    if (b.usable)
        all.emplace_back(say("usable energy against load"), b.usable->inWords());
    return all;
}

} // namespace

std::vector<FigureChange> changesBetween(const Finding& before, const Finding& after) {
    return compare(shownOf(before.figures), shownOf(after.figures));
}

std::vector<FigureChange> changesBetween(const BankFindings& before, const BankFindings& after) {
    return compare(shownOf(before), shownOf(after));
}

} // namespace otterstone::together
