#include "logs/layout.h"

#include <algorithm>

#include "core/quantity/parse.h"

#include "core/quantity/say.h"

namespace otterstone::logs {

namespace {

constexpr std::size_t kMostLines = 400;
constexpr std::size_t kPreviewLines = 12;

std::vector<std::string> firstLines(const OpenedLog& log) {
    std::string head(kLookAt, '\0');
    head.resize(log.source->read(log.start, head.data(), head.size()));
    const bool cut = head.size() == kLookAt;
    if (log.encoding == Encoding::Latin1)
        head = latin1ToUtf8(head);
    std::vector<std::string> lines;
    std::size_t at = 0;
    while (at < head.size() && lines.size() < kMostLines) {
        std::size_t end = head.find('\n', at);
        if (end == std::string::npos) {
            if (cut && !lines.empty())
                break; // the last line may be half
            end = head.size();
        }
        std::string line = head.substr(at, end - at);
        if (!line.empty() && line.back() == '\r')
            line.pop_back();
        lines.push_back(std::move(line));
        at = end + 1;
    }
    return lines;
}

std::string delimiterWords(char c) {
    switch (c) {
    case '\t': return "tabs";
    case ';': return "semicolons";
    case ',': return "commas";
    case '|': return "bars";
    default: return "spaces";
    }
}

void describe(Recognition& r, const std::vector<std::vector<std::string>>& rows) {
    r.reasons.push_back(say("Text in {}, cells divided by {}, decimal {}", encodingName(r.encoding),
                            delimiterWords(r.dialect.delimiter),
                            (r.dialect.decimal == '.' ? say("point.") : say("comma."))));
    const std::size_t preamble = r.dialect.headerLine.value_or(r.dialect.firstDataLine);
    if (preamble > 0)
        r.reasons.push_back(say("{}{} before the header passed over.", std::to_string(preamble),
                                (preamble == 1 ? say(" line") : say(" lines"))));
    for (const auto& row : rows) {
        const bool blank = row.size() == 1 && row.front().empty();
        if (!blank && r.preview.size() < kPreviewLines)
            r.preview.push_back(row);
    }
}

std::vector<std::string> splitAtWideSpaces(const std::string& line) {
    std::vector<std::string> cells;
    std::size_t at = line.find_first_not_of(' ');
    while (at < line.size()) {
        const std::size_t end = std::min(line.find("  ", at), line.size());
        cells.emplace_back(trimmed(line.substr(at, end - at)));
        at = std::min(line.find_first_not_of(' ', end), line.size());
    }
    return cells;
}

std::vector<HeaderCell> readHeader(Recognition& r, const std::vector<std::string>& lines) {
    std::vector<HeaderCell> headers;
    if (r.dialect.headerLine) {
        r.headerText = lines[*r.dialect.headerLine];
        r.names = splitLine(r.headerText, r.dialect.delimiter);
        // Space-divided tables often have headers like "Time (s)   Voltage (V)".
        if (r.dialect.delimiter == ' ' && r.names.size() != r.dialect.fields)
            r.names = splitAtWideSpaces(r.headerText);
    }
    for (std::size_t k = r.names.size(); k < r.dialect.fields; ++k)
        r.names.push_back(say("column {}", std::to_string(k + 1)));
    std::vector<std::string> units;
    if (r.dialect.unitsLine)
        units = splitLine(lines[*r.dialect.unitsLine], r.dialect.delimiter);
    for (std::size_t k = 0; k < r.names.size(); ++k) {
        HeaderCell h = splitHeader(r.names[k]);
        if (h.unit.empty() && k < units.size() && anyUnit(units[k])) {
            h.unit = units[k];
            if (h.unit.size() > 2 && (h.unit.front() == '[' || h.unit.front() == '('))
                h.unit = h.unit.substr(1, h.unit.size() - 2);
        }
        headers.push_back(std::move(h));
    }
    return headers;
}

} // namespace

std::vector<std::string> Layout::cellsOf(std::size_t index) const {
    std::vector<std::string> cells;
    for (const auto& row : rows) {
        if (index < row.size() && !isNoReading(row[index]))
            cells.push_back(row[index]);
    }
    return cells;
}

Result<Layout> layoutOf(const OpenedLog& log) {
    Layout l;
    l.lines = firstLines(log);
    const auto dialect = recogniseDialect(l.lines, log.name);
    if (!dialect)
        return tl::unexpected(dialect.error());
    l.found.dialect = *dialect;
    l.found.encoding = log.encoding;
    for (std::size_t k = dialect->firstDataLine; k < l.lines.size(); ++k)
        l.rows.push_back(splitLine(l.lines[k], dialect->delimiter));
    describe(l.found, l.rows);
    l.headers = readHeader(l.found, l.lines);
    return l;
}

} // namespace otterstone::logs
