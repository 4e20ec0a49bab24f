#include "logs/live_lines.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/parse.h"
#include "logs/dialect.h"
#include "logs/recogniser.h"
#include "logs/source.h"
#include "logs/time_cell.h"

#include "core/quantity/say.h"

namespace otterstone::logs {

namespace {

constexpr std::size_t kLeastLines = 4;
constexpr double kProductTolerance = 0.02; // volts × amps against watts: their last digits

const LineFormat::Cell* cellOf(const LineFormat& format, Role role) {
    for (const LineFormat::Cell& c : format.meaning) {
        if (c.role == role)
            return &c;
    }
    return nullptr;
}

} // namespace

Result<LiveLines> LiveLines::make(const LineFormat& format, const std::string& place) {
    LiveLines lines;
    lines.format_ = format;
    for (const auto& [role, code] : {std::pair(Role::Volts, "no_volts_column"), {Role::Amps, "no_amps_column"}}) {
        if (!cellOf(format, role))
            return problem(code, place, say("no column is named as {}.", roleKey(role)),
                           "Name one in “columns”, counted from 1.");
    }
    for (const LineFormat::Cell& c : format.meaning) {
        if (c.index >= format.cells)
            return problem(
                "unknown_column", place,
                say("column {} is beyond the {} of a line.", std::to_string(c.index + 1), std::to_string(format.cells)),
                "Columns are counted from 1.");
        const auto scale = c.unit.empty() ? std::optional(UnitScale{c.role, 1.0, 0.0, false}) : unitFor(c.role, c.unit);
        if (!scale)
            return problem("unknown_unit", place, say("“{}” is no unit for {}.", c.unit, roleKey(c.role)),
                           "For example V, mV, A, mA, s, ms, °C.");
        lines.columns_.push_back({c.role, c.index, *scale});
    }
    return lines;
}

tl::expected<LiveReading, std::string> LiveLines::read(std::string_view line) const {
    const std::vector<std::string> cells = splitLine(line, format_.delimiter);
    if (cells.size() != format_.cells)
        return tl::unexpected(
            say("{} cells instead of {}", std::to_string(cells.size()), std::to_string(format_.cells)));
    LiveReading reading;
    for (const Column& c : columns_) {
        const std::string& cell = cells[c.index];
        const bool clock = c.role == Role::Time && cell.find(':') != std::string::npos;
        const auto number = clock ? parseClock(cell, 3) : parseCell(cell, format_.decimal);
        const bool needed = c.role == Role::Volts || c.role == Role::Amps || c.role == Role::Time;
        if (!number) {
            if (!needed)
                continue;
            return tl::unexpected(isNoReading(cell) ? say("no reading of {}", roleKey(c.role))
                                                    : say("its {} cannot be read", roleKey(c.role)));
        }
        const double value = clock ? *number : *number * c.scale.factor + c.scale.offset;
        switch (c.role) {
        case Role::Time: reading.time = value; break;
        case Role::Volts: reading.volts = value; break;
        case Role::Amps: reading.amps = value; break;
        case Role::Temperature: reading.celsius = value; break;
        case Role::Percent: reading.percent = value; break;
        default: break;
        }
    }
    return reading;
}

namespace {

struct Numbers {
    std::vector<std::vector<double>> columns;
    char delimiter = ',';
    char decimal = '.';
};

// The lines as numbers, by the delimiter that gives the most equally wide ones.
std::optional<Numbers> cut(const std::vector<std::string>& lines) {
    std::optional<Numbers> best;
    for (const auto& [delimiter, decimal] :
         {std::pair(',', '.'), {';', ','}, {';', '.'}, {'\t', '.'}, {'\t', ','}, {' ', '.'}, {' ', ','}}) {
        std::vector<std::vector<double>> rows;
        std::size_t width = 0;
        for (const std::string& line : lines) {
            const auto cells = splitLine(line, delimiter);
            std::vector<double> row;
            for (const std::string& cell : cells) {
                const auto number =
                    cell.find(':') != std::string::npos ? parseClock(cell, 3) : parseCell(cell, decimal);
                if (!number)
                    break;
                row.push_back(*number);
            }
            if (row.size() != cells.size() || row.size() < 2 || (width != 0 && row.size() != width))
                continue;
            width = row.size();
            rows.push_back(std::move(row));
        }
        if (rows.size() < kLeastLines || rows.size() * 2 < lines.size() || (best && best->columns.size() >= width))
            continue;
        Numbers n{std::vector<std::vector<double>>(width), delimiter, decimal};
        for (const auto& row : rows) {
            for (std::size_t k = 0; k < width; ++k)
                n.columns[k].push_back(row[k]);
        }
        best = std::move(n);
    }
    return best;
}

bool isProduct(const std::vector<double>& a, const std::vector<double>& b, const std::vector<double>& c) {
    bool anything = false;
    for (std::size_t k = 0; k < a.size(); ++k) {
        if (std::fabs(a[k] * b[k] - c[k]) > kProductTolerance * std::max(0.5, std::fabs(c[k])))
            return false;
        anything |= std::fabs(c[k]) > 0.05;
    }
    return anything;
}

double mean(const std::vector<double>& v) {
    double sum = 0.0;
    for (const double x : v)
        sum += x;
    return sum / static_cast<double>(v.size());
}

// A header among the lines, read by the recogniser as a log's would be.
std::optional<GuessedFormat> byHeader(const std::vector<std::string>& lines, const std::string& place) {
    std::string text;
    for (const std::string& l : lines)
        text += l + "\n";
    const auto opened = openText(text, place);
    const auto recognised = opened ? recognise(*opened) : Result<Recognition>(tl::unexpected(opened.error()));
    if (!recognised || !recognised->dialect.headerLine || !recognised->column(Role::Volts) ||
        !recognised->column(Role::Amps))
        return std::nullopt;
    GuessedFormat g;
    g.format = {recognised->dialect.delimiter, recognised->dialect.decimal, recognised->dialect.fields, {}};
    for (const ColumnChoice& c : recognised->columns) {
        // The unit that scales as the recogniser found.
        std::string unit;
        for (const char* u : {"ms", "min", "h", "mV", "uV", "mA", "uA", "°F"}) {
            const auto scale = unitFor(c.role, u);
            if (scale && scale->factor == c.factor && scale->offset == c.offset && c.factor != 1.0)
                unit = u;
        }
        if (c.role != Role::Watts && c.role != Role::Date && c.role != Role::EnergyCounter &&
            c.role != Role::ChargeCounter)
            g.format.meaning.push_back({c.role, c.index, unit});
        g.reasons.push_back(say("column {} is {}: {}", std::to_string(c.index + 1), roleKey(c.role), c.reason));
    }
    return g;
}

} // namespace

Result<GuessedFormat> guessFormat(const std::vector<std::string>& lines, const std::string& place) {
    if (auto named = byHeader(lines, place))
        return *named;
    const auto numbers = cut(lines);
    if (!numbers)
        return problem("no_table", place, "the lines heard do not look like columns of numbers.",
                       "Check the baud rate, and that the meter is printing.");
    const auto& columns = numbers->columns;
    const std::size_t width = columns.size();
    GuessedFormat g;
    g.format = {numbers->delimiter, numbers->decimal, width, {}};
    std::vector<bool> taken(width, false);
    const auto name = [&](std::size_t k, Role role, const std::string& unit, const std::string& why) {
        taken[k] = true;
        if (role != Role::Watts)
            g.format.meaning.push_back({role, k, unit});
        g.reasons.push_back(say("column {} is {}: {}", std::to_string(k + 1), roleKey(role), why));
    };
    // A clock only ever rises, and by even steps.
    for (std::size_t k = 0; k < width; ++k) {
        const auto& c = columns[k];
        const double step = (c.back() - c.front()) / static_cast<double>(c.size() - 1);
        bool even = step > 0.0;
        for (std::size_t j = 1; even && j < c.size(); ++j)
            even = std::fabs(c[j] - c[j - 1] - step) < 0.5 * step;
        if (even) {
            name(k, Role::Time, step >= 20.0 ? "ms" : "s",
                 say("it rises by even steps of {}", std::to_string(step).substr(0, 5)));
            break;
        }
    }
    // Volts × amps = watts tells three columns at once; the greater of the two factors is volts on nearly every USB
    // port.
    bool found = false;
    for (std::size_t w = 0; w < width && !found; ++w) {
        for (std::size_t a = 0; a < width && !found; ++a) {
            for (std::size_t b = 0; b < width && !found; ++b) {
                if (a == b || a == w || b == w || taken[a] || taken[b] || taken[w] ||
                    !isProduct(columns[a], columns[b], columns[w]) || mean(columns[a]) < mean(columns[b]))
                    continue;
                name(a, Role::Volts, "",
                     say("times column {} it gives column {}", std::to_string(b + 1), std::to_string(w + 1)));
                name(b, Role::Amps, "", say("the smaller of the two factors"));
                name(w, Role::Watts, "", say("the product"));
                found = true;
            }
        }
    }
    if (!found) {
        // Volts: between 3 and 60 (or thousands of millivolts); amps: what follows and is smaller.
        for (std::size_t k = 0; k < width && !found; ++k) {
            const double v = mean(columns[k]);
            const bool milli = v >= 3000.0 && v <= 60000.0;
            if (taken[k] || !(milli || (v >= 3.0 && v <= 60.0)))
                continue;
            for (std::size_t j = k + 1; j < width && !found; ++j) {
                const double i = std::fabs(mean(columns[j]));
                if (taken[j] || i > (milli ? 15000.0 : 15.0))
                    continue;
                name(k, Role::Volts, milli ? "mV" : "",
                     milli ? say("thousands, as millivolts of a USB port are")
                           : say("between 3 and 60, as the volts of a USB port are"));
                name(j, Role::Amps, milli ? "mA" : "", say("behind the volts, and not more than 15 A"));
                found = true;
            }
        }
    }
    if (!found)
        return problem("unclear_columns", place, "no two columns look like volts and amps.",
                       "Draw some current while it listens, or name the columns by hand.");
    for (std::size_t k = 0; k < width; ++k) {
        const double t = mean(columns[k]);
        if (!taken[k] && t > 5.0 && t < 90.0 && k > 1) {
            name(k, Role::Temperature, "", say("between 5 and 90 and steady, as °C are"));
            break;
        }
    }
    return g;
}

} // namespace otterstone::logs
