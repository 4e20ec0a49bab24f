#include "logs/rows.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <thread>

#include "logs/row_reader.h"

namespace otterstone::logs {

namespace {

constexpr std::size_t kBlock = std::size_t(1) << 18;
constexpr std::size_t kLeastPerThread = std::size_t(1) << 20;
constexpr std::size_t kNamedSkips = 10;

// Calls f(begin, end) for each line that starts within [from, to); the last line may end behind `to`. f returns false to stop.
template<class F>
void eachLine(const Source& source, std::size_t from, std::size_t to, F f) {
    std::vector<char> buffer(kBlock * 2);
    std::size_t held = 0;  // bytes of an unfinished line at the front of the buffer
    std::size_t at = from; // offset of the first byte not yet read
    while (true) {
        if (buffer.size() - held < kBlock)
            buffer.resize(held + kBlock);
        const std::size_t n = source.read(at, buffer.data() + held, kBlock);
        const char* p = buffer.data();
        const char* const end = p + held + n;
        std::size_t lineStart = at - held;
        at += n;
        while (const char* newline = static_cast<const char*>(std::memchr(p, '\n', static_cast<std::size_t>(end - p)))) {
            if (lineStart >= to || !f(p, newline))
                return;
            lineStart += static_cast<std::size_t>(newline - p) + 1;
            p = newline + 1;
        }
        held = static_cast<std::size_t>(end - p);
        if (n == 0) {
            if (held > 0 && lineStart < to)
                f(p, end);
            return;
        }
        if (lineStart >= to)
            return;
        std::memmove(buffer.data(), p, held);
    }
}

std::size_t countNewlines(const Source& source, std::size_t from, std::size_t to) {
    std::vector<char> buffer(kBlock);
    std::size_t lines = 0;
    while (from < to) {
        const std::size_t n = source.read(from, buffer.data(), std::min(kBlock, to - from));
        if (n == 0)
            break;
        lines += static_cast<std::size_t>(std::count(buffer.begin(), buffer.begin() + static_cast<std::ptrdiff_t>(n), '\n'));
        from += n;
    }
    return lines;
}

// Offset just behind the next newline at or after `offset`.
std::size_t nextLine(const Source& source, std::size_t offset) {
    std::vector<char> buffer(4096);
    while (const std::size_t n = source.read(offset, buffer.data(), buffer.size())) {
        if (const void* newline = std::memchr(buffer.data(), '\n', n))
            return offset + static_cast<std::size_t>(static_cast<const char*>(newline) - buffer.data()) + 1;
        offset += n;
    }
    return source.size();
}

// One thread's share of the body: lines that start in [from, to), stored from row `first` on.
struct Segment {
    std::size_t from = 0;
    std::size_t to = 0;
    std::size_t first = 0;
    std::size_t rows = 0;
    std::size_t lines = 0;
    std::vector<std::uint32_t> lineless;
    std::size_t skipped = 0;
    std::vector<SkippedLine> firstSkipped; // lines counted from 0 within the segment
};

void readSegment(const OpenedLog& log, const Recognition& recognition, Segment& s, Rows& rows, Progress* progress,
                 double share) {
    RowReader reader(recognition);
    std::array<double, kSlots> values{};
    std::array<double, kSlots> before{};
    std::array<double*, kSlots> out{};
    for (std::size_t slot = 0; slot < kSlots; ++slot)
        out[slot] = reader.uses(static_cast<Slot>(slot)) ? rows.columns[slot].data() + s.first : nullptr;
    const auto skip = [&](const std::string& why) {
        ++s.skipped;
        if (s.firstSkipped.size() < kNamedSkips)
            s.firstSkipped.push_back({s.lines, why});
        s.lineless.push_back(static_cast<std::uint32_t>(s.lines));
    };
    eachLine(*log.source, s.from, s.to, [&](const char* line, const char* end) {
        switch (reader.read(line, end, values)) {
        case LineKind::Row:
            if (s.rows > 0 && std::memcmp(&values, &before, sizeof values) == 0) {
                skip("repeats the line before");
                break;
            }
            for (std::size_t slot = 0; slot < kSlots; ++slot) {
                if (out[slot])
                    out[slot][s.rows] = values[slot];
            }
            before = values;
            ++s.rows;
            break;
        case LineKind::Blank: s.lineless.push_back(static_cast<std::uint32_t>(s.lines)); break;
        case LineKind::Skipped: skip(reader.reason()); break;
        }
        ++s.lines;
        if (progress && (s.lines & 0x3FFF) == 0) {
            progress->done.store(progress->done.load() + share * 0x4000);
            return !progress->cancel.load();
        }
        return true;
    });
}

std::vector<Segment> cut(const Source& source, std::size_t body) {
    const std::size_t size = source.size() - std::min(body, source.size());
    const std::size_t threads = size >= 2 * kLeastPerThread && std::thread::hardware_concurrency() > 1 ? 2 : 1;
    std::vector<Segment> segments(threads);
    std::size_t from = body;
    for (std::size_t k = 0; k < threads; ++k) {
        segments[k].from = from;
        segments[k].to = k + 1 == threads ? source.size() : nextLine(source, body + size * (k + 1) / threads);
        from = segments[k].to;
    }
    return segments;
}

template<class F>
void onThreads(std::vector<Segment>& segments, F f) {
    std::vector<std::thread> others;
    for (std::size_t k = 1; k < segments.size(); ++k)
        others.emplace_back([&f, &segments, k] { f(segments[k]); });
    f(segments[0]);
    for (std::thread& t : others)
        t.join();
}

} // namespace

Rows readRows(const OpenedLog& log, const Recognition& recognition, Progress* progress) {
    Rows rows;
    std::size_t body = log.start;
    for (std::size_t k = 0; k < recognition.dialect.firstDataLine; ++k)
        body = nextLine(*log.source, body);
    std::vector<Segment> segments = cut(*log.source, body);
    // Lines are counted first, so that every thread knows where its rows begin and no row is ever moved or stored twice.
    onThreads(segments, [&](Segment& s) { s.rows = countNewlines(*log.source, s.from, s.to) + 1; });
    std::size_t most = 0;
    for (Segment& s : segments) {
        s.first = most;
        most += s.rows;
        s.rows = 0;
    }
    const RowReader reader(recognition);
    for (std::size_t slot = 0; slot < kSlots; ++slot) {
        if (reader.uses(static_cast<Slot>(slot)))
            rows.columns[slot].resize(most);
    }
    onThreads(segments, [&](Segment& s) {
        readSegment(log, recognition, s, rows, progress, 1.0 / static_cast<double>(std::max<std::size_t>(1, most)));
    });

    // Close the holes that blank and skipped lines left.
    std::size_t size = 0;
    std::size_t lines = 0;
    for (const Segment& s : segments) {
        if (s.first != size) {
            for (trace::Column& c : rows.columns) {
                if (!c.empty())
                    std::memmove(c.data() + size, c.data() + s.first, s.rows * sizeof(double));
            }
        }
        size += s.rows;
        for (const std::uint32_t l : s.lineless)
            rows.lineless.push_back(static_cast<std::uint32_t>(lines + l));
        for (const SkippedLine& l : s.firstSkipped) {
            if (rows.firstSkipped.size() < kNamedSkips)
                rows.firstSkipped.push_back({recognition.dialect.firstDataLine + lines + l.line + 1, l.reason});
        }
        rows.skipped += s.skipped;
        lines += s.lines;
    }
    for (trace::Column& c : rows.columns) {
        if (!c.empty())
            c.resize(size);
    }
    return rows;
}

} // namespace otterstone::logs
