// Recognises what a log's columns mean, with the reason for each; what a person set by hand goes first.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "logs/columns.h"
#include "logs/dialect.h"
#include "logs/source.h"
#include "logs/time_cell.h"

namespace otterstone::logs {

struct ColumnChoice {
    Role role = Role::Time;
    std::size_t index = 0; ///< counted from 0
    std::string name;      ///< as in the header; "column 3" without one
    double factor = 1.0;
    double offset = 0.0;
    int decimals = 0;        ///< of the readings in SI units, as far as the first lines show
    int writtenDecimals = 0; ///< the same as they are written
    std::string reason;      ///< in words, for the import page
};

struct Recognition {
    Dialect dialect;
    Encoding encoding = Encoding::Utf8;
    TimeForm timeForm = TimeForm::Elapsed;
    std::vector<std::string> names; ///< all header cells
    std::vector<ColumnChoice> columns;
    std::vector<std::string> reasons;              ///< about encoding, delimiter, decimal mark, preamble
    std::vector<Warning> warnings;                 ///< e.g. unit_assumed
    std::vector<std::vector<std::string>> preview; ///< the first data lines, cut into cells
    std::string headerText;                        ///< the header line as it stands: under this a mapping is remembered

    [[nodiscard]] const ColumnChoice* column(Role role) const;
};

/// Only how the text is cut: dialect, names and preview, no columns chosen. For choosing by hand when recognise()
/// refuses. Problems: no_table.
[[nodiscard]] Result<Recognition> recogniseLayout(const OpenedLog& log);
/// Reads the beginning of the log. Problems: no_table, no_header, no_time_column, no_volts_column, no_amps_column,
/// unknown_column, unknown_unit, ambiguous_date.
[[nodiscard]] Result<Recognition> recognise(const OpenedLog& log, const Mapping& hand = {});

} // namespace otterstone::logs
