#include "logs/csv.h"

#include <array>
#include <charconv>
#include <cmath>
#include <vector>

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
    std::vector<const trace::Column*> columns;
    trace::Trace::eachColumn(trace, [&](const trace::Column& c, const char* name) {
        if (c.empty())
            return;
        out << (columns.empty() ? "" : ",") << name;
        columns.push_back(&c);
    });
    out << "\r\n";
    for (std::size_t row = 0; row < trace.size(); ++row) {
        for (std::size_t c = 0; c < columns.size(); ++c)
            out << (c == 0 ? "" : ",") << numberCell((*columns[c])[row]);
        out << "\r\n";
    }
}

} // namespace otterstone::logs
