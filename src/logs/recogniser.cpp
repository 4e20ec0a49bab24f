#include "logs/recogniser.h"

#include <algorithm>
#include <charconv>
#include <cmath>

#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"
#include "logs/layout.h"

namespace otterstone::logs {

namespace {

constexpr double kDaySeconds = 86400.0;

class Recogniser {
public:
    Recogniser(const OpenedLog& log, Layout layout, Mapping hand)
        : log_(log), hand_(std::move(hand)), layout_(std::move(layout)), headers_(layout_.headers), r_(layout_.found) {}

    Result<Recognition> run() {
        if (!r_.dialect.headerLine && hand_.columns.empty())
            return problem(
                "no_header", place(r_.dialect.firstDataLine),
                "the numbers begin without a line that names the columns.",
                "Name them by their number, e.g. --column time=1 --column volts=2 --column amps=3, or choose "
                "them by hand on the import page.");
        for (std::size_t k = 0; k < kRoles; ++k) {
            if (auto wrong = choose(static_cast<Role>(k)))
                return tl::unexpected(std::move(*wrong));
        }
        if (auto wrong = checkComplete())
            return tl::unexpected(std::move(*wrong));
        if (auto wrong = recogniseTime())
            return tl::unexpected(std::move(*wrong));
        for (ColumnChoice& c : r_.columns) {
            if (auto wrong = chooseUnit(c))
                return tl::unexpected(std::move(*wrong));
            countDecimals(c);
        }
        checkWatts();
        return std::move(r_);
    }

private:
    [[nodiscard]] std::string place(std::size_t line) const {
        return say("{}, line {}", log_.name, std::to_string(line + 1));
    }

    std::optional<Problem> choose(Role role) {
        if (const auto byHand = hand_.columns.find(role); byHand != hand_.columns.end())
            return chooseByHand(role, byHand->second);
        int best = 0;
        std::size_t at = 0;
        std::string others;
        for (std::size_t k = 0; k < headers_.size(); ++k) {
            const int score = takenByHand(k) || holds(k, role) ? 0 : nameScore(role, headers_[k]);
            if (score > best) {
                best = score;
                at = k;
                others.clear();
            } else if (score == best && score > 0) {
                others += (others.empty() ? "" : ", ") + ("“" + r_.names[k] + "”");
            }
        }
        if (best == 0)
            return std::nullopt;
        std::string reason = say("the name “{}” says {}", r_.names[at], roleKey(role));
        if (best == 1)
            reason = say("the unit {} says {}", headers_[at].unit, roleKey(role));
        if (!others.empty() && role != Role::Date) {
            reason = say("{}; it comes before {}", reason, others);
            if (role == Role::Volts || role == Role::Amps)
                r_.warnings.push_back({"several_candidates", say("For {} “{}” was taken; {} would fit as well.",
                                                                 roleKey(role), r_.names[at], others)});
        }
        r_.columns.push_back({role, at, r_.names[at], 1.0, 0.0, 0, 0, reason});
        return std::nullopt;
    }

    // What the column was chosen for already; a date and a time may still turn out to be one.
    [[nodiscard]] const ColumnChoice* holds(std::size_t index, Role role) const {
        const auto held = std::ranges::find_if(r_.columns, [&](const ColumnChoice& c) {
            return c.index == index && !(role == Role::Date && c.role == Role::Time);
        });
        return held == r_.columns.end() ? nullptr : &*held;
    }

    [[nodiscard]] bool takenByHand(std::size_t index) const {
        for (const auto& [role, name] : hand_.columns) {
            if (indexByHand(name) == index)
                return true;
        }
        return false;
    }

    [[nodiscard]] std::optional<std::size_t> indexByHand(const std::string& name) const {
        const std::string wanted = lowered(trimmed(name));
        for (std::size_t k = 0; k < headers_.size(); ++k) {
            if (lowered(trimmed(r_.names[k])) == wanted || (!wanted.empty() && headers_[k].name == wanted))
                return k;
        }
        std::size_t number = 0;
        const auto [end, error] = std::from_chars(wanted.data(), wanted.data() + wanted.size(), number);
        const bool isNumber = error == std::errc{} && end == wanted.data() + wanted.size();
        return isNumber && number >= 1 && number <= headers_.size() ? std::optional(number - 1) : std::nullopt;
    }

    std::optional<Problem> chooseByHand(Role role, const std::string& name) {
        const auto index = indexByHand(name);
        if (!index) {
            std::string known;
            for (const std::string& n : r_.names)
                known += (known.empty() ? "" : ", ") + n;
            return Problem{"unknown_column", log_.name, say("there is no column “{}” for {}.", name, roleKey(role)),
                           say("The columns are: {}.", known)};
        }
        if (const ColumnChoice* held = holds(*index, role))
            return Problem{
                "column_chosen_twice", log_.name,
                say("“{}” is chosen for {} and for {}.", r_.names[*index], roleKey(held->role), roleKey(role)),
                say("One column is one thing: choose another for one of them.")};
        r_.columns.push_back({role, *index, r_.names[*index], 1.0, 0.0, 0, 0, say("set by hand")});
        return std::nullopt;
    }

