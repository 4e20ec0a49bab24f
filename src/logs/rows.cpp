#include "logs/rows.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <cstring>
#include <optional>
#include <thread>

#include "logs/row_reader.h"

namespace otterstone::logs {

namespace {

constexpr std::size_t kBlock = std::size_t(1) << 18;
constexpr std::size_t kSegment = std::size_t(1) << 21;
constexpr std::size_t kNamedSkips = 10;
constexpr int kMostDecimals = 8;

// Calls f(begin, end) for each line that starts within [from, to); the last line may end behind `to`. `*end` is a newline or
// a zero. f returns false to stop.
template<class F>
void eachLine(const Source& source, std::size_t from, std::size_t to, F f) {
    std::vector<char> buffer(kBlock * 2);
    std::size_t held = 0;  // bytes of an unfinished line at the front of the buffer
    std::size_t at = from; // offset of the first byte not yet read
    while (true) {
        if (buffer.size() - held < kBlock + 1)
            buffer.resize(held + kBlock + 1);
        const std::size_t n = source.read(at, buffer.data() + held, kBlock);
        const char* p = buffer.data();
        const char* const end = p + held + n;
        buffer[held + n] = '\0';
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
        // In bytes first: that is what the compiler turns into wide instructions; 128 fit into a byte's count.
        std::fill(buffer.begin() + static_cast<std::ptrdiff_t>(n), buffer.begin() + static_cast<std::ptrdiff_t>((n + 127) / 128 * 128), ' ');
        for (std::size_t at = 0; at < n; at += 128) {
            std::uint8_t some = 0;
            for (std::size_t k = 0; k < 128; ++k)
                some = static_cast<std::uint8_t>(some + (buffer[at + k] == '\n'));
            lines += some;
        }
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
    bool stepsBack = false; // the time does, somewhere
    std::vector<std::uint32_t> lineless;
    std::size_t skipped = 0;
    std::vector<SkippedLine> firstSkipped; // lines counted from 0 within the segment
};

// Where one thread puts the values of its rows.
class RowWriter {
public:
    RowWriter(Rows& rows, std::size_t first) {
        for (std::size_t slot = 0; slot < kSlots; ++slot) {
            if (!rows.columns[slot].empty())
                doubles_[doublesUsed_++] = {slot, rows.columns[slot].data() + first};
            if (!rows.digits[slot].empty())
                digits_[digitsUsed_++] = {slot, rows.digits[slot].data() + first, rows.divisors[slot]};
        }
    }
    /// False when a reading has more digits than there is room for.
    bool write(std::size_t row, const std::array<double, kSlots>& values) {
        for (std::size_t k = 0; k < doublesUsed_; ++k)
            doubles_[k].out[row] = values[doubles_[k].slot];
        for (std::size_t k = 0; k < digitsUsed_; ++k) {
            const double value = values[digits_[k].slot];
            const double scaled = value * digits_[k].divisor;
            if (!(std::fabs(scaled) < 2e9))
                return false;
            const auto whole = static_cast<std::int32_t>(scaled + std::copysign(0.5, scaled));
            if (whole / digits_[k].divisor != value)
                return false;
            digits_[k].out[row] = whole;
        }
        return true;
    }

private:
    struct Doubles {
        std::size_t slot;
        double* out;
    };
    struct WholeDigits {
        std::size_t slot;
        std::int32_t* out;
        double divisor;
    };
    std::array<Doubles, kSlots> doubles_{};
    std::array<WholeDigits, kSlots> digits_{};
    std::size_t doublesUsed_ = 0;
    std::size_t digitsUsed_ = 0;
};

void readSegment(const OpenedLog& log, const Recognition& recognition, Segment& s, Rows& rows, Progress* progress,
                 double share, std::atomic<bool>& tooManyDigits) {
    RowReader reader(recognition);
    RowWriter writer(rows, s.first);
    std::array<double, kSlots> values{};
    std::array<double, kSlots> before{};
    const auto skip = [&](const std::string& why) {
        ++s.skipped;
        if (s.firstSkipped.size() < kNamedSkips)
            s.firstSkipped.push_back({s.lines, why});
        s.lineless.push_back(static_cast<std::uint32_t>(s.lines));
    };
    eachLine(*log.source, s.from, s.to, [&](const char* line, const char* end) {
        switch (reader.read(line, end, values)) {
        case LineKind::Row:
            if (s.rows > 0 && values[SlotTime] <= before[SlotTime]) {
                if (std::memcmp(&values, &before, sizeof values) == 0) {
                    skip("repeats the line before");
                    break;
                }
                s.stepsBack = s.stepsBack || values[SlotTime] < before[SlotTime];
            }
            if (!writer.write(s.rows, values)) {
                tooManyDigits = true;
                return false;
            }
            before = values;
            ++s.rows;
            break;
        case LineKind::Blank: s.lineless.push_back(static_cast<std::uint32_t>(s.lines)); break;
        case LineKind::Skipped: skip(reader.reason()); break;
        }
        ++s.lines;
        if (progress && (s.lines & 0x3FFF) == 0) {
            progress->done.fetch_add(share * 0x4000);
            return !progress->cancel.load();
        }
        return true;
    });
}

std::vector<Segment> cut(const Source& source, std::size_t body) {
    const std::size_t size = source.size() - std::min(body, source.size());
    std::vector<Segment> segments(std::max<std::size_t>(1, size / kSegment));
    std::size_t from = body;
    for (std::size_t k = 0; k < segments.size(); ++k) {
        segments[k].from = from;
        segments[k].to = k + 1 == segments.size() ? source.size() : nextLine(source, std::max(from, body + size * (k + 1) / segments.size()));
        from = segments[k].to;
    }
    return segments;
}

// Two threads take segment after segment, so that neither waits long for the other.
template<class F>
void onThreads(std::vector<Segment>& segments, F f) {
    std::atomic<std::size_t> next{0};
    const auto work = [&] {
        for (std::size_t k = next++; k < segments.size(); k = next++)
            f(segments[k]);
    };
    std::thread other;
    if (segments.size() > 1 && std::thread::hardware_concurrency() > 1)
        other = std::thread(work);
    work();
    if (other.joinable())
        other.join();
}

// Reads everything; nothing when `compact` was asked for and the readings have too many digits for it.
std::optional<Rows> tryReading(const OpenedLog& log, const Recognition& recognition, std::size_t body, bool compact, Progress* progress) {
    Rows rows;
    std::vector<Segment> segments = cut(*log.source, body);
    // Lines are counted first, so that every thread knows where its rows begin and no row is ever moved or stored twice.
    onThreads(segments, [&](Segment& s) { s.rows = countNewlines(*log.source, s.from, s.to); });
    ++segments.back().rows; // the last line may have no newline
    std::size_t most = 0;
    for (Segment& s : segments) {
        s.first = most;
        most += s.rows;
        s.rows = 0;
    }
    const RowReader reader(recognition);
    for (std::size_t slot = 0; slot < kSlots; ++slot) {
        if (!reader.uses(static_cast<Slot>(slot)))
            continue;
        const ColumnChoice* c = recognition.column(slot == SlotVolts ? Role::Volts : Role::Amps);
        if (compact && (slot == SlotVolts || slot == SlotAmps) && c->decimals >= 0 && c->decimals <= kMostDecimals) {
            rows.divisors[slot] = std::pow(10.0, c->decimals);
            rows.digits[slot].resize(most);
        } else {
            rows.columns[slot].resize(most);
        }
    }
    std::atomic<bool> tooManyDigits = false;
    const double share = 1.0 / static_cast<double>(std::max<std::size_t>(1, most));
    onThreads(segments, [&](Segment& s) { readSegment(log, recognition, s, rows, progress, share, tooManyDigits); });
    if (tooManyDigits)
        return std::nullopt;

    // Close the holes that blank and skipped lines left.
    std::size_t size = 0;
    std::size_t lines = 0;
    for (const Segment& s : segments) {
        const auto close = [&](auto& column) {
            if (!column.empty() && s.first != size)
                std::memmove(column.data() + size, column.data() + s.first, s.rows * sizeof column[0]);
        };
        std::for_each(rows.columns.begin(), rows.columns.end(), close);
        std::for_each(rows.digits.begin(), rows.digits.end(), close);
        const trace::Column& time = rows.columns[SlotTime];
        rows.stepsBack = rows.stepsBack || (size > 0 && s.rows > 0 && time[size] < time[size - 1]);
        size += s.rows;
        for (const std::uint32_t l : s.lineless)
            rows.lineless.push_back(static_cast<std::uint32_t>(lines + l));
        for (const SkippedLine& l : s.firstSkipped) {
            if (rows.firstSkipped.size() < kNamedSkips)
                rows.firstSkipped.push_back({recognition.dialect.firstDataLine + lines + l.line + 1, l.reason});
        }
        rows.skipped += s.skipped;
        rows.stepsBack = rows.stepsBack || s.stepsBack;
        lines += s.lines;
    }
    const auto shorten = [size](auto& column) {
        if (!column.empty())
            column.resize(size);
    };
    std::for_each(rows.columns.begin(), rows.columns.end(), shorten);
    std::for_each(rows.digits.begin(), rows.digits.end(), shorten);
    return rows;
}

} // namespace

Rows readRows(const OpenedLog& log, const Recognition& recognition, Progress* progress) {
    std::size_t body = log.start;
    for (std::size_t k = 0; k < recognition.dialect.firstDataLine; ++k)
        body = nextLine(*log.source, body);
    if (auto rows = tryReading(log, recognition, body, true, progress))
        return std::move(*rows);
    return *tryReading(log, recognition, body, false, progress);
}

} // namespace otterstone::logs
