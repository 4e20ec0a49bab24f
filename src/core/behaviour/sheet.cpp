#include "core/behaviour/sheet.h"

#include <algorithm>
#include <cmath>

#include "core/findings/heat.h"
#include "core/quantity/parse.h"

namespace otterstone::behaviour {

namespace {

constexpr const char* kBack[] = {"by itself", "replug", "button", "wait, then replug", "not yet"};

std::vector<std::string> backChoices() { return {std::begin(kBack), std::end(kBack)}; }

Column free(const char* key, const char* words, const char* hint) { return {key, words, hint}; }
Column number(const char* key, const char* words, const char* hint) { return {key, words, hint, {}, true}; }
Column ditto(const char* key, const char* words, const char* hint) { return {key, words, hint, {}, false, true}; }
Column one(const char* key, const char* words, const char* hint, std::vector<std::string> choices,
           bool repeats = false) {
    return {key, words, hint, std::move(choices), false, repeats};
}
Column note() { return free("note", "Note", "anything"); }

std::vector<Column> make(Kind kind) {
    switch (kind) {
    case Kind::Survey:
        return {ditto("port", "Port", "as printed: C1"),
                one("way", "Way", "out: it gives; in: it takes", {"out", "in"}, true),
                number("asked_v", "Asked V", "the tier asked for"),
                one("offered", "Offered", "yes or no; empty: not tried", {"yes", "no"}),
                number("amps", "A", "drawn from it (or taken in)"),
                number("volts", "V", "under that load"),
                one("handshake", "Handshake", "how charger and bank agreed",
                    {"USB PD fixed", "USB PD PPS", "USB PD AVS", "DCP 1.5 A", "divider 2.4 A", "data-line, fixed steps",
                     "data-line, 200 mV steps", "data-line, high current", "Type-C current", "none", "unknown"}),
                note()};
    case Kind::Staircase:
        return {ditto("port", "Port", "as printed: C1"),
                {"asked_v", "Asked V", "the tier", {}, true, true},
                number("amps", "A", "drawn on this step"),
                number("volts", "V", "read on it"),
                one("state", "Output", "holds, tripped or hot", {"holds", "tripped", "hot"}),
                one("back", "Came back", "after a trip", backChoices()),
                free("after", "After", "how long that took: 12 s"),
                note()};
    case Kind::Sharing:
        return {ditto("round", "Round", "rows of one number are plugged in together, in this order"),
                free("port", "Port", "as printed: C1"),
                number("alone_v", "Alone V", "with nothing else plugged in"),
                number("alone_a", "Alone A", "with nothing else plugged in"),
                number("together_v", "Together V", "with all of the round plugged in"),
                number("together_a", "Together A", "with all of the round plugged in"),
                note()};
    case Kind::PassThrough:
        return {one("corner", "Corner", "what is plugged in",
                    {"in alone", "out alone", "both", "source removed", "bank full", "device full"}),
                number("in_v", "In V", "at the bank's input"),
                number("in_a", "In A", "at the bank's input"),
                number("out_v", "Out V", "at its output"),
                number("out_a", "Out A", "at its output"),
                free("time", "Time", "source removed: how long the output was out (300 ms); full: when (2 h 10 min)"),
                one("back", "Came back", "the output, when the source went",
                    {"never went off", "by itself", "replug", "button", "stays off"}),
                note()};
    case Kind::LightLoad:
        return {one("what", "What", "what was left on its own",
                    {"load", "load, low-current mode", "idle bank", "idle charger", "idle inverter"}, true),
                number("amps", "A", "drawn"),
                one("state", "Output", "stays on or goes off", {"stays on", "goes off"}),
                free("after", "After", "until it went off, or how long it was watched: 35 s"),
                number("watts", "W", "what it burns by itself"),
                note()};
    case Kind::Matrix:
        return {ditto("charger", "Charger", "as in the gear drawer"),
                ditto("cable", "Cable", "as in the gear drawer"),
                ditto("port", "Port", "of the bank"),
                one("computer", "Computer", "on or off, where one is charged", {"on", "off"}, true),
                number("volts", "V", "negotiated"),
                number("amps", "A", "taken in"),
                number("watts", "W", "taken in"),
                note()};
    case Kind::Pad:
        return {one("way", "Way", "pad, or wire for the comparison", {"pad", "wire"}, true),
                free("time", "Time", "since this way began: 15 min"),
                number("device", "Device %", "by its own display"),
                number("bank", "Bank %", "by its own display"),
                free("celsius", "°C", "of the device's back"),
                number("watts", "W", "shown by device, pad or meter"),
                note()};
    case Kind::Directions:
        return {ditto("port", "Port", "of this bank"),
                free("other", "Joined to", "the other bank, or a computer"),
                free("other_port", "Its port", "as printed"),
                one("how", "How", "as it comes, forced by a button or a setting, or with the plugs in the other order",
                    {"as it comes", "forced", "other end first"}),
                one("result", "This bank", "gives, takes, or nothing flows", {"gives", "takes", "nothing"}),
                number("watts", "W", "that flow"),
                note()};
    case Kind::Cells:
        return {free("cell", "Cell", "1, 2, …; the word input for what the bank takes in"),
                number("volts", "V", "over the cell"), number("amps", "A", "into the cell"), note()};
    case Kind::Drain:
    case Kind::Recharge: break;
    }
    return {};
}

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

const std::vector<Column>& columnsOf(Kind kind) {
    static const std::vector<std::vector<Column>> kAll = [] {
        std::vector<std::vector<Column>> all;
        for (int k = 0; k <= static_cast<int>(Kind::Cells); ++k)
            all.push_back(make(static_cast<Kind>(k)));
        return all;
    }();
    return kAll[static_cast<std::size_t>(kind)];
}

std::size_t Sheet::column(std::string_view key) const {
    const auto& all = columnsOf(kind);
    return static_cast<std::size_t>(
        std::find_if(all.begin(), all.end(), [key](const Column& c) { return c.key == key; }) - all.begin());
}

void Sheet::add(const std::vector<std::pair<std::string_view, std::string>>& cells) {
    auto& row = rows.emplace_back(columnsOf(kind).size());
    for (const auto& [key, text] : cells)
        row.at(column(key)) = text;
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
    const std::size_t k = sheet_.column(key);
    const auto& row = sheet_.rows[at_];
    const std::string own = k < row.size() ? std::string(trimmed(row[k])) : std::string();
    return own.empty() && columnsOf(sheet_.kind)[k].ditto ? above_[k] : own;
}

void Rows::remark(std::string_view key, std::string code, std::string text, std::string mend) {
    const Column& c = columnsOf(sheet_.kind)[sheet_.column(key)];
    remarks_.push_back(
        {at_,
         std::string(key),
         {std::move(code), "row " + std::to_string(at_ + 1) + ", " + c.words, std::move(text), std::move(mend)}});
}

std::string Rows::choice(std::string_view key) {
    const std::string written = text(key);
    if (written.empty())
        return {};
    const auto& choices = columnsOf(sheet_.kind)[sheet_.column(key)].choices;
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
    const auto value = findings::parseTemperature(written);
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

} // namespace otterstone::behaviour
