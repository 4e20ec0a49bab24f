#include "core/kinds/rows.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/traced/heat.h"
#include "core/quantity/parse.h"

namespace otterstone::kinds {

namespace {

// Cells of one line; quotes as in RFC 4180.
std::vector<std::string> cellsOf(std::string_view line, char separator) {
    std::vector<std::string> cells(1);
    bool quoted = false;
    for (std::size_t k = 0; k < line.size(); ++k) {
        if (quoted && line[k] == '"' && k + 1 < line.size() && line[k + 1] == '"')
            cells.back() += line[k++];
        else if (line[k] == '"')
            quoted = !quoted;
        else if (line[k] == separator && !quoted)
            cells.emplace_back();
        else
            cells.back() += line[k];
    }
    for (std::string& c : cells)
        c = std::string(trimmed(c));
    return cells;
}

char separatorOf(std::string_view line) {
    for (const char c : {'\t', ';', ','}) {
        if (line.find(c) != std::string_view::npos)
            return c;
    }
    return '\t';
}

} // namespace

std::size_t columnAt(Kind kind, std::string_view key) {
    const auto& all = columnsOf(kind);
    return static_cast<std::size_t>(
        std::find_if(all.begin(), all.end(), [key](const Column& c) { return c.key == key; }) - all.begin());
}

void addRow(Sheet& sheet, const std::vector<std::pair<std::string_view, std::string>>& cells) {
    auto& row = sheet.rows.emplace_back(columnsOf(sheet.kind).size());
    for (const auto& [key, text] : cells)
        row.at(columnAt(sheet.kind, key)) = text;
}

Rows::Rows(const Sheet& sheet, std::vector<Remark>& remarks)
    : sheet_(sheet), remarks_(remarks), above_(columnsOf(sheet.kind).size()) {}

bool Rows::next() {
    const auto& columns = columnsOf(sheet_.kind);
    for (++at_; at_ < sheet_.rows.size(); ++at_) {
        const auto& row = sheet_.rows[at_];
        bool any = false;
        for (std::size_t k = 0; k < std::min(row.size(), columns.size()); ++k) {
            if (trimmed(row[k]).empty())
                continue;
            above_[k] = std::string(trimmed(row[k]));
            any = true;
        }
        if (any)
            return true;
    }
    return false;
}

std::string Rows::text(std::string_view key) const {
    const std::size_t k = columnAt(sheet_.kind, key);
    const auto& row = sheet_.rows[at_];
    const std::string own = k < row.size() ? std::string(trimmed(row[k])) : std::string();
    return own.empty() && columnsOf(sheet_.kind)[k].ditto ? above_[k] : own;
}

void Rows::remark(std::string_view key, std::string code, std::string text, std::string mend) {
    const Column& c = columnsOf(sheet_.kind)[columnAt(sheet_.kind, key)];
    remarks_.push_back(
        {at_,
         std::string(key),
         {std::move(code), "row " + std::to_string(at_ + 1) + ", " + c.words, std::move(text), std::move(mend)}});
}

std::string Rows::choice(std::string_view key) {
    const std::string written = text(key);
    if (written.empty())
        return {};
    const auto& choices = columnsOf(sheet_.kind)[columnAt(sheet_.kind, key)].choices;
    const std::string wanted = lowered(written);
    std::vector<std::string> fitting;
    for (const std::string& c : choices) {
        if (lowered(c) == wanted)
            return c;
        if (lowered(c).starts_with(wanted))
            fitting.push_back(c);
    }
    if (fitting.size() == 1) // "rep" is replug
        return fitting.front();
    std::string words;
    for (const std::string& c : choices)
        words += (words.empty() ? "" : ", ") + c;
    remark(key, "unknown_word", "“" + written + "” is none of its words.", "Write one of: " + words + ".");
    return {};
}

std::optional<double> Rows::number(std::string_view key) {
    const std::string written = text(key);
    if (written.empty())
        return std::nullopt;
    const auto value = parseNumber(written);
    if (!value) {
        remark(key, value.error().code, value.error().text, value.error().mend);
        return std::nullopt;
    }
    if (*value < 0.0) {
        remark(key, "negative", "must not be negative.", "Write what flowed as a positive number.");
        return std::nullopt;
    }
    return *value;
}

std::optional<double> Rows::temperature(std::string_view key) {
    const std::string written = text(key);
    if (written.empty())
        return std::nullopt;
    const auto value = parseTemperature(written);
    if (!value) {
        remark(key, value.error().code, value.error().text, value.error().mend);
        return std::nullopt;
    }
    return *value;
}

std::optional<double> Rows::seconds(std::string_view key, double bare) {
    const std::string written = text(key);
    if (written.empty())
        return std::nullopt;
    const auto value = parseDuration(written, {}, bare);
    if (!value) {
        remark(key, value.error().code, value.error().text, value.error().mend);
        return std::nullopt;
    }
    return *value;
}

double Rows::digit(std::string_view key) const {
    const std::string written = text(key);
    const std::size_t point = written.find_last_of(".,");
    return point == std::string::npos ? 1.0 : std::pow(10.0, -static_cast<double>(written.size() - point - 1));
}

Sheet sheetFromText(Kind kind, std::string_view text, std::size_t firstColumn) {
    const auto& columns = columnsOf(kind);
    Sheet sheet{kind, {}};
    std::vector<std::size_t> order;
    for (std::size_t k = firstColumn; k < columns.size(); ++k)
        order.push_back(k);
    const char separator = separatorOf(text.substr(0, text.find('\n')));
    bool first = true;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find('\n'), text.size());
        std::string_view line = text.substr(0, end);
        text.remove_prefix(std::min(end + 1, text.size()));
        if (line.starts_with("\xEF\xBB\xBF"))
            line.remove_prefix(3);
        if (trimmed(line).empty())
            continue;
        if (line.ends_with('\r'))
            line.remove_suffix(1);
        const auto cells = cellsOf(line, separator);
        if (std::exchange(first, false)) {
            // A line of known headings names the columns.
            std::vector<std::size_t> named;
            for (const std::string& c : cells) {
                const auto at = std::find_if(columns.begin(), columns.end(), [&](const Column& column) {
                    return column.key == lowered(c) || lowered(column.words) == lowered(c);
                });
                named.push_back(static_cast<std::size_t>(at - columns.begin()));
            }
            if (std::count_if(named.begin(), named.end(), [&](std::size_t k) { return k < columns.size(); }) >= 2) {
                order = named;
                continue;
            }
        }
        auto& row = sheet.rows.emplace_back(columns.size());
        for (std::size_t k = 0; k < std::min(cells.size(), order.size()); ++k) {
            if (order[k] < columns.size())
                row[order[k]] = cells[k].starts_with('\'') ? cells[k].substr(1) : cells[k];
        }
    }
    return sheet;
}

} // namespace otterstone::kinds
