// What the matrix's own files share.
#pragma once

#include <algorithm>

#include "core/kinds/matrix/matrix.h"
#include "core/quantity/parse.h"

namespace otterstone::kinds {

/// "Big + grey into Laptop (off)".
[[nodiscard]] std::string placeOf(const MatrixCell& c);
/// "Big + grey".
[[nodiscard]] std::string pairOf(const MatrixCell& c);
/// "Laptop (off)".
[[nodiscard]] std::string intoWords(const std::string& into, const std::string& state);

/// The device's own: "own charger", "its own charger".
[[nodiscard]] bool isOwnCharger(const MatrixCell& c);

/// Equal but for one axis.
[[nodiscard]] bool alikeBut(const MatrixCell& a, const MatrixCell& b, MatrixAxis axis);

/// A piece of the drawer by its name, however it is spelled.
template<class T>
const T* pieceNamed(const std::vector<T>& all, const std::string& name) {
    const auto at = std::find_if(all.begin(), all.end(),
                                 [wanted = lowered(name)](const T& t) { return lowered(t.name) == wanted; });
    return at == all.end() ? nullptr : &*at;
}

/// What worked best and what never did, and the figures.
void sayMatrix(const Facts& facts, MatrixFinding& f);
/// Whose doing it is that less, or more, came.
void blame(const Facts& facts, MatrixFinding& f);

} // namespace otterstone::kinds
