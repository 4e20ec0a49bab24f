#include "logs/csv.h"

#include <array>
#include <charconv>
#include <cmath>
#include <utility>

namespace otterstone::logs {

std::string textCell(std::string_view text) {
    std::string safe;
    if (!text.empty() && (std::string_view("=+-@").find(text.front()) != std::string_view::npos ||
                          static_cast<unsigned char>(text.front()) < 0x20))
        safe += '\'';
    safe += text;
    if (safe.find_first_of(",;\"\r\n\t") == std::string::npos)
        return safe;
    std::string quoted = "\"";
    for (const char c : safe) {
        if (c == '"')
            quoted += '"';
        quoted += c;
    }
    return quoted + "\"";
}

std::string numberCell(double value) {
    if (std::isnan(value))
        return {};
    std::array<char, 32> buffer{};
    const auto result = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value);
    return {buffer.data(), result.ptr};
}

void writeTrace(std::ostream& out, const trace::Trace& trace) {
    std::string row;
    trace::Trace::eachColumn(trace, [&](const auto& c, const char* name) {
        if (!c.empty())
            row += (row.empty() ? "" : ",") + std::string(name);
    });
    out << row << "\r\n";
    for (std::size_t k = 0; k < trace.size(); ++k) {
        row.clear();
        bool first = true;
        trace::Trace::eachColumn(trace, [&](const auto& c, const char*) {
            if (c.empty())
                return;
            if (!std::exchange(first, false))
                row += ',';
            row += numberCell(c[k]);
        });
        out << row << "\r\n";
    }
}

std::string sheetCsv(const records::Sheet& sheet) {
    const auto columns = kinds::columnsOf(sheet);
    std::string out;
    for (std::size_t k = 0; k < columns.size(); ++k)
        out += (k == 0 ? "" : ",") + (kinds::deviceOfKey(columns[k].key) ? textCell(columns[k].words) : columns[k].key);
    out += "\r\n";
    for (const auto& row : sheet.rows) {
        for (std::size_t k = 0; k < columns.size(); ++k)
            out += (k == 0 ? "" : ",") + (k < row.size() ? textCell(row[k]) : std::string());
        out += "\r\n";
    }
    return out;
}

} // namespace otterstone::logs
