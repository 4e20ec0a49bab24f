#include "core/trace/clock.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::trace {

namespace {

constexpr double kReactionSeconds = 0.3;
constexpr std::size_t kMostRepairs = 10;
constexpr std::size_t kRhythmRows = 16;
constexpr std::size_t kLeastRhythm = 3;

tl::unexpected<Problem> refuse(std::size_t row, Spoken why) {
    return problem("time_runs_backwards", std::to_string(row),
                   say("the time runs backwards here and {}", std::move(why).text()),
                   "Sort the rows by time, or cut the log into one file per run.");
}

} // namespace

Result<std::vector<ClockRepair>> repairClock(Column& time) {
    std::vector<std::size_t> backs;
    for (std::size_t k = 1; k < time.size(); ++k) {
        if (time[k] < time[k - 1]) {
            backs.push_back(k);
            if (backs.size() > kMostRepairs)
                return refuse(backs.front(), "in more than ten places, so no rhythm can be trusted.");
        }
    }
    std::vector<ClockRepair> repairs;
    double shift = 0.0;
    for (std::size_t b = 0; b < backs.size(); ++b) {
        const std::size_t row = backs[b];
        const std::size_t before = row - (b == 0 ? 0 : backs[b - 1]);
        const std::size_t after = (b + 1 < backs.size() ? backs[b + 1] : time.size()) - row;
        if (before < kLeastRhythm || after < kLeastRhythm)
            return refuse(row, "too few rows surround the place to tell the rhythm.");
        std::vector<double> steps;
        for (std::size_t k = 1; k < std::min(before, kRhythmRows); ++k)
            steps.push_back(time[row - k] - time[row - k - 1]);
        for (std::size_t k = 1; k < std::min(after, kRhythmRows); ++k)
            steps.push_back(time[row + k] - time[row + k - 1]);
        std::nth_element(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2), steps.end());
        shift += time[row - 1] - time[row] + steps[steps.size() / 2];
        repairs.push_back({row, shift});
    }
    for (std::size_t r = 0; r < repairs.size(); ++r) {
        const std::size_t end = r + 1 < repairs.size() ? repairs[r + 1].row : time.size();
        for (std::size_t k = repairs[r].row; k < end; ++k)
            time[k] = std::max(time[k] + repairs[r].shift, time[k - 1]); // a sum's last digit may fall short
    }
    return repairs;
}

Measured clockFactor(double stopwatchSeconds, double loggedSeconds, const ErrorSource& source) {
    return {stopwatchSeconds / loggedSeconds, std::sqrt(2.0) * kReactionSeconds / loggedSeconds, source};
}

Result<Measured> parseClockFactor(std::string_view text, std::string_view place, const ErrorSource& source) {
    const std::size_t slash = text.find('/');
    const bool plusMinus = slash != std::string_view::npos && slash > 0 && text[slash - 1] == '+'; // "+/-"
    Result<Measured> factor = Measured();
    if (slash == std::string_view::npos || plusMinus) {
        factor = parseMeasured(text, place, source);
    } else {
        const auto stopwatch = parseDuration(text.substr(0, slash), place, 1.0);
        const auto logged = parseDuration(text.substr(slash + 1), place, 1.0);
        if (!stopwatch || !logged)
            return tl::unexpected(stopwatch ? logged.error() : stopwatch.error());
        factor = *logged > 0.0 ? clockFactor(*stopwatch, *logged, source) : Measured(0.0);
    }
    if (factor && !(factor->value() > 0.0))
        return problem("not_positive", std::string(place), "a clock factor must be greater than 0.",
                       "Write true time ÷ its time, like 1.02 ± 0.001, or both like 60 min / 58 min 50 s.");
    if (factor && !(factor->value() >= kSlowestClock && factor->value() <= kFastestClock))
        return problem("no_clock", std::string(place), "no clock runs so fast or so slow.",
                       "Write true time ÷ its time, like 1.02.");
    return factor;
}

} // namespace otterstone::trace
