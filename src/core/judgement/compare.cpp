#include "core/judgement/compare.h"

#include <algorithm>
#include <map>

#include "core/judgement/figure_keys.h"
#include "core/judgement/figures.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

std::string Cell::shown() const {
    if (!value)
        return say("not known");
    if (value->isText)
        return value->note;
    // Beside others minutes are enough; what is known better stands in the working.
    const bool minutes =
        value->unit == Unit::Second && value->value.value() >= 3600.0 && value->value.expanded() < 30.0;
    return (atLeast ? "≥ " : "") + (minutes ? showDuration(value->value.value()) : value->shown()) +
           (behind.empty() ? "" : " " + behind);
}

const std::vector<FigureKind>& figureKinds() {
    static const std::vector<FigureKind> kAll = {
        {fig::usableGentle, say("usable at 1 A, 5 V"), say("a complete drain at about 5 W"), Unit::WattHour,
         Better::More},
        {fig::usableNearFull, say("usable near full load"), say("a complete drain at 60 % or more of the best tier"),
         Unit::WattHour, Better::More},
        {fig::deliveredShare, say("delivered share"), say("of the rated energy, at 1 A, 5 V"), Unit::Share,
         Better::More},
        {fig::roundTrip, say("round trip"), say("a gentle drain and a complete recharge"), Unit::Share, Better::More},
        {fig::recharge80, say("recharge to 80 %"), say("from empty, the charger no bottleneck"), Unit::Second,
         Better::Less},
        {fig::recharge100, say("recharge to full"), say("from empty, the charger no bottleneck"), Unit::Second,
         Better::Less},
        {fig::deviceTo80, say("a device to 80 %"), say("by its own display"), Unit::Second, Better::Less},
        {fig::devicePace, say("points an hour"), say("of a device, by its own display"), Unit::Point, Better::More},
        {fig::deviceCharges, say("charges of a device"), say("from the full bank until it is empty"), Unit::None,
         Better::More},
        {fig::deviceHeat, say("heat of a device"), say("the warmest its back was while it was charged"), Unit::Celsius,
         Better::Less},
        {fig::wattsAlone, say("watts, one port"), say("the most that was drawn within tolerance"), Unit::Watt,
         Better::More},
        {fig::wattsShared, say("watts, shared"), say("the most of a sharing round"), Unit::Watt, Better::More},
        {fig::passThrough, say("pass-through"), say("source and load at once"), Unit::None, Better::Neither},
        {fig::tripMargin, say("trip margin"), say("over the printed current"), Unit::Share, Better::More},
        {fig::heat25, say("warmest, at 25 °C"), say("settled, at the highest load tried"), Unit::Celsius, Better::Less},
        {fig::gaugeError, say("display's error"), say("the greatest, in points"), Unit::Share, Better::Less},
        {fig::weight, say("weight"), say("on a scale, else as printed"), Unit::Gram, Better::Less},
        {fig::whPerKg, say("usable per kilogram"), say("at 1 A, 5 V"), Unit::WattHourPerKilogram, Better::More},
        {fig::whPerLitre, say("usable per litre"), say("at 1 A, 5 V"), Unit::WattHourPerLitre, Better::More},
        {fig::pricePerWh, say("price per usable Wh"), say("at 1 A, 5 V"), Unit::None, Better::Less},
        {fig::warranty, say("warranty"), say("as printed"), Unit::Month, Better::More},
        {fig::flight, say("in an aircraft"), say("by rated Wh"), Unit::None, Better::Neither},
    };
    return kAll;
}

const FigureKind* figureKind(std::string_view key) {
    const auto& all = figureKinds();
    const auto at = std::find_if(all.begin(), all.end(), [&](const FigureKind& k) { return k.key == key; });
    return at == all.end() ? nullptr : &*at;
}

const FigureRow* Comparison::row(std::string_view key) const {
    const auto at = std::find_if(rows.begin(), rows.end(), [&](const FigureRow& r) { return r.kind.key == key; });
    return at == rows.end() ? nullptr : &*at;
}

Comparison compare(const std::vector<Evidence>& banks) {
    Comparison c;
    for (const FigureKind& kind : figureKinds())
        c.rows.push_back({kind, {}});
    for (const Evidence& e : banks) {
        c.banks.push_back(e.name);
        auto cells = figuresOf(e);
        for (FigureRow& row : c.rows)
            row.cells.push_back(std::move(cells[row.kind.key]));
    }
    for (FigureRow& row : c.rows) {
        // Of measures the commonest is the row's own; of equals the first by name.
        std::map<std::string, int> count;
        for (const Cell& cell : row.cells)
            count[cell.measure] += cell.known() ? 1 : 0;
        const auto most = std::max_element(count.begin(), count.end(),
                                           [](const auto& a, const auto& b) { return a.second < b.second; });
        for (Cell& cell : row.cells)
            cell.unlike = cell.known() && (!cell.conditionClass.empty() || cell.measure != most->first);
    }
    return c;
}

std::string unlikeWords(const FigureRow& row, const std::vector<std::string>& banks) {
    std::string text;
    for (std::size_t k = 0; k < row.cells.size(); ++k) {
        if (row.cells[k].unlike)
            text += (text.empty() ? "" : "; ") + banks[k] + " " + row.cells[k].condition;
    }
    return text.empty() ? text : say("{} is meant for: {}. Otherwise: {}.", row.kind.words, row.kind.meant, text);
}

} // namespace otterstone::judgement
