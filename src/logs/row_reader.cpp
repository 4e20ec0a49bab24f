#include "logs/row_reader.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <limits>

#include <fast_float/fast_float.h>

#include "core/quantity/parse.h"

namespace otterstone::logs {

namespace {

constexpr double kNaN = std::numeric_limits<double>::quiet_NaN();

Slot slotOf(Role role) {
    switch (role) {
    case Role::Time: return SlotTime;
    case Role::Date: return SlotTime;
    case Role::Volts: return SlotVolts;
    case Role::Amps: return SlotAmps;
    case Role::Watts: return SlotWatts;
    case Role::Temperature: return SlotTemperature;
    case Role::Percent: return SlotPercent;
    case Role::EnergyCounter: return SlotEnergy;
    case Role::ChargeCounter: return SlotCharge;
    }
    return SlotTime;
}

bool required(std::size_t slot) { return slot <= SlotWatts; }

constexpr std::array<double, 16> kPowersOfTen = {1e0, 1e1, 1e2,  1e3,  1e4,  1e5,  1e6,  1e7,
                                                 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15};

// A plain decimal of at most 15 digits, as instruments write: digits and power of ten are exact doubles, so their quotient
// is the nearest double (Clinger's fast path). Returns the end, or null for what the library shall read. Three times as
// fast as the general routine, and reading numbers is most of what importing a log takes.
// `*end` is readable and no digit, so digits need no bounds check.
inline const char* readShort(const char* p, const char* end, char mark, double& value) {
    const bool negative = *p == '-';
    p += negative;
    const char* const start = p;
    std::uint64_t digits = 0;
    const auto isDigit = [&] { return static_cast<unsigned char>(*p - '0') < 10; };
    for (; isDigit(); ++p)
        digits = digits * 10 + static_cast<std::uint64_t>(*p - '0');
    std::ptrdiff_t count = p - start;
    std::ptrdiff_t decimals = 0;
    if (p < end && *p == mark) {
        const char* const behind = ++p; // not behind `end`: the mark stood before it
        for (; isDigit(); ++p)
            digits = digits * 10 + static_cast<std::uint64_t>(*p - '0');
        decimals = p - behind;
        count += decimals;
    }
    if (count == 0 || count > 15 || (p < end && (*p == 'e' || *p == 'E')))
        return nullptr;
    const double magnitude = static_cast<double>(digits) / kPowersOfTen[static_cast<std::size_t>(decimals)];
    value = negative ? -magnitude : magnitude;
    return p;
}

bool plainNumberTime(TimeForm form) {
    return form == TimeForm::Elapsed || form == TimeForm::EpochSeconds || form == TimeForm::EpochMilliseconds ||
           form == TimeForm::SpreadsheetSerial;
}

} // namespace

RowReader::RowReader(const Recognition& recognition) : recognition_(recognition) {
    const bool voltsAndAmps = recognition.column(Role::Volts) && recognition.column(Role::Amps);
    std::size_t needed = 0;
    for (const ColumnChoice& c : recognition.columns) {
        if (c.role == Role::Watts && voltsAndAmps)
            continue; // only a cross-check, made by the recogniser
        needed = std::max(needed, c.index + 1);
    }
    cells_.resize(needed);
    for (const ColumnChoice& c : recognition.columns) {
        if (c.role == Role::Date || (c.role == Role::Watts && voltsAndAmps))
            continue;
        cells_[c.index] = {static_cast<int>(slotOf(c.role)), c.factor, 1.0 / c.factor, c.offset};
        used_[slotOf(c.role)] = true;
    }
    // Quotes and space runs are cut the careful way unless the line turns out to be plain.
    fast_ = plainNumberTime(recognition.timeForm) && recognition.dialect.delimiter != ' ';
}

bool RowReader::readFast(const char* p, const char* end, std::array<double, kSlots>& values) const {
    if (!fast_)
        return false;
    if (p < end && end[-1] == '\r')
        --end;
    const char delimiter = recognition_.dialect.delimiter;
    const fast_float::parse_options options(fast_float::chars_format::general, recognition_.dialect.decimal);
    const std::size_t last = cells_.size() - 1;
    for (std::size_t column = 0;; ++column) {
        const Cell& cell = cells_[column];
        if (cell.slot >= 0) {
            double value = 0.0;
            if (const char* after = readShort(p, end, recognition_.dialect.decimal, value)) {
                p = after;
            } else {
                const auto [longAfter, error] = fast_float::from_chars_advanced(p, end, value, options);
                // "nan" and "inf" are numbers to the library and no readings to us.
                if (error != std::errc{} || !(std::fabs(value) < 1e300))
                    return false;
                p = longAfter;
            }
            values[static_cast<std::size_t>(cell.slot)] = cell.scaled(value);
            if (p < end && *p != delimiter)
                return false;
        } else {
            while (p < end && *p != delimiter) {
                if (*p == '"')
                    return false; // a delimiter inside quotes would shift the columns
                ++p;
            }
        }
        if (column == last)
            return true;
        if (p >= end)
            return false;
        ++p;
    }
}

std::optional<double> RowReader::timeOf(const std::vector<std::string>& cells) const {
    const ColumnChoice* time = recognition_.column(Role::Time);
    if (time->index >= cells.size())
        return std::nullopt;
    const std::string& cell = cells[time->index];
    switch (recognition_.timeForm) {
    case TimeForm::Clock: return parseClock(cell, 3);
    case TimeForm::MinuteClock: return parseClock(cell, 2);
    case TimeForm::HourClock: {
        const auto minutes = parseClock(cell, 2);
        return minutes ? std::optional(*minutes * 60.0) : std::nullopt;
    }
    case TimeForm::Iso: {
        const auto stamp = parseIso(cell);
        return stamp ? std::optional(stamp->seconds) : std::nullopt;
    }
    case TimeForm::DateAndClock: {
        const ColumnChoice* date = recognition_.column(Role::Date);
        const auto days = date->index < cells.size() ? parseDate(cells[date->index]) : std::nullopt;
        const auto clock = parseClock(cell, 3);
        return days && clock ? std::optional(static_cast<double>(*days) * 86400.0 + *clock) : std::nullopt;
    }
    default: {
        const auto number = parseCell(cell, recognition_.dialect.decimal);
        return number ? std::optional(cells_[time->index].scaled(*number)) : std::nullopt;
    }
    }
}

LineKind RowReader::readCarefully(std::string_view line, std::array<double, kSlots>& values) {
    if (trimmed(line).empty())
        return LineKind::Blank;
    const std::vector<std::string> cells = splitLine(line, recognition_.dialect.delimiter);
    if (std::all_of(cells.begin(), cells.end(), [](const std::string& c) { return c.empty(); }))
        return LineKind::Blank;
    const auto skip = [this](std::string why) {
        reason_ = std::move(why);
        return LineKind::Skipped;
    };
    if (!recognition_.headerText.empty() && trimmed(line) == trimmed(recognition_.headerText))
        return skip("the header again");
    const auto time = timeOf(cells);
    if (!time) {
        const std::size_t at = recognition_.column(Role::Time)->index;
        return skip(at < cells.size() ? "“" + cells[at].substr(0, 40) + "” is no time" : "no time in it");
    }
    values[SlotTime] = *time;
    for (std::size_t column = 0; column < cells_.size(); ++column) {
        const Cell& cell = cells_[column];
        if (cell.slot < 0 || cell.slot == static_cast<int>(SlotTime))
            continue;
        const auto slot = static_cast<std::size_t>(cell.slot);
        const auto number = column < cells.size() ? parseCell(cells[column], recognition_.dialect.decimal) : std::nullopt;
        if (!number && required(slot)) {
            const std::string name = column < recognition_.names.size() ? recognition_.names[column] : "a column";
            if (column >= cells.size())
                return skip("ends before “" + name + "”");
            return skip(isNoReading(cells[column]) ? "no reading in “" + name + "”"
                                                   : "“" + cells[column].substr(0, 40) + "” is no number for “" + name + "”");
        }
        values[slot] = number ? cell.scaled(*number) : kNaN;
    }
    return LineKind::Row;
}

} // namespace otterstone::logs
