// The points of a curve for what is visible: from chunk summaries when far out, from samples when near, always at most
// two values a pixel, so that ten million samples pan and zoom like ten thousand.
#pragma once

#include <functional>
#include <limits>
#include <map>
#include <vector>

#include "book/store/trace_store.h"

namespace otterstone::app {

enum class Axis { Time, Energy, Percent };
enum class Quantity { Watts, Volts, Amps, Temperature };

struct CurvePoint {
    double x = 0.0;
    double low = 0.0;
    double high = 0.0;
};

/// What was read at one moment.
struct Reading {
    double time = 0.0, volts = 0.0, amps = 0.0, watts = 0.0, wattHours = 0.0;
};

class CurveData {
public:
    static constexpr std::size_t kAllChunks = std::numeric_limits<std::size_t>::max();
    using Load = std::function<trace::Trace(int firstSeq, int lastSeq)>;
    CurveData() = default;
    CurveData(std::vector<book::ChunkSummary> summaries, Load load);

    [[nodiscard]] bool empty() const { return chunks_.empty(); }
    [[nodiscard]] double firstX(Axis axis) const;
    [[nodiscard]] double lastX(Axis axis) const;
    /// Greatest value of a quantity over the whole trace.
    [[nodiscard]] double most(Quantity quantity) const;
    /// At most two points a pixel over [from, to] and one beyond either side. Reads at most so many chunks anew; where
    /// samples are still to be read their chunks' summaries stand for them, and isWhole() is false: ask again.
    [[nodiscard]] std::vector<CurvePoint> points(Axis axis, Quantity quantity, double from, double to, int pixels,
                                                 std::size_t mostReads = kAllChunks);
    [[nodiscard]] bool isWhole() const { return whole_; }
    /// Where a moment lies on an axis.
    [[nodiscard]] double xOf(double time, Axis axis);
    /// The sample at or before x; nothing outside the trace.
    [[nodiscard]] std::optional<Reading> at(double x, Axis axis);

private:
    struct Loaded {
        trace::Trace trace;
        std::vector<double> energy; ///< Wh up to each sample
        unsigned used = 0;
    };
    [[nodiscard]] double toX(double time, double wattHours, Axis axis) const;
    [[nodiscard]] std::size_t chunkAt(double x, Axis axis) const; ///< the last that begins at or before x
    Loaded& loaded(std::size_t chunk);
    bool load(std::size_t first, std::size_t last, std::size_t most = kAllChunks); ///< false: nothing new came

    std::vector<book::ChunkSummary> chunks_;
    std::vector<double> energyBefore_; ///< Wh up to the end of the chunk before; one more than chunks
    Load load_;
    std::map<std::size_t, Loaded> cache_;
    unsigned clock_ = 0;
    bool whole_ = true;
};

} // namespace otterstone::app
