#include "logs/row_reader.h"

#include <algorithm>
#include <cmath>
#include <cstring>
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

// An ISO stamp, a clock or a number: any of the time forms, off the front of a fast line.
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
        cells_[c.index] = {static_cast<int>(slotOf(c.role)), c.factor, c.offset};
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
            const auto [after, error] = fast_float::from_chars_advanced(p, end, value, options);
            // "nan" and "inf" are numbers to the library and no readings to us.
            if (error != std::errc{} || !(std::fabs(value) < 1e300))
                return false;
            p = after;
            values[static_cast<std::size_t>(cell.slot)] = value * cell.factor + cell.offset;
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
        return number ? std::optional(*number * time->factor + time->offset) : std::nullopt;
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
        values[slot] = number ? *number * cell.factor + cell.offset : kNaN;
    }
    return LineKind::Row;
}

} // namespace otterstone::logs
