// The stamps a tester can put on a moment of a run: their keys, their words, and what is typed for them.
#pragma once

#include <vector>

#include <QString>

#include "core/quantity/problem.h"
#include "core/records/mark.h"

namespace otterstone::app {

struct StampKind {
    records::Mark::What what;
    int key;      ///< Qt::Key
    QString name; ///< "display %"
    QString asks; ///< what to type; empty when nothing is needed
};
[[nodiscard]] const std::vector<StampKind>& stampKinds();
[[nodiscard]] const StampKind& stampKind(records::Mark::What what);

/// "45 %", "2 of 4 LEDs", "31 °C".
[[nodiscard]] QString markWords(const records::Mark& mark);
/// What was typed for a stamp: "45", "2 of 5", "88 °F", "1h12".
[[nodiscard]] Result<records::Mark> readStamp(records::Mark::What what, double at, const QString& typed);
/// What readStamp reads again.
[[nodiscard]] QString typedWords(const records::Mark& mark);

} // namespace otterstone::app
