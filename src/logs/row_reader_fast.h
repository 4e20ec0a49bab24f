// The fast way through a line, inlined into the loop over lines; internal to this folder. Reading numbers is most of
// what importing a log takes, and instruments write short ones: all digits of such a number are worked on at once.
#pragma once

#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <cstring>

#include <fast_float/fast_float.h>
#if defined(__SSE2__)
#include <emmintrin.h>
#endif

#include "logs/row_reader.h"

namespace otterstone::logs {

inline constexpr std::array<std::int64_t, 16> kPowersOfTen = [] {
    std::array<std::int64_t, 16> powers{1};
    for (std::size_t k = 1; k < powers.size(); ++k)
        powers[k] = powers[k - 1] * 10;
    return powers;
}();

/// The most digits that times the power still are a whole number of 32 bits.
inline constexpr std::array<std::int64_t, 16> kMostDigits = [] {
    std::array<std::int64_t, 16> most{};
    for (std::size_t k = 0; k < most.size(); ++k)
        most[k] = INT32_MAX / kPowersOfTen[k];
    return most;
}();

inline constexpr std::array<double, 16> kDoublePowers = {1e0, 1e1, 1e2,  1e3,  1e4,  1e5,  1e6,  1e7,
                                                         1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15};

inline constexpr std::uint64_t kNoughts = 0x3030303030303030ULL; ///< what takes eight digits' characters to 0 … 9

/// Eight bytes of 0 … 9, the most significant first in memory, as a number.
inline std::int64_t addDigits(std::uint64_t bytes) {
    bytes = bytes * 10 + (bytes >> 8);
    return static_cast<std::int64_t>(((bytes & 0x000000FF000000FFULL) * 0x000F424000000064ULL +
                                      (bytes >> 16 & 0x000000FF000000FFULL) * 0x0000271000000001ULL) >>
                                     32);
}

/// A decimal as it is written: digits / 10^decimals; nothing (null end) for none, or one longer than 15 digits.
struct Decimal {
    std::int64_t digits;
    std::ptrdiff_t decimals;
    const char* end;
};

/// The general loop, for numbers of more than eight characters.
[[gnu::noinline]] inline Decimal readLongDecimal(const char* p, char mark) {
    Decimal d{0, 0, nullptr};
    int count = 0;
    const auto digits = [&] {
        for (; static_cast<unsigned char>(*p - '0') < 10 && count <= 15; ++p, ++count)
            d.digits = d.digits * 10 + (*p - '0');
    };
    digits();
    if (*p == mark) {
        const int before = count;
        ++p;
        digits();
        d.decimals = count - before;
    }
    d.end = count == 0 || count > 15 ? nullptr : p;
    return d;
}

/// What is no digit among the next characters, one bit each: the ends of a whole line's cells are found by looking at
/// it once, and one cell need not be read before the next can be.
class Marks {
public:
    static constexpr int kSeen = 64, kFew = 24;

    explicit Marks(const char* p) : from_(p), bits_(look(p)) {}

    /// The bits from p on, at least kFew of them.
    [[gnu::always_inline]] std::uint64_t at(const char* p) {
        if (p - from_ > kSeen - kFew)
            *this = Marks(p);
        return bits_ >> (p - from_);
    }

private:
    [[gnu::always_inline]] static std::uint64_t look(const char* p) {
        std::uint64_t bits = 0;
#if defined(__SSE2__)
        for (int k = 0; k < kSeen; k += 16) {
            const __m128i characters = _mm_loadu_si128(reinterpret_cast<const __m128i*>(p + k));
            // The digits become −128 … −119, the least that signed bytes can be.
            const __m128i moved = _mm_add_epi8(characters, _mm_set1_epi8(static_cast<char>(-128 - '0')));
            const int others = _mm_movemask_epi8(_mm_cmpgt_epi8(moved, _mm_set1_epi8(-119)));
            bits |= static_cast<std::uint64_t>(static_cast<std::uint32_t>(others)) << k;
        }
#else
        for (int k = 0; k < kSeen; ++k)
            bits |= static_cast<std::uint64_t>(static_cast<unsigned char>(p[k] - '0') > 9) << k;
#endif
        return bits;
    }

