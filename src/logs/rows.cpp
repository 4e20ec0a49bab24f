#include "logs/rows.h"
#include "core/quantity/say.h"
#include <algorithm>
#include <array>
#include <atomic>
#include <condition_variable>
#include <cstring>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>

#include "core/quantity/wide.h"
#include "logs/row_reader_fast.h"

namespace otterstone::logs {

namespace {

constexpr std::size_t kBlock = std::size_t(1) << 17;
constexpr std::size_t kSegment = std::size_t(1) << 17;
constexpr std::size_t kAhead = 16; // segments that may be read before the first is done: a core can be away for 10 ms
constexpr std::size_t kLineRest = 4096;
constexpr std::size_t kNamedSkips = 10;
constexpr std::size_t kReadable = std::size_t{2} * Marks::kSeen; // bytes behind the last line that may be looked at

// Calls f(line, textEnd) for each line that starts within [from, to); f returns where the next one starts, or null when
// the line goes on behind `textEnd`. A zero and readable bytes stand behind the text. At the file's end a newline is
// put behind it. False when a line was too long to be held.
template<class F>
bool eachLine(const Source& source, std::size_t from, std::size_t to, std::vector<char>& buffer, F f) {
    std::size_t held = 0;  // bytes of an unfinished line at the front of the buffer
    std::size_t at = from; // offset of the first byte not yet read
    for (bool last = false; !last;) {
        if (buffer.size() < held + kBlock + kReadable)
            buffer.resize(held + kBlock + kReadable);
        // Up to the end of the share, then only what finishes its last line.
        std::size_t n = source.read(at, buffer.data() + held, at < to ? std::min(kBlock, to - at) : kLineRest);
        last = n == 0;
        if (last && held > 0)
            buffer[held + n++] = '\n';
        if (at - held >= to)
            return true;
        if (!last &&
            !std::memchr(buffer.data() + held, '\n', n)) { // a line without end is not looked at again and again
            held += n;
            at += n;
            if (held > kLongestLine)
                return false;
            continue;
        }
        const char* p = buffer.data();
        const char* const end = p + held + n;
        buffer[held + n] = '\0';
        std::size_t lineStart = at - held;
        at += n;
        while (p < end) {
            if (lineStart >= to)
                return true;
            const char* next = f(p, end);
            if (!next)
                break;
            lineStart += static_cast<std::size_t>(next - p);
            p = next;
        }
        held = static_cast<std::size_t>(end - p);
        std::memmove(buffer.data(), p, held);
    }
    return true;
}

// Where lines begin. Remembers the one it found last, so that a line over many segments is looked through once.
class LineStarts {
public:
    explicit LineStarts(const Source& source) : source_(source) {}

    /// Just behind the next newline at or after `offset`; the file's end when there is none, or none within
    /// kLongestLine.
    std::size_t after(std::size_t offset) {
        if (offset >= from_ && offset < found_)
            return found_;
        std::vector<char> buffer(4096);
        from_ = offset;
        while (offset - from_ <= kLongestLine) {
            const std::size_t n = source_.read(offset, buffer.data(), buffer.size());
            if (n == 0)
                break;
            if (const void* newline = std::memchr(buffer.data(), '\n', n))
                return found_ =
                           offset + static_cast<std::size_t>(static_cast<const char*>(newline) - buffer.data()) + 1;
            offset += n;
        }
        return found_ = source_.size();
    }

private:
    const Source& source_;
    std::size_t from_ = 0, found_ = 0; ///< no newline between them
};

// Some thousand lines read by one thread, waiting to be put behind those before them. Reused from segment to segment.
struct Piece {
    Rows rows;
    std::size_t lines = 0;

    void clear() {
        for (trace::Column& c : rows.columns)
            c.clear();
        for (trace::Digits& d : rows.digits)
            d.clear();
        rows.lineless.clear();
        rows.firstSkipped.clear();
        rows.skipped = 0;
        rows.stepsBack = false;
        lines = 0;
    }
};

template<class Column>
void appendTo(Column& column, const Column& more) {
    if (more.empty())
        return;
    const std::size_t at = column.size();
    column.resize(at + more.size());
    std::memcpy(column.data() + at, more.data(), more.size() * sizeof more[0]);
}

class BodyReader {
public:
    BodyReader(const OpenedLog& log, const Recognition& recognition, Slots asDoubles, Progress* progress)
        : log_(log), recognition_(recognition), asDoubles_(asDoubles), progress_(progress) {
        LineStarts starts(*log.source);
        for (std::size_t k = 0; k < recognition.dialect.firstDataLine; ++k)
            body_ = starts.after(std::max(body_, log.start));
        body_ = std::max(body_, log.start);
        const RowReader reader(recognition, asDoubles);
        const std::size_t mostRows = (log.source->size() - body_) / shortestLine() + 2;
        for (std::size_t k = 0; k < kSlots; ++k) {
            const Slot slot = static_cast<Slot>(k);
            rows_.divisors[k] = reader.divisor(slot);
            // Only address space: pages that no row reaches are never touched.
            if (reader.uses(slot))
                reader.divisor(slot) != 0.0 ? rows_.digits[k].reserve(mostRows) : rows_.columns[k].reserve(mostRows);
        }
    }

