#include "core/kinds/traced/hand.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/kinds/traced/heat.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"
#include "core/trace/blocks.h"

namespace otterstone::kinds {

namespace {

// The worth of the last digit typed: "4,85" was read to 0.01.
double digitOf(std::string_view text) {
    const std::string_view t = trimmed(text);
    const std::size_t point = t.find_last_of(".,");
    return point == std::string_view::npos ? 1.0 : std::pow(10.0, -static_cast<double>(t.size() - point - 1));
}

struct Row {
    double time = 0.0;
    std::optional<double> volts, amps, watts, temperature;
};

class Reader {
public:
    explicit Reader(const std::vector<HandRow>& rows) : rows_(rows) {}

    HandTrace read(trace::Between between) {
        for (at_ = 0; at_ < rows_.size(); ++at_) {
            if (!rows_[at_].empty())
                readRow(rows_[at_]);
        }
        fill();
        if (between == trace::Between::Held)
            out_.trace = trace::held(out_.trace);
        out_.doubtWattHours =
            trace::leftOpen(trace::blocksOf(out_.trace, HUGE_VAL), 0.0, 0.0, between).betweenWattHours;
        return std::move(out_);
    }

private:
    void remark(const char* column, Problem p) {
        p.place = say("row {}, {}", std::to_string(at_ + 1), column);
        out_.remarks.push_back({at_, column, std::move(p)});
        bad_ = true;
    }

    std::optional<double> number(const std::string& text, const char* column) {
        if (trimmed(text).empty())
            return std::nullopt;
        const auto value = std::string_view(column) == "temperature" ? parseTemperature(text) : parseNumber(text);
        if (!value || (*value < 0.0 && std::string_view(column) != "temperature")) {
            remark(column,
                   value ? Problem{"negative", "", "must not be negative.", "Write what flowed as a positive number."}
                         : value.error());
            return std::nullopt;
        }
        return *value;
    }

    std::optional<double> timeOf(const HandRow& row) {
        std::string_view text = trimmed(row.time);
        const bool relative = text.starts_with("+");
        if (relative)
            text.remove_prefix(1);
        if (text.empty()) {
            remark("time", {"no_time", "", "the row has no time.",
                            "Write it since the start, or as “+15 min” after the row before."});
            return std::nullopt;
        }
        const auto seconds = parseDuration(text, {}, 60.0);
        if (!seconds) {
            remark("time", seconds.error());
            return std::nullopt;
        }
        const double time = relative ? last_.value_or(0.0) + *seconds : *seconds;
        if (last_ && time < *last_) {
            remark("time", {"time_steps_back", "", "this is before the row above.",
                            "Times count on from the start of the run."});
            return std::nullopt;
        }
        return time;
    }

    void readRow(const HandRow& row) {
        bad_ = false;
        const auto time = timeOf(row);
        Row r;
        r.volts = number(row.volts, "volts");
        r.amps = number(row.amps, "amps");
        r.watts = number(row.watts, "watts");
        r.temperature = number(row.temperature, "temperature");
        const auto percent = number(row.percent, "percent");
        if (percent && *percent > 100.0)
            remark("percent", {"above_hundred", "", "a display says 0 to 100 %.", ""});
        if (!time || bad_)
            return;
        r.time = *time;
        last_ = time;
        if (r.volts && r.amps && r.watts && *r.volts > 0.0 && *r.amps > 0.0 && *r.watts > 0.0) {
            const auto check = path::checkWatts(row.volts, row.amps, row.watts);
            if (check && !check->agrees) {
                remark("watts", {"watts_differ", "", check->sentence, ""});
                bad_ = false;
            }
        }
        if (percent)
            out_.marks.push_back({r.time, Mark::What::Percent, *percent, ""});
        if (!trimmed(row.note).empty())
            out_.marks.push_back({r.time, Mark::What::Note, std::nullopt, std::string(trimmed(row.note))});
        if (!r.amps && r.volts && r.watts && *r.volts > 0.0)
            r.amps = *r.watts / *r.volts;
        else if (!r.volts && r.amps && r.watts && *r.amps > 0.0)
            r.volts = *r.watts / *r.amps;
        if (r.volts && r.amps) {
            r.watts = *r.volts * *r.amps;
            const auto finest = [](double& step, const std::string& text) {
                if (!trimmed(text).empty())
                    step = step == 0.0 ? digitOf(text) : std::min(step, digitOf(text));
            };
            finest(voltsStep_, row.volts);
            finest(ampsStep_, row.amps);
        }
        if (!r.watts) {
            if (r.volts || r.amps) // percent and temperature alone are fine: they are marks of a moment
                remark("watts", {"row_without_power", "", "volts or amps alone give no power.",
                                 "Write two of V, A and W; 0 A when nothing flows."});
            else if (r.temperature)
                out_.marks.push_back({r.time, Mark::What::Temperature, *r.temperature, ""});
            return;
        }
        kept_.push_back(r);
    }

