// What a tester pulled wide or narrow stays so, from one start to the next.
#pragma once

#include <functional>
#include <optional>

#include <QString>

class QHeaderView;
class QSplitter;

namespace otterstone::app {

/// Keeps the width of each column that is pulled at, under its name among the settings; what has no name is not kept.
void keepColumns(QHeaderView* header, std::function<QString(int)> name);
/// As it was left; nothing where nobody pulled at it, or where it would be of no use.
[[nodiscard]] std::optional<int> keptWidth(const QString& name);

/// The parts of a splitter as they were left, and kept as they are moved. Call when all its parts are in it.
void keepParts(QSplitter* splitter, const QString& name);

} // namespace otterstone::app