    /// Nothing when a column's readings have more digits than its first lines; tooLong() says which.
    std::optional<Rows> run() {
        const std::size_t size = log_.source->size() - std::min(body_, log_.source->size());
        segments_ = std::max<std::size_t>(1, size / kSegment);
        std::thread other;
        if (segments_ > 1 && std::thread::hardware_concurrency() > 1)
            other = std::thread([this] { work(); });
        work();
        if (other.joinable())
            other.join();
        if (tooLong_ != kNone)
            return std::nullopt;
        rows_.endlessLine = endlessLine_;
        return std::move(rows_);
    }

    [[nodiscard]] std::size_t tooLong() const { return tooLong_; }

private:
    static constexpr std::size_t kNone = kSlots;
    // Of the lines the recogniser saw, with a little less for shorter ones to come; a wrong guess costs a copy, nothing
    // else.
    [[nodiscard]] std::size_t shortestLine() const {
        std::size_t shortest = 1000;
        for (const auto& cells : recognition_.preview) {
            std::size_t length = cells.size();
            for (const std::string& c : cells)
                length += c.size();
            shortest = std::min(shortest, length);
        }
        return std::max<std::size_t>(4, shortest - shortest / 8);
    }

    [[nodiscard]] std::size_t startOf(std::size_t segment, LineStarts& starts) const {
        if (segment == 0)
            return body_;
        if (segment >= segments_)
            return log_.source->size();
        return starts.after(body_ + (log_.source->size() - body_) * segment / segments_);
    }

    // Who is done with a segment before its turn leaves it beside, and goes on: a thread that sleeps is slow to wake.
    OTTERSTONE_WIDE_BITS void work() {
        RowReader reader(recognition_, asDoubles_);
        LineStarts starts(*log_.source);
        std::vector<char> buffer;
        for (std::size_t k = next_++; k < segments_; k = next_++) {
            std::unique_ptr<Piece> piece = emptyPiece();
            const std::size_t from = startOf(k, starts);
            read(reader, from, startOf(k + 1, starts), *piece, buffer);
            std::unique_lock lock(mutex_);
            turn_.wait(lock, [&] { return k < committed_ + kAhead; });
            beside_[k % kAhead] = std::move(piece);
            if (!committing_)
                commitInOrder(lock);
        }
    }

    // One thread at a time does it, and the lock is not held meanwhile: the other one leaves what it has beside.
    void commitInOrder(std::unique_lock<std::mutex>& lock) {
        committing_ = true;
        while (std::unique_ptr<Piece> first = std::move(beside_[committed_ % kAhead])) {
            lock.unlock();
            commit(*first);
            lock.lock();
            empty_.push_back(std::move(first));
            ++committed_;
            turn_.notify_all();
        }
        committing_ = false;
    }

    std::unique_ptr<Piece> emptyPiece() {
        const std::lock_guard lock(mutex_);
        if (empty_.empty())
            return std::make_unique<Piece>();
        std::unique_ptr<Piece> piece = std::move(empty_.back());
        empty_.pop_back();
        piece->clear();
        return piece;
    }