    [[nodiscard]] std::string columnsFound() const {
        std::string list;
        for (const std::string& n : r_.names)
            list += (list.empty() ? "“" : "”, “") + n;
        return say("The columns found are {}”. Choose by hand with --column or on the import page.", list);
    }

    std::optional<Problem> checkComplete() {
        const std::string where =
            r_.dialect.headerLine ? place(*r_.dialect.headerLine) : place(r_.dialect.firstDataLine);
        if (!r_.column(Role::Time) && !r_.column(Role::Date))
            return Problem{"no_time_column", where, say("no column names a time."), columnsFound()};
        if (r_.column(Role::Watts))
            return std::nullopt;
        if (!r_.column(Role::Volts))
            return Problem{"no_volts_column", where, say("no column names volts."), columnsFound()};
        if (!r_.column(Role::Amps))
            return Problem{"no_amps_column", where, say("no column names amps."), columnsFound()};
        return std::nullopt;
    }

    template<class Test>
    [[nodiscard]] static bool most(const std::vector<std::string>& cells, Test test) {
        const auto fit = static_cast<std::size_t>(std::count_if(cells.begin(), cells.end(), test));
        return !cells.empty() && fit * 2 > cells.size();
    }

    std::optional<Problem> recogniseTime() {
        // A column that holds date and time together may be called either.
        ColumnChoice* time = nullptr;
        ColumnChoice* date = nullptr;
        for (ColumnChoice& c : r_.columns) {
            time = c.role == Role::Time ? &c : time;
            date = c.role == Role::Date ? &c : date;
        }
        if (!time) {
            date->role = Role::Time;
            time = date;
            date = nullptr;
        }
        const std::vector<std::string> cells = layout_.cellsOf(time->index);
        const bool dateBeside =
            date && date->index != time->index &&
            most(layout_.cellsOf(date->index), [](const std::string& c) { return parseDate(c).has_value(); });
        const auto clock = [](int parts) {
            return [parts](const std::string& c) { return parseClock(c, parts).has_value(); };
        };
        if (most(cells, [](const std::string& c) { return parseIso(c).has_value(); })) {
            r_.timeForm = TimeForm::Iso;
        } else if (most(cells, clock(3))) {
            r_.timeForm = dateBeside ? TimeForm::DateAndClock : TimeForm::Clock;
        } else if (most(cells, clock(2))) {
            const std::string unit = lowered(headers_[time->index].unit);
            r_.timeForm = unit == "h:m" || unit == "hh:mm" ? TimeForm::HourClock : TimeForm::MinuteClock;
        } else if (most(cells, [&](const std::string& c) { return parseCell(c, r_.dialect.decimal).has_value(); })) {
            recogniseNumericTime(*time, cells);
        } else if (!cells.empty() && std::count(cells[0].begin(), cells[0].end(), '/') == 2) {
            return Problem{"ambiguous_date", place(r_.dialect.firstDataLine),
                           say("in “{}” nobody can tell the day from the month.", cells[0]),
                           say("Write dates as 2026-11-03, or give elapsed seconds.")};
        } else {
            return Problem{"no_time_column", place(r_.dialect.firstDataLine),
                           say("the cells of “{}” are no time: “{}”.", time->name, (cells.empty() ? "" : cells[0])),
                           columnsFound()};
        }
        time->reason = say("{}; its cells are {}", time->reason, timeFormWords(r_.timeForm));
        std::erase_if(r_.columns, [&](const ColumnChoice& c) {
            return c.role == Role::Date && r_.timeForm != TimeForm::DateAndClock;
        });
        return std::nullopt;
    }

    void recogniseNumericTime(ColumnChoice& time, const std::vector<std::string>& cells) {
        const double first = parseCell(cells.front(), r_.dialect.decimal).value_or(0.0);
        const double last = parseCell(cells.back(), r_.dialect.decimal).value_or(0.0);
        const bool unitGiven = !headers_[time.index].unit.empty() || hand_.units.contains(Role::Time);
        if (first > 3e11 && first < 1e14) {
            r_.timeForm = TimeForm::EpochMilliseconds;
            time.factor = 1e-3;
        } else if (first > 3e8 && first < 1e11) {
            r_.timeForm = TimeForm::EpochSeconds;
        } else if (!unitGiven && first > 30000.0 && first < 80000.0 && last - first < 30.0 &&
                   first != std::floor(first)) {
            r_.timeForm = TimeForm::SpreadsheetSerial;
            time.factor = kDaySeconds;
        } else {
            r_.timeForm = TimeForm::Elapsed;
        }
    }