    void fill() {
        trace::Trace& t = out_.trace;
        out_.rows = kept_.size();
        const bool both = std::all_of(kept_.begin(), kept_.end(), [](const Row& r) { return r.volts && r.amps; });
        const bool warm =
            std::any_of(kept_.begin(), kept_.end(), [](const Row& r) { return r.temperature.has_value(); });
        for (const Row& r : kept_) {
            t.time.push_back(r.time);
            if (both) {
                t.volts.push_back(*r.volts);
                t.amps.push_back(*r.amps);
            } else {
                t.watts.push_back(*r.watts);
            }
            if (warm)
                t.temperature.push_back(r.temperature.value_or(std::nan("")));
        }
        if (both) {
            t.voltsStep = voltsStep_;
            t.ampsStep = ampsStep_;
        }
    }

    const std::vector<HandRow>& rows_;
    std::size_t at_ = 0;
    bool bad_ = false;
    std::optional<double> last_;
    std::vector<Row> kept_;
    double voltsStep_ = 0.0, ampsStep_ = 0.0;
    HandTrace out_;
};

} // namespace

HandTrace readByHand(const std::vector<HandRow>& rows, trace::Between between) { return Reader(rows).read(between); }

std::string& cell(HandRow& row, std::size_t column) {
    static constexpr std::array<std::string HandRow::*, kHandColumns> kCells = {
        &HandRow::time,    &HandRow::volts,       &HandRow::amps, &HandRow::watts,
        &HandRow::percent, &HandRow::temperature, &HandRow::note};
    return row.*kCells[std::min(column, kHandColumns - 1)];
}

std::vector<HandRow> rowsFromText(std::string_view text, std::size_t firstColumn) {
    std::vector<HandRow> rows;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find('\n'), text.size());
        std::string_view line = text.substr(0, end);
        text.remove_prefix(std::min(end + 1, text.size()));
        if (!line.empty() && line.back() == '\r')
            line.remove_suffix(1);
        const char separator = line.find('\t') != std::string_view::npos  ? '\t'
                               : line.find(';') != std::string_view::npos ? ';'
                                                                          : '\t';
        HandRow row;
        std::size_t column = firstColumn;
        while (column < kHandColumns) {
            const std::size_t stop = std::min(line.find(separator), line.size());
            cell(row, column++) = std::string(trimmed(line.substr(0, stop)));
            if (stop == line.size())
                break;
            line.remove_prefix(stop + 1);
        }
        // A header has no digit anywhere.
        std::string all;
        for (std::size_t k = 0; k + 1 < kHandColumns; ++k)
            all += cell(row, k);
        if (!row.empty() && (firstColumn != 0 || all.find_first_of("0123456789") != std::string::npos))
            rows.push_back(std::move(row));
    }
    return rows;
}

} // namespace otterstone::kinds
