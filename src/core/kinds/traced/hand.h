// C6: readings by hand, as they are typed, into a trace.
#pragma once

#include <string>
#include <vector>

#include "core/kinds/names.h"
#include "core/path/slips.h"
#include "core/quantity/problem.h"
#include "core/records/mark.h"
#include "core/trace/sampling.h"
#include "core/trace/trace.h"

namespace otterstone::kinds {

/// One row as typed; any cell may be empty.
struct HandRow {
    std::string time; ///< "0", "15 min", "+15 min" after the row before, "1:12"; a bare number counts minutes
    std::string volts, amps, watts, percent, temperature, note;
    [[nodiscard]] bool empty() const {
        return (time + volts + amps + watts + percent + temperature + note).find_first_not_of(" \t") ==
               std::string::npos;
    }
    bool operator==(const HandRow&) const = default;
};
/// The cell of a column, 0 time … 6 note.
[[nodiscard]] std::string& cell(HandRow& row, std::size_t column);
inline constexpr std::size_t kHandColumns = 7;

struct HandRemark {
    std::size_t row = 0;
    std::string column; ///< "time", "volts", "amps", "watts", "percent", "temperature"
    Problem problem;    ///< code "watts_differ" for V·A against W: the row is taken all the same, by its V and A
};

struct HandTrace {
    trace::Trace trace;      ///< volts and amps, or watts alone where some row has no more
    std::vector<Mark> marks; ///< percents and notes
    std::vector<HandRemark> remarks;
    std::size_t rows = 0;        ///< rows that count
    double doubtWattHours = 0.0; ///< standard uncertainty: what lies between the readings
};

/// Rows with a problem are left out and named. Two of V, A and W give the third. The digits typed are the resolution.
[[nodiscard]] HandTrace readByHand(const std::vector<HandRow>& rows, trace::Between between);

/// Cells of a spreadsheet's clipboard (tabs between, a row a line) laid into rows from a column on: 0 is time, 6 the
/// note. A header line is passed over.
[[nodiscard]] std::vector<HandRow> rowsFromText(std::string_view text, std::size_t firstColumn = 0);

} // namespace otterstone::kinds
