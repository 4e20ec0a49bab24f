// What a book or a bundle holds is not always what we wrote: every cell, text and JSON is checked as it is read.
// Internal to this folder.
#pragma once

#include <optional>
#include <stdexcept>
#include <string>
#include <utility>

#include <QByteArray>

#include "core/quantity/say.h"

namespace otterstone::book {

class Answer;
class Cell;

/// A cell that cannot be what it should: where ("details: clock_factor") and what is wrong with it. Turned into a
/// Problem by guarded(), or into one damaged record among whole ones.
class Damage : public std::runtime_error {
public:
    Damage(const std::string& where, Spoken what)
        : std::runtime_error((where.empty() ? std::string() : where + ": ") + std::move(what).text()) {}
};

/// No text of ours is longer.
inline constexpr qsizetype kLongestText = 16 << 20;

/// The number itself when a figure can have it (kLargestFigure); else Damage.
double checkedFigure(double value, const std::string& where);

/// What stands in a cell, for a sentence about it: some sixty characters that can be seen, whatever it holds.
[[nodiscard]] std::string inShort(const Cell& cell);

/// One row as it is read: each cell is of its type and in its bounds, or Damage names its column.
class Row {
public:
    explicit Row(const Answer& answer) : answer_(answer) {}
    [[nodiscard]] bool empty(int at) const;
    [[nodiscard]] double number(int at) const;
    [[nodiscard]] std::optional<double> maybe(int at) const;
    [[nodiscard]] long long whole(int at) const;
    [[nodiscard]] std::optional<long long> maybeWhole(int at) const;
    [[nodiscard]] bool flag(int at) const;
    [[nodiscard]] std::string text(int at) const;
    [[nodiscard]] QByteArray blob(int at) const; ///< empty when there is none

private:
    const Answer& answer_;
};

} // namespace otterstone::book
