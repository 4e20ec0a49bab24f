// Banks side by side: one table of figures, each cell with its working and the condition it was found under.
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "core/evidence/evidence.h"
#include "core/quantity/working.h"

namespace otterstone::judgement {

using evidence::Evidence;

struct Cell {
    std::optional<Working> value; ///< nothing: not known; a text figure has its words in the note
    std::string code;             ///< of text figures, for gates: "carry-on", "source_first"
    std::string condition;        ///< "5.1 W at 5 V", "charger of 20 W"
    std::string conditionClass;   ///< what differs from the figure's meant condition; empty: as it is meant
    std::string measure;  ///< currency, or of which device; cells of different ones cannot be held against each other
    std::string behind;   ///< shown behind the number, where its unit is none: a currency
    bool atLeast = false; ///< nobody asked for more: what it can do is this or more
    long long run = 0;    ///< to open; 0: none
    bool unlike = false;  ///< found under another condition than the figure is meant for
    [[nodiscard]] bool known() const { return value.has_value(); }
    /// What the table shows: digits by the uncertainty, "≥" before a bound, a currency behind, "not known" for nothing.
    [[nodiscard]] std::string shown() const;
};

enum class Better { More, Less, Neither };

struct FigureKind {
    std::string key;
    std::string words;
    std::string meant; ///< the condition under which it is meant
    Unit unit = Unit::None;
    Better better = Better::Neither;
};
/// All figures of the table, in its order.
[[nodiscard]] const std::vector<FigureKind>& figureKinds();
[[nodiscard]] const FigureKind* figureKind(std::string_view key);

struct FigureRow {
    FigureKind kind;
    std::vector<Cell> cells; ///< by bank
};

struct Comparison {
    std::vector<std::string> banks;
    std::vector<FigureRow> rows;
    [[nodiscard]] const FigureRow* row(std::string_view key) const;
};
using SharedComparison = std::shared_ptr<const Comparison>;

/// Common practice, no published source, for the choice of figures; each figure's own sum has its source where it is
/// worked out.
[[nodiscard]] Comparison compare(const std::vector<Evidence>& banks);
/// "Near full: unlike conditions: Cobble 10 at 18 W (90 % of its best tier) …"; empty when all cells are alike.
[[nodiscard]] std::string unlikeWords(const FigureRow& row, const std::vector<std::string>& banks);

} // namespace otterstone::judgement