    void read(RowReader& reader, std::size_t from, std::size_t to, Piece& piece, std::vector<char>& buffer) {
        if (tooLong_ != kNone || endlessLine_ || (progress_ && progress_->cancel.load()))
            return;
        Rows& rows = piece.rows;
        std::size_t count = 0;
        std::size_t room = 0;
        const auto skip = [&](const std::string& why) {
            ++rows.skipped;
            if (rows.firstSkipped.size() < kNamedSkips)
                rows.firstSkipped.push_back({piece.lines, why});
            rows.lineless.push_back(static_cast<std::uint32_t>(piece.lines));
        };
        Columns columns;
        const auto resize = [&](std::size_t size) {
            room = size;
            for (std::size_t k = 0; k < kSlots; ++k) {
                if (!reader.uses(static_cast<Slot>(k)))
                    continue;
                const bool asDigits = reader.divisor(static_cast<Slot>(k)) != 0.0;
                asDigits ? rows.digits[k].resize(size) : rows.columns[k].resize(size);
                columns.values[k] = asDigits ? nullptr : rows.columns[k].data();
                columns.digits[k] = asDigits ? rows.digits[k].data() : nullptr;
            }
        };
        const auto put = [&](const Row& row) {
            for (std::size_t k = 0; k < kSlots; ++k) {
                if (columns.values[k])
                    columns.values[k][count] = row.values[k];
                if (columns.digits[k])
                    columns.digits[k][count] = row.digits[k];
            }
        };
        const auto repeats = [&] {
            for (std::size_t k = 0; k < kSlots; ++k) {
                if ((columns.values[k] && columns.values[k][count] != columns.values[k][count - 1]) ||
                    (columns.digits[k] && columns.digits[k][count] != columns.digits[k][count - 1]))
                    return false;
            }
            return true;
        };
        const auto keep = [&] {
            const double* const time = columns.values[SlotTime];
            if (count > 0 && time[count] <= time[count - 1]) {
                if (repeats())
                    return skip(say("repeats the line before"));
                rows.stepsBack = rows.stepsBack || time[count] < time[count - 1];
            }
            ++count;
        };
        Row careful;
        const bool whole =
            eachLine(*log_.source, from, to, buffer, [&](const char* line, const char* end) -> const char* {
                if (count == room)
                    resize(std::max(kSegment / 16, 2 * room));
                const char* const stopped = reader.readFast(line, end, columns, count);
                const char* newline = stopped;
                if (!stopped || *stopped != '\n') {
                    const char* const rest = stopped ? stopped : line;
                    newline = static_cast<const char*>(std::memchr(rest, '\n', static_cast<std::size_t>(end - rest)));
                    if (!newline)
                        return nullptr;
                }
                if (stopped) {
                    keep();
                } else {
                    switch (reader.readCarefully({line, static_cast<std::size_t>(newline - line)}, careful)) {
                    case LineKind::Row:
                        put(careful);
                        keep();
                        break;
                    case LineKind::Blank: rows.lineless.push_back(static_cast<std::uint32_t>(piece.lines)); break;
                    case LineKind::Skipped: skip(reader.reason()); break;
                    case LineKind::TooManyDigits: tooLong_ = reader.tooLong(); break;
                    }
                }
                ++piece.lines;
                return newline + 1;
            });
        resize(count);
        if (!whole)
            endlessLine_ = true;
    }

    void commit(const Piece& piece) {
        const Rows& more = piece.rows;
        trace::Column& time = rows_.columns[SlotTime];
        const trace::Column& moreTime = more.columns[SlotTime];
        rows_.stepsBack =
            rows_.stepsBack || more.stepsBack || (!time.empty() && !moreTime.empty() && moreTime.front() < time.back());
        for (std::size_t k = 0; k < kSlots; ++k) {
            appendTo(rows_.columns[k], more.columns[k]);
            appendTo(rows_.digits[k], more.digits[k]);
        }
        for (const std::uint32_t l : more.lineless)
            rows_.lineless.push_back(static_cast<std::uint32_t>(lines_ + l));
        for (const SkippedLine& l : more.firstSkipped) {
            if (rows_.firstSkipped.size() < kNamedSkips)
                rows_.firstSkipped.push_back({recognition_.dialect.firstDataLine + lines_ + l.line + 1, l.reason});
        }
        rows_.skipped += more.skipped;
        lines_ += piece.lines;
        if (progress_)
            progress_->done.store(static_cast<double>(committed_ + 1) / static_cast<double>(segments_));
    }

    const OpenedLog& log_;
    const Recognition& recognition_;
    Slots asDoubles_;
    Progress* progress_;
    std::size_t body_ = 0;
    std::size_t segments_ = 1;
    std::size_t lines_ = 0;
    Rows rows_;

    std::atomic<std::size_t> next_{0};
    std::atomic<std::size_t> tooLong_{kNone};
    std::atomic<bool> endlessLine_{false};
    std::mutex mutex_;
    std::condition_variable turn_;
    std::size_t committed_ = 0; ///< segments whose rows are in rows_, always the first ones
    bool committing_ = false;
    std::array<std::unique_ptr<Piece>, kAhead> beside_; ///< read before their turn, by segment
    std::vector<std::unique_ptr<Piece>> empty_;         ///< for the next segments
};

} // namespace

Rows readRows(const OpenedLog& log, const Recognition& recognition, Progress* progress) {
    Slots asDoubles; // a column whose readings grow longer is given room, and all is read anew; the others keep half of
                     // it
    for (;;) {
        BodyReader reader(log, recognition, asDoubles, progress);
        if (auto rows = reader.run())
            return std::move(*rows);
        asDoubles.set(reader.tooLong());
    }
}

} // namespace otterstone::logs
