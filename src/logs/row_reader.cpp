#include "logs/row_reader.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/quantity/parse.h"
#include "core/quantity/say.h"
#include "core/trace/readings.h"

namespace otterstone::logs {

namespace {

constexpr int kMostDecimals = 8, kMostCounterDecimals = 5;
constexpr double kNaN = std::numeric_limits<double>::quiet_NaN();

Slot slotOf(Role role) {
    switch (role) {
    case Role::Time:
    case Role::Date: break;
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

// Whether what is written in a column, as digits alone, tells its readings: no unit but a power of ten away, and few
// enough of them that a counter which grows has room.
bool toldByDigits(Slot slot, const ColumnChoice& c) {
    if (slot == SlotTime || slot == SlotWatts)
        return false;
    const bool counts = slot == SlotEnergy || slot == SlotCharge;
    const double unit = c.factor * std::pow(10.0, c.decimals - c.writtenDecimals);
    return c.decimals >= 0 && c.decimals <= (counts ? kMostCounterDecimals : kMostDecimals) && c.writtenDecimals >= 0 &&
           c.offset == 0.0 && std::fabs(unit - 1.0) < 1e-9;
}

bool required(std::size_t slot) { return slot <= SlotWatts; }

bool plainNumberTime(TimeForm form) {
    return form == TimeForm::Elapsed || form == TimeForm::EpochSeconds || form == TimeForm::EpochMilliseconds ||
           form == TimeForm::SpreadsheetSerial;
}

} // namespace

RowReader::RowReader(const Recognition& recognition, Slots asDoubles) : recognition_(recognition) {
    const bool voltsAndAmps = recognition.column(Role::Volts) && recognition.column(Role::Amps);
    // Watts beside volts and amps are only a cross-check, made by the recogniser; a date is read with its time.
    const auto stored = [&](const ColumnChoice& c) {
        return c.role != Role::Date && !(c.role == Role::Watts && voltsAndAmps);
    };
    std::size_t needed = 0;
    for (const ColumnChoice& c : recognition.columns) {
        if (stored(c) || c.role == Role::Date)
            needed = std::max(needed, c.index + 1);
    }
    cells_.resize(needed);
    for (const ColumnChoice& c : recognition.columns) {
        if (!stored(c))
            continue;
        const Slot slot = slotOf(c.role);
        Cell& cell = cells_[c.index];
        cell = {static_cast<int>(slot), c.factor, 1.0 / c.factor, c.offset, -1};
        used_[slot] = true;
        if (!asDoubles[slot] && toldByDigits(slot, c)) {
            cell.wholeDecimals = c.writtenDecimals;
            divisors_[slot] = std::pow(10.0, c.decimals);
        }
    }
    // Clocks, dates and runs of spaces are read carefully.
    fast_ = plainNumberTime(recognition.timeForm) && recognition.dialect.delimiter != ' ';
}

bool RowReader::storeDigits(std::size_t slot, Row& row) const {
    if (std::isnan(row.values[slot])) {
        row.digits[slot] = trace::kNoDigits;
        return true;
    }
    const double scaled = row.values[slot] * divisors_[slot];
    if (!(std::fabs(scaled) < 2e9))
        return false;
    const double whole = std::round(scaled);
    row.digits[slot] = static_cast<std::int32_t>(whole);
    return whole / divisors_[slot] == row.values[slot];
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

LineKind RowReader::readCarefully(std::string_view line, Row& row) {
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
        return skip(say("the header again"));
    const auto time = timeOf(cells);
    if (!time) {
        const std::size_t at = recognition_.column(Role::Time)->index;
        return skip(at < cells.size() ? say("“{}” is no time", cells[at].substr(0, 40)) : say("no time in it"));
    }
    row.values[SlotTime] = *time;
    for (std::size_t column = 0; column < cells_.size(); ++column) {
        const Cell& cell = cells_[column];
        if (cell.slot < 0 || cell.slot == static_cast<int>(SlotTime))
            continue;
        const auto slot = static_cast<std::size_t>(cell.slot);
        const auto number =
            column < cells.size() ? parseCell(cells[column], recognition_.dialect.decimal) : std::nullopt;
        if (!number && required(slot)) {
            const std::string name = column < recognition_.names.size() ? recognition_.names[column] : say("a column");
            if (column >= cells.size())
                return skip(say("ends before “{}”", name));
            return skip(isNoReading(cells[column])
                            ? say("no reading in “{}”", name)
                            : say("“{}” is no number for “{}”", cells[column].substr(0, 40), name));
        }
        row.values[slot] = number ? cell.scaled(*number) : kNaN;
        if (divisors_[slot] != 0.0) {
            if (!storeDigits(slot, row)) {
                tooLong_ = static_cast<Slot>(slot);
                return LineKind::TooManyDigits;
            }
        }
    }
    return LineKind::Row;
}

} // namespace otterstone::logs
