// A behaviour as it is written down: rows of cells under the columns of its kind. Hands fill it in, or the live bench
// does; the sums read nothing else, so that both ways come to one finding.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/kinds/names.h"
#include "core/quantity/problem.h"
#include "core/records/sheet.h"

namespace otterstone::kinds {

struct Column {
    std::string key;                       ///< in files
    std::string words;                     ///< its heading
    std::string hint;                      ///< what to write, with an example
    std::vector<std::string> choices = {}; ///< the words it takes; empty: anything
    bool number = false;
    bool ditto = false; ///< an empty cell means what stands above it
    bool spare = false; ///< hidden while nobody uses it
};

/// Precondition: records::hasSheet(kind).
[[nodiscard]] const std::vector<Column>& columnsOf(Kind kind);
/// With a column for each of its devices behind the first.
[[nodiscard]] std::vector<Column> columnsOf(const Sheet& sheet);

/// A row from pairs of column and cell; the rest is empty. Precondition: the columns are there.
void addRow(Sheet& sheet, const std::vector<std::pair<std::string_view, std::string>>& cells);
/// The place of a column; as many as there are when there is none of this key.
[[nodiscard]] std::size_t columnAt(const Sheet& sheet, std::string_view key);
/// A further column for a device, or one less with all its cells. Precondition: fewer than kMostDevices; it is there.
void addDevice(Sheet& sheet, std::string device);
void removeDevice(Sheet& sheet, std::size_t device);
/// Which columns are seen: those that are not spare, or hold something.
[[nodiscard]] std::vector<bool> shownColumns(const Sheet& sheet);
/// More columns nobody can read.
inline constexpr std::size_t kMostDevices = 12;
/// The key of the column of a device, counted from 0.
[[nodiscard]] std::string deviceKey(std::size_t device);
/// Of which device that is; nothing for the columns of its kind.
[[nodiscard]] std::optional<std::size_t> deviceOfKey(std::string_view key);

struct Remark {
    std::size_t row = 0;
    std::string column; ///< key
    Problem problem;
};

/// Reads a sheet row by row; what cannot be read is remarked and counts as not there.
class Rows {
public:
    Rows(const Sheet& sheet, std::vector<Remark>& remarks);
    /// To the next row that holds anything.
    bool next();
    [[nodiscard]] std::size_t at() const { return at_; }
    /// The cell, or what stands above it in a ditto column.
    [[nodiscard]] std::string text(std::string_view key) const;
    [[nodiscard]] bool empty(std::string_view key) const { return text(key).empty(); }
    /// One of the column's choices, as spelled there; empty when nothing stands there.
    [[nodiscard]] std::string choice(std::string_view key);
    /// A number that is not negative.
    [[nodiscard]] std::optional<double> number(std::string_view key);
    [[nodiscard]] std::optional<double> temperature(std::string_view key);
    /// Seconds; a bare number counts minutes unless `bare` says otherwise.
    [[nodiscard]] std::optional<double> seconds(std::string_view key, double bare = 60.0);
    /// What one digit of the cell is worth: "4.85" was read to 0.01.
    [[nodiscard]] double digit(std::string_view key) const;
    void remark(std::string_view key, std::string code, std::string text, std::string mend = {});

private:
    [[nodiscard]] std::size_t place(std::string_view key) const;

    const Sheet& sheet_;
    std::vector<Column> columns_;
    std::vector<Remark>& remarks_;
    std::vector<std::string> above_; ///< the last filled cell of each column
    std::size_t at_ = static_cast<std::size_t>(-1);
};

/// Rows of a spreadsheet's clipboard or a CSV with the columns' keys or headings in its first line; without such a line
/// the shown columns come in order from `firstColumn` on. In a notebook a heading that is no column's is a device.
[[nodiscard]] Sheet sheetFromText(Kind kind, std::string_view text, std::size_t firstColumn = 0);
/// The same for a sheet that has its devices; its own rows are left out.
[[nodiscard]] Sheet sheetFromText(Sheet sheet, std::string_view text, std::size_t firstColumn = 0);

} // namespace otterstone::kinds
