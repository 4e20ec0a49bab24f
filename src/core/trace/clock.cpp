#include "core/trace/clock.h"

#include <algorithm>

namespace otterstone::trace {

namespace {

constexpr std::size_t kMostRepairs = 10;
constexpr std::size_t kRhythmRows = 16;
constexpr std::size_t kLeastRhythm = 3;

tl::unexpected<Problem> refuse(std::size_t row, const std::string& why) {
    return problem("time_runs_backwards", std::to_string(row), "the time runs backwards here and " + why,
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
            time[k] += repairs[r].shift;
    }
    return repairs;
}

} // namespace otterstone::trace
