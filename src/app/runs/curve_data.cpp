#include "app/runs/curve_data.h"

#include <algorithm>
#include <cmath>

namespace otterstone::app {

namespace {

constexpr std::size_t kMostRawChunks = 300; // visible chunks up to which samples are read: some 1.2 million
constexpr std::size_t kMostCached = 400;

double valueOf(const trace::Trace& t, std::size_t k, Quantity q) {
    switch (q) {
    case Quantity::Watts: return t.power(k);
    case Quantity::Volts: return t.volts.empty() ? NAN : t.volts[k];
    case Quantity::Amps: return t.amps.empty() ? NAN : t.amps[k];
    case Quantity::Temperature: return t.temperature.empty() ? NAN : t.temperature[k];
    }
    return NAN;
}

book::Range rangeOf(const book::ChunkSummary& s, Quantity q) {
    switch (q) {
    case Quantity::Watts: return s.watts;
    case Quantity::Volts: return s.volts;
    case Quantity::Amps: return s.amps;
    case Quantity::Temperature: return s.temperature;
    }
    return {};
}

} // namespace

CurveData::CurveData(std::vector<book::ChunkSummary> summaries, Load load)
    : chunks_(std::move(summaries)), load_(std::move(load)) {
    energyBefore_.push_back(0.0);
    for (const book::ChunkSummary& s : chunks_)
        energyBefore_.push_back(energyBefore_.back() + s.wattHours);
}

double CurveData::toX(double time, double wattHours, Axis axis) const {
    if (axis == Axis::Time)
        return time;
    const double total = energyBefore_.back();
    return axis == Axis::Energy ? wattHours : total > 0.0 ? 100.0 * wattHours / total : 0.0;
}

double CurveData::firstX(Axis axis) const { return chunks_.empty() ? 0.0 : toX(chunks_.front().first, 0.0, axis); }
double CurveData::lastX(Axis axis) const {
    return chunks_.empty() ? 1.0 : toX(chunks_.back().last, energyBefore_.back(), axis);
}

double CurveData::most(Quantity quantity) const {
    double most = 0.0;
    for (const book::ChunkSummary& s : chunks_)
        most = std::max(most, rangeOf(s, quantity).max);
    return most;
}

std::size_t CurveData::chunkAt(double x, Axis axis) const {
    std::size_t low = 0;
    std::size_t high = chunks_.size();
    while (high - low > 1) {
        const std::size_t middle = (low + high) / 2;
        (toX(chunks_[middle].first, energyBefore_[middle], axis) <= x ? low : high) = middle;
    }
    return low;
}

bool CurveData::load(std::size_t first, std::size_t last, std::size_t most) {
    while (first <= last && cache_.contains(first))
        ++first;
    last = last >= first && last - first >= most ? first + most - 1 : last;
    while (last > first && cache_.contains(last))
        --last;
    if (first > last || cache_.contains(first))
        return false;
    const trace::Trace all = load_(chunks_[first].seq, chunks_[last].seq);
    std::size_t row = 0;
    for (std::size_t c = first; c <= last; ++c) {
        const auto count = static_cast<std::size_t>(chunks_[c].samples);
        if (row + count > all.size())
            return c > first; // the book is gone from under us; what is cached can still be drawn
        Loaded& l = cache_[c];
        trace::Trace::eachColumn(all, [&, at = 0](const auto& column, const char*) mutable {
            int k = 0;
            trace::Trace::eachColumn(l.trace, [&](auto& into, const char*) {
                if (k++ == at && !column.empty()) {
                    into = {};
                    for (std::size_t r = row; r < row + count; ++r)
                        into.push_back(column[r]);
                }
            });
            ++at;
        });
        // Counted back from the chunk's end, which the summaries know: the step from the chunk before needs no loading.
        l.energy.assign(count, 0.0);
        double energy = energyBefore_[c + 1];
        for (std::size_t k = count; k-- > 0;) {
            l.energy[k] = energy;
            if (k > 0)
                energy -= (l.trace.power(k) + l.trace.power(k - 1)) * (l.trace.time[k] - l.trace.time[k - 1]) / 7200.0;
        }
        row += count;
    }
    while (cache_.size() > kMostCached) {
        auto oldest = std::min_element(cache_.begin(), cache_.end(),
                                       [](const auto& a, const auto& b) { return a.second.used < b.second.used; });
        if (oldest->first >= first && oldest->first <= last)
            break;
        cache_.erase(oldest);
    }
    return true;
}

CurveData::Loaded& CurveData::loaded(std::size_t chunk) {
    if (!cache_.contains(chunk))
        load(chunk, chunk);
    Loaded& l = cache_[chunk];
    l.used = ++clock_;
    return l;
}

std::vector<CurvePoint> CurveData::points(Axis axis, Quantity quantity, double from, double to, int pixels,
                                          std::size_t mostReads) {
    std::vector<CurvePoint> out;
    whole_ = true;
    if (chunks_.empty() || pixels < 1)
        return out;
    const std::size_t first = chunkAt(from, axis);
    const std::size_t last = chunkAt(to, axis);
    // One point a pixel column, and one beyond either side so that the line runs on to the edge.
    const double perPixel = (to - from) / pixels;
    long bin = -2;
    const auto add = [&](double x, double low, double high) {
        const long b = x < from ? -1 : x > to ? pixels : static_cast<long>((x - from) / perPixel);
        if (b == bin && b == pixels)
            return;
        if (b != bin) {
            out.push_back({x, low, high});
        } else if (b == -1) {
            out.back() = {x, low, high}; // only the nearest one before the view
        } else {
            out.back().low = std::min(out.back().low, low);
            out.back().high = std::max(out.back().high, high);
        }
        bin = b;
    };
    const auto addSummary = [&](std::size_t c) {
        const book::Range r = rangeOf(chunks_[c], quantity);
        add(toX(chunks_[c].first, energyBefore_[c], axis), r.min, r.max);
        if (c == last)
            add(toX(chunks_[c].last, energyBefore_[c + 1], axis), r.min, r.max);
    };
    const bool raw = last - first < kMostRawChunks;
    const bool more = raw && load(first, last, mostReads);
    for (std::size_t c = first; c <= last; ++c) {
        if (!raw || !cache_.contains(c)) {
            addSummary(c);
            whole_ = whole_ && !more;
            continue;
        }
        const Loaded& l = loaded(c);
        for (std::size_t k = 0; k < l.energy.size(); ++k) {
            const double value = valueOf(l.trace, k, quantity);
            if (!std::isnan(value))
                add(toX(l.trace.time[k], l.energy[k], axis), value, value);
        }
    }
    return out;
}

double CurveData::xOf(double time, Axis axis) {
    if (axis == Axis::Time || chunks_.empty())
        return time;
    const Loaded& l = loaded(chunkAt(time, Axis::Time));
    if (l.energy.empty())
        return 0.0;
    const auto after = std::upper_bound(l.trace.time.begin(), l.trace.time.end(), time);
    const auto k = after == l.trace.time.begin() ? 0 : static_cast<std::size_t>(after - l.trace.time.begin() - 1);
    return toX(time, l.energy[k], axis);
}

std::optional<Reading> CurveData::at(double x, Axis axis) {
    if (chunks_.empty() || x < firstX(axis) || x > lastX(axis))
        return std::nullopt;
    const Loaded& l = loaded(chunkAt(x, axis));
    std::size_t k = 0;
    while (k + 1 < l.energy.size() && toX(l.trace.time[k + 1], l.energy[k + 1], axis) <= x)
        ++k;
    if (k >= l.energy.size())
        return std::nullopt;
    const bool current = l.trace.hasCurrent();
    return Reading{l.trace.time[k], current ? l.trace.volts[k] : NAN, current ? l.trace.amps[k] : NAN, l.trace.power(k),
                   l.energy[k]};
}

} // namespace otterstone::app
