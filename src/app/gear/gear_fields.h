// What can be written down of each kind of gear: the fields of its form, and its facts in one line.
#pragma once

#include <functional>
#include <vector>

#include <QString>

#include "core/records/run.h"

namespace otterstone::app {

struct GearField {
    QString label;
    QString placeholder;
    std::function<QString(const records::Gear&)> text;
    /// Takes what was typed; a problem leaves the piece unchanged.
    std::function<std::optional<Problem>(records::Gear&, const std::string&)> take;
};

[[nodiscard]] std::vector<GearField> fieldsOf(records::GearKind kind);
/// "9 V 2.2 A at most 20 W · 86 % efficient".
[[nodiscard]] QString factsOf(const records::Gear& gear);
[[nodiscard]] QString kindWords(records::GearKind kind);
[[nodiscard]] QString kindHint(records::GearKind kind);

} // namespace otterstone::app