    const char* from_;
    std::uint64_t bits_;
};

/// Up to eight digits and mark from one eight-byte word: close the mark's hole, and add up pairs, then quads (a known
/// trick; the bytes lie in little-endian order, as the book's blobs do). No sign.
[[gnu::always_inline]] inline Decimal readDecimal(const char* p, char mark, std::uint64_t marks) {
    const int whole = std::countr_zero(marks); // characters before the first that is no digit
    if (p[whole & 63] != mark) {
        if (whole == 0 || whole > 8)
            return readLongDecimal(p, mark);
        std::uint64_t word = 0;
        std::memcpy(&word, p, sizeof word);
        return {addDigits((word ^ kNoughts) << (64 - 8 * whole)), 0, p + whole}; // leading zeros
    }
    const int stop = std::countr_zero(marks & (marks - 1));
    if (stop < 2 || stop > 8)
        return readLongDecimal(p, mark);
    std::uint64_t word = 0;
    std::memcpy(&word, p, sizeof word);
    word ^= kNoughts;
    const std::uint64_t low = (std::uint64_t(1) << (8 * whole)) - 1;
    const std::uint64_t closed = (word & low) | (word >> 8 & ~low);
    return {addDigits(closed << (72 - 8 * stop)), stop - whole - 1, p + stop};
}

[[gnu::always_inline]] inline const char* RowReader::readFast(const char* p, const char* textEnd,
                                                              const Columns& columns, std::size_t at) const {
    if (!fast_)
        return nullptr;
    // Columns and tables by pointer: a library that checks every index takes a twentieth of the time.
    double* const* const values = columns.values.data();
    std::int32_t* const* const digitsOf = columns.digits.data();
    const std::int64_t *const powers = kPowersOfTen.data(), *const mostDigits = kMostDigits.data();
    const double* const divisors = kDoublePowers.data();
    const char delimiter = recognition_.dialect.delimiter;
    const char mark = recognition_.dialect.decimal;
    Marks marks(p);
    const Cell* const last = cells_.data() + cells_.size() - 1;
    for (const Cell* column = cells_.data();; ++column) {
        const Cell& cell = *column;
        if (cell.slot >= 0) {
            const auto slot = static_cast<std::size_t>(cell.slot);
            const char* const from = p;
            const bool negative = *p == '-';
            if (negative)
                ++p;
            const Decimal d = readDecimal(p, mark, marks.at(p));
            if (!d.end && cell.wholeDecimals < 0) {
                // Sixteen digits or more, as programs write them: the library's general routine.
                double value = 0.0;
                const auto [after, error] = fast_float::from_chars_advanced(
                    from, textEnd, value, fast_float::parse_options(fast_float::chars_format::general, mark));
                if (error != std::errc{} || !(std::fabs(value) < 1e300)) // "nan" and "inf" are no readings
                    return nullptr;
                p = after;
                values[slot][at] = cell.scaled(value);
            } else if (!d.end) {
                return nullptr; // spaces, words and quotes are read carefully
            } else if (p = d.end; cell.wholeDecimals >= 0) {
                if (d.decimals > cell.wholeDecimals)
                    return nullptr;
                const auto shift = static_cast<std::size_t>(cell.wholeDecimals - d.decimals);
                if (d.digits > mostDigits[shift])
                    return nullptr;
                const auto digits = static_cast<std::int32_t>(d.digits * powers[shift]);
                digitsOf[slot][at] = negative ? -digits : digits;
            } else {
                // Digits and power of ten are exact doubles, so their quotient is the nearest double (Clinger's fast
                // path).
                const double value = static_cast<double>(d.digits) / divisors[static_cast<std::size_t>(d.decimals)];
                values[slot][at] = cell.scaled(negative ? -value : value);
            }
        } else {
            for (;;) {
                const std::uint64_t others = marks.at(p);
                if (others == 0) { // digits as far as is seen
                    p += Marks::kFew;
                    continue;
                }
                p += std::countr_zero(others);
                if (*p == delimiter || *p == '\n' || *p == '\0')
                    break;
                if (*p == '"')
                    return nullptr; // a delimiter inside quotes would shift the columns
                ++p;
            }
        }
        if (column == last)
            return *p == delimiter || *p == '\n' || *p == '\r' ? p : nullptr;
        if (*p != delimiter)
            return nullptr;
        ++p;
    }
}

} // namespace otterstone::logs
