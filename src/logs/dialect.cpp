#include "logs/dialect.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <map>

#include <fast_float/fast_float.h>

#include "core/quantity/parse.h"
#include "logs/columns.h"
#include "logs/time_cell.h"

namespace otterstone::logs {

namespace {

struct Candidate {
    Dialect dialect;
    double score = 0.0;
};

bool isTime(std::string_view cell) {
    return parseClock(cell, 3) || parseClock(cell, 2) || parseIso(cell) || parseDate(cell);
}

// A date nobody can read for sure still shows that this is a line of data.
bool looksLikeDate(std::string_view cell) {
    return !cell.empty() && std::isdigit(static_cast<unsigned char>(cell.front())) &&
           std::count(cell.begin(), cell.end(), '/') == 2;
}

// Share of cells that are readings, 0 for a line that is none: two readings at least, and half of the cells.
double dataShare(const std::vector<std::string>& cells, char decimal) {
    std::size_t readings = 0;
    std::size_t numbers = 0;
    for (const std::string& cell : cells) {
        const bool number = parseCell(cell, decimal) || isTime(cell) || looksLikeDate(cell);
        numbers += number;
        readings += number || isNoReading(cell);
    }
    if (cells.size() < 2 || numbers < 2 || readings * 2 < cells.size())
        return 0.0;
    return static_cast<double>(readings) / static_cast<double>(cells.size());
}

bool isUnitsRow(const std::vector<std::string>& cells) {
    std::size_t units = 0;
    for (const std::string& cell : cells) {
        if (cell.empty() || cell == "-")
            continue;
        if (!anyUnit(cell))
            return false;
        ++units;
    }
    return units >= 2;
}

std::size_t usefulCells(const std::vector<std::string>& cells) {
    return static_cast<std::size_t>(
        std::count_if(cells.begin(), cells.end(), [](const std::string& c) { return !c.empty(); }));
}

Candidate tryDialect(const std::vector<std::string>& lines, char delimiter, char decimal) {
    Candidate c;
    c.dialect.delimiter = delimiter;
    c.dialect.decimal = decimal;
    std::vector<std::vector<std::string>> cells;
    std::map<std::size_t, double> byFields;
    std::vector<double> share;
    for (const std::string& line : lines) {
        cells.push_back(splitLine(line, delimiter));
        share.push_back(dataShare(cells.back(), decimal));
        if (share.back() > 0.0)
            byFields[cells.back().size()] += share.back();
    }
    for (const auto& [fields, score] : byFields) {
        if (score > c.score) {
            c.score = score;
            c.dialect.fields = fields;
        }
    }
    if (c.score == 0.0)
        return c;
    std::size_t first = 0;
    while (share[first] == 0.0 || cells[first].size() != c.dialect.fields)
        ++first;
    c.dialect.firstDataLine = first;
    // The header is the nearest line above with words in at least two cells; a row of units may lie between.
    for (std::size_t k = first; k-- > 0;) {
        if (trimmed(lines[k]).empty())
            continue;
        if (!c.dialect.unitsLine && isUnitsRow(cells[k]) && k > 0) {
            // Bare "V;A" is a header unless words stand above it.
            const bool wordsAbove = k > 0 && !trimmed(lines[k - 1]).empty() && usefulCells(cells[k - 1]) >= 2;
            if (wordsAbove) {
                c.dialect.unitsLine = k;
                continue;
            }
        }
        if (usefulCells(cells[k]) >= 2)
            c.dialect.headerLine = k;
        break;
    }
    return c;
}

} // namespace

std::vector<std::string> splitLine(std::string_view line, char delimiter) {
    std::vector<std::string> cells;
    if (delimiter != ' ' && line.find_first_of("\"\r") == std::string_view::npos) { // as most lines are
        for (std::size_t at = 0; at <= line.size();) {
            const std::size_t end = std::min(line.find(delimiter, at), line.size());
            cells.emplace_back(trimmed(line.substr(at, end - at)));
            at = end + 1;
        }
        return cells;
    }
    std::string cell;
    bool quoted = false;
    bool wasQuoted = false;
    const auto finish = [&] {
        cells.emplace_back(wasQuoted ? cell : std::string(trimmed(cell)));
        cell.clear();
        wasQuoted = false;
    };
    if (delimiter == ' ')
        line = trimmed(line);
    for (std::size_t k = 0; k < line.size(); ++k) {
        const char c = line[k];
        if (quoted) {
            if (c == '"' && k + 1 < line.size() && line[k + 1] == '"')
                cell += line[++k];
            else if (c == '"')
                quoted = false;
            else
                cell += c;
        } else if (c == '"' && trimmed(cell).empty()) {
            cell.clear();
            quoted = wasQuoted = true;
        } else if (c == delimiter) {
            finish();
            while (delimiter == ' ' && k + 1 < line.size() && line[k + 1] == ' ')
                ++k;
        } else if (c != '\r') {
            cell += c;
        }
    }
    finish();
    return cells;
}

std::optional<double> parseCell(std::string_view cell, char decimal) {
    std::string_view text = trimmed(cell);
    if (!text.empty() && text.front() == '+')
        text.remove_prefix(1);
    if (text.empty() || std::isalpha(static_cast<unsigned char>(text.back())))
        return std::nullopt; // "nan", "inf", "5.0V"
    double value = 0.0;
    const auto [end, error] =
        fast_float::from_chars_advanced(text.data(), text.data() + text.size(), value,
                                        fast_float::parse_options(fast_float::chars_format::general, decimal));
    if (error != std::errc{} || end != text.data() + text.size() || !std::isfinite(value))
        return std::nullopt;
    return value;
}

bool isNoReading(std::string_view cell) {
    static constexpr std::array<std::string_view, 14> kWords = {"",         "nan", "ol", "o.l", "0l",  "-ol",  "+ol",
                                                                "overload", "-",   "--", "---", "n/a", "null", "inf"};
    const std::string small = lowered(trimmed(cell));
    return std::find(kWords.begin(), kWords.end(), small) != kWords.end();
}

Result<Dialect> recogniseDialect(const std::vector<std::string>& lines, const std::string& place) {
    Candidate best;
    // In order of preference among equals: a decimal point before a comma, and no comma as both mark and delimiter.
    const auto holds = [&](char c) {
        return std::any_of(lines.begin(), lines.end(),
                           [c](const std::string& l) { return l.find(c) != std::string::npos; });
    };
    const bool quoted = holds('"');
    for (const char delimiter : {'\t', ';', ',', '|', ' '}) {
        for (const char decimal : {'.', ','}) {
            if (!holds(delimiter) || (delimiter == decimal && !quoted))
                continue;
            Candidate c = tryDialect(lines, delimiter, decimal);
            c.dialect.quotes = quoted;
            if (c.dialect.headerLine)
                c.score *= 1.001;
            if (c.score > best.score * (1.0 + 1e-9))
                best = c;
        }
    }
    if (best.score == 0.0)
        return problem("no_table", place, "no table of numbers was found in it.",
                       "A log needs lines with a time and readings, divided by commas, semicolons, tabs or spaces.");
    return best.dialect;
}

} // namespace otterstone::logs
