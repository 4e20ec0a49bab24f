// What can be written down of each kind of gear: the fields of its form, and its facts in one line.
#pragma once

#include <functional>
#include <vector>

#include <QString>

#include "book/records.h"

namespace otterstone::app {

struct GearField {
    QString label;
    QString placeholder;
    std::function<QString(const book::Gear&)> text;
    /// Takes what was typed; a problem leaves the piece unchanged.
    std::function<std::optional<Problem>(book::Gear&, const std::string&)> take;
};

[[nodiscard]] std::vector<GearField> fieldsOf(book::GearKind kind);
/// "9 V 2.2 A at most 20 W · 86 % efficient".
[[nodiscard]] QString factsOf(const book::Gear& gear);
[[nodiscard]] QString kindWords(book::GearKind kind);
[[nodiscard]] QString kindHint(book::GearKind kind);

} // namespace otterstone::app