    std::optional<Problem> chooseUnit(ColumnChoice& c) {
        const bool plainTime = c.role == Role::Time && r_.timeForm == TimeForm::Elapsed;
        if (c.role == Role::Date || (c.role == Role::Time && !plainTime))
            return std::nullopt;
        if (const auto byHand = hand_.units.find(c.role); byHand != hand_.units.end()) {
            const auto unit = unitFor(c.role, byHand->second);
            if (!unit)
                return Problem{"unknown_unit", log_.name,
                               say("“{}” is no unit of {}.", byHand->second, roleKey(c.role)),
                               say("Write it like --unit volts=mV.")};
            apply(c, *unit, say("the unit {} was set by hand", byHand->second));
            return std::nullopt;
        }
        const HeaderCell& header = headers_[c.index];
        auto unit = header.unit.empty() ? unitFor(c.role, header.name) : unitFor(c.role, header.unit);
        if (unit && !unit->clockTime) {
            apply(c, *unit, say("in {}", (header.unit.empty() ? header.name : header.unit)));
            return std::nullopt;
        }
        assumeUnit(c);
        return std::nullopt;
    }

    static void apply(ColumnChoice& c, const UnitScale& unit, const std::string& why) {
        c.factor = unit.factor;
        c.offset = unit.offset;
        c.reason += ", " + why;
    }

    // Without a unit the size of the numbers tells; what was assumed is said aloud.
    void assumeUnit(ColumnChoice& c) {
        double largest = 0.0;
        for (const std::string& cell : layout_.cellsOf(c.index))
            largest = std::max(largest, std::fabs(parseCell(cell, r_.dialect.decimal).value_or(0.0)));
        std::string unit;
        switch (c.role) {
        case Role::Volts: unit = largest >= 1000.0 ? "mV" : "V"; break;
        case Role::Amps: unit = largest >= 50.0 ? "mA" : "A"; break;
        case Role::Watts: unit = largest >= 1000.0 ? "mW" : "W"; break;
        case Role::Time: unit = "s"; break;
        case Role::Temperature: unit = "°C"; break;
        case Role::Percent: unit = "%"; break;
        case Role::EnergyCounter: unit = largest >= 1000.0 ? "mWh" : "Wh"; break;
        case Role::ChargeCounter: unit = largest >= 100.0 ? "mAh" : "Ah"; break;
        case Role::Date: return;
        }
        apply(c, *unitFor(c.role, unit), say("no unit given: {} fits numbers up to {}", unit, showNumber(largest, 4)));
        if (c.role == Role::Volts || c.role == Role::Amps || c.role == Role::Watts || c.role == Role::Time)
            r_.warnings.push_back({"unit_assumed", say("“{}” names no unit; {} was assumed.", c.name, unit)});
    }

    void countDecimals(ColumnChoice& c) const {
        std::size_t most = 0;
        for (const std::string& cell : layout_.cellsOf(c.index)) {
            const std::size_t mark = cell.find(r_.dialect.decimal);
            most = std::max(most, mark == std::string::npos ? 0 : cell.size() - mark - 1);
        }
        c.writtenDecimals = static_cast<int>(most);
        c.decimals = c.writtenDecimals + static_cast<int>(std::lround(-std::log10(c.factor)));
    }

    // B5: watts written beside volts and amps that do not multiply.
    void checkWatts() {
        const ColumnChoice* v = r_.column(Role::Volts);
        const ColumnChoice* i = r_.column(Role::Amps);
        const ColumnChoice* w = r_.column(Role::Watts);
        if (!v || !i || !w)
            return;
        std::size_t off = 0;
        std::size_t seen = 0;
        for (const auto& row : layout_.rows) {
            const auto value = [&](const ColumnChoice* c) {
                const auto n = c->index < row.size() ? parseCell(row[c->index], r_.dialect.decimal) : std::nullopt;
                return n ? *n * c->factor : NAN;
            };
            const double product = std::fabs(value(v) * value(i));
            const double written = std::fabs(value(w));
            if (!(std::max(product, written) > 0.5))
                continue;
            ++seen;
            off += std::fabs(product - written) > 0.03 * std::max(product, written);
        }
        if (seen > 0 && off * 5 > seen)
            r_.warnings.push_back(
                {"watts_disagree",
                 say("“{}” differs from volts × amps by more than 3 % in {} of the first {} rows; volts × amps is used. Check the columns and units.",
                     w->name, std::to_string(off), std::to_string(seen))});
    }

    const OpenedLog& log_;
    const Mapping hand_;
    Layout layout_;
    const std::vector<HeaderCell>& headers_;
    Recognition& r_;
};

} // namespace

const ColumnChoice* Recognition::column(Role role) const {
    for (const ColumnChoice& c : columns) {
        if (c.role == role)
            return &c;
    }
    return nullptr;
}

Result<Recognition> recogniseLayout(const OpenedLog& log) {
    return layoutOf(log).map([](Layout&& l) { return std::move(l.found); });
}

Result<Recognition> recognise(const OpenedLog& log, const Mapping& hand) {
    auto layout = layoutOf(log);
    if (!layout)
        return tl::unexpected(layout.error());
    return Recogniser(log, std::move(*layout), hand).run();
}

} // namespace otterstone::logs
