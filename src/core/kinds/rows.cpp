#include "core/kinds/rows.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/columns.h"
#include "core/kinds/traced/heat.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

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

std::size_t columnAt(const Sheet& sheet, std::string_view key) {
    const auto all = columnsOf(sheet);
    return static_cast<std::size_t>(std::ranges::find(all, key, &Column::key) - all.begin());
}

void addRow(Sheet& sheet, const std::vector<std::pair<std::string_view, std::string>>& cells) {
    auto& row = sheet.rows.emplace_back(columnsOf(sheet).size());
    for (const auto& [key, text] : cells)
        row.at(columnAt(sheet, key)) = text;
}

std::string deviceKey(std::size_t device) { return "device " + std::to_string(device + 1); }

std::optional<std::size_t> deviceOfKey(std::string_view key) {
    for (std::size_t k = 0; k < kMostDevices; ++k) {
        if (key == deviceKey(k))
            return k;
    }
    return std::nullopt;
}

std::vector<Column> columnsOf(const Sheet& sheet) {
    std::vector<Column> all = columnsOf(sheet.kind);
    for (std::size_t k = 0; k < sheet.devices.size(); ++k)
        all.insert(
            all.begin() + 1 + static_cast<std::ptrdiff_t>(k),
            {deviceKey(k), sheet.devices[k], say("what it showed: 83 %, 2 of 4, full, stopped; “83 %, 25 min left”")});
    return all;
}

void addDevice(Sheet& sheet, std::string device) {
    for (auto& row : sheet.rows) {
        row.resize(columnsOf(sheet).size());
        row.insert(row.begin() + 1 + static_cast<std::ptrdiff_t>(sheet.devices.size()), std::string());
    }
    sheet.devices.push_back(std::move(device));
}

void removeDevice(Sheet& sheet, std::size_t device) {
    for (auto& row : sheet.rows) {
        if (row.size() > device + 1)
            row.erase(row.begin() + 1 + static_cast<std::ptrdiff_t>(device));
    }
    sheet.devices.erase(sheet.devices.begin() + static_cast<std::ptrdiff_t>(device));
}

std::vector<bool> shownColumns(const Sheet& sheet) {
    const auto columns = columnsOf(sheet);
    std::vector<bool> shown(columns.size());
    for (std::size_t k = 0; k < columns.size(); ++k)
        shown[k] = !columns[k].spare ||
                   std::ranges::any_of(sheet.rows, [k](const auto& row) { return k < row.size() && !row[k].empty(); });
    return shown;
}

Rows::Rows(const Sheet& sheet, std::vector<Remark>& remarks)
    : sheet_(sheet), columns_(columnsOf(sheet)), remarks_(remarks), above_(columns_.size()) {}

std::size_t Rows::place(std::string_view key) const {
    return static_cast<std::size_t>(std::ranges::find(columns_, key, &Column::key) - columns_.begin());
}

bool Rows::next() {
    for (++at_; at_ < sheet_.rows.size(); ++at_) {
        const auto& row = sheet_.rows[at_];
        bool any = false;
        for (std::size_t k = 0; k < std::min(row.size(), columns_.size()); ++k) {
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
    const std::size_t k = place(key);
    const auto& row = sheet_.rows[at_];
    const std::string own = k < row.size() ? std::string(trimmed(row[k])) : std::string();
    return own.empty() && columns_[k].ditto ? above_[k] : own;
}

void Rows::remark(std::string_view key, std::string code, std::string text, std::string mend) {
    const Column& c = columns_[place(key)];
    remarks_.push_back(
        {at_,
         std::string(key),
         {std::move(code), say("row {}, {}", std::to_string(at_ + 1), c.words), std::move(text), std::move(mend)}});
}

std::string Rows::choice(std::string_view key) {
    const std::string written = text(key);
    if (written.empty())
        return {};
    const auto& choices = columns_[place(key)].choices;
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
    remark(key, "unknown_word", say("“{}” is none of its words.", written), say("Write one of: {}.", words));
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
    return sheetFromText(Sheet{kind, {}}, text, firstColumn);
}

namespace {

// The columns that a line of headings names, those of a notebook's new devices with them; empty when it is none.
std::vector<std::size_t> namedBy(const std::vector<std::string>& headings, Sheet& sheet) {
    const auto columnOf = [](const std::vector<Column>& columns, const std::string& heading) {
        const auto at = std::ranges::find_if(columns, [&](const Column& column) {
            return column.key == lowered(heading) || lowered(column.words) == lowered(heading);
        });
        return static_cast<std::size_t>(at - columns.begin());
    };
    const auto before = columnsOf(sheet);
    const auto known =
        std::ranges::count_if(headings, [&](const auto& h) { return columnOf(before, h) < before.size(); });
    if (sheet.kind == Kind::Notebook && known >= 1 && columnOf(before, headings.front()) == 0) {
        for (const std::string& h : headings) {
            if (columnOf(before, h) == before.size() && !h.empty() && sheet.devices.size() < kMostDevices)
                sheet.devices.push_back(h);
        }
    } else if (known < 2) {
        return {};
    }
    std::vector<std::size_t> named;
    named.reserve(headings.size());
    for (const std::string& h : headings)
        named.push_back(columnOf(columnsOf(sheet), h));
    return named;
}

} // namespace

Sheet sheetFromText(Sheet sheet, std::string_view text, std::size_t firstColumn) {
    const auto shown = shownColumns(sheet);
    std::vector<std::size_t> order;
    for (std::size_t k = firstColumn; k < shown.size(); ++k) {
        if (shown[k] || k == firstColumn)
            order.push_back(k);
    }
    sheet.rows.clear();
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
            if (auto named = namedBy(cells, sheet); !named.empty()) {
                order = std::move(named);
                continue;
            }
        }
        auto& row = sheet.rows.emplace_back(columnsOf(sheet).size());
        for (std::size_t k = 0; k < std::min(cells.size(), order.size()); ++k) {
            if (order[k] < row.size())
                row[order[k]] = cells[k].starts_with('\'') ? cells[k].substr(1) : cells[k];
        }
    }
    return sheet;
}

} // namespace otterstone::kinds
