// A working as text, and its budget as a table: for terminals, and for whoever pastes it.
#include <algorithm>

#include "core/kinds/traced/json.h"
#include "core/quantity/format.h"

namespace otterstone::kinds {

std::string asText(const Working& w, int indent) {
    std::string line(static_cast<std::size_t>(indent) * 2, ' ');
    line += w.label;
    if (!w.isText)
        line += ": " + w.shown();
    if (!w.formula.empty())
        line += " = " + w.formula;
    if (!w.point.empty())
        line += " (" + w.point + ")";
    if (!w.note.empty())
        line += (w.isText ? ": " : "; ") + w.note;
    line += "\n";
    for (const Working& part : w.parts)
        line += asText(part, indent + 1);
    return line;
}

std::string budgetText(const Working& w) {
    if (w.isText || !w.value.hasDoubt())
        return {};
    auto parts = w.value.budget();
    std::sort(parts.begin(), parts.end(), [](const auto& a, const auto& b) { return a.u > b.u; });
    const double total = w.value.u() * w.value.u();
    std::string text = "source\t±\tshare\n";
    for (const Measured::BudgetLine& c : parts)
        text += c.words + "\t" + showNumber(2.0 * c.u * (w.unit == Unit::Share ? 100.0 : 1.0), 2) + " " +
                symbol(w.unit) + "\t" + showNumber(100.0 * c.u * c.u / total, 2) + " %\n";
    return text;
}

} // namespace otterstone::kinds
