// The fast way through a line, inlined into the loop over lines; internal to this folder. Reading numbers is most of
// what importing a log takes, and instruments write short ones: all digits of such a number are worked on at once.
#pragma once

#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <cstring>

#include <fast_float/fast_float.h>

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

/// Up to eight digits and mark from one eight-byte word: find where the digits stop, close the mark's hole, and add up
/// pairs, then quads (a known trick; the bytes lie in little-endian order, as the book's blobs do). No sign.
[[gnu::always_inline]] inline Decimal readDecimal(const char* p, char mark) {
    std::uint64_t word = 0;
    std::memcpy(&word, p, sizeof word);
    const std::uint64_t d = word ^ 0x3030303030303030ULL; // digits become 0 … 9
    std::uint64_t others = ((d + 0x7676767676767676ULL) | d) & 0x8080808080808080ULL;
    // Bits up to the first character that is no digit; without any the number goes on, which is rare.
    const int whole = std::countr_zero(others) & 0x78;
    if (others == 0 || whole == 0)
        return readLongDecimal(p, mark);
    if (p[whole >> 3] != mark) {
        const std::uint64_t bytes = d << (64 - whole); // leading zeros
        return {addDigits(bytes), 0, p + (whole >> 3)};
    }
    others &= others - 1;
    if (others == 0)
        return readLongDecimal(p, mark);
    const int stop = std::countr_zero(others) & 0x78;
    const std::uint64_t low = (std::uint64_t(1) << whole) - 1;
    const std::uint64_t closed = (d & low) | (d >> 8 & ~low);
    return {addDigits(closed << (72 - stop)), (stop - whole - 8) >> 3, p + (stop >> 3)};
}

inline const char* RowReader::readFast(const char* p, const char* textEnd, Row& row) const {
    if (!fast_)
        return nullptr;
    const char delimiter = recognition_.dialect.delimiter;
    const char mark = recognition_.dialect.decimal;
    const Cell* const last = cells_.data() + cells_.size() - 1;
    for (const Cell* column = cells_.data();; ++column) {
        const Cell& cell = *column;
        if (cell.slot >= 0) {
            const auto slot = static_cast<std::size_t>(cell.slot);
            const bool negative = *p == '-';
            Decimal d = readDecimal(p + negative, mark);
            if (negative)
                d.digits = -d.digits;
            if (!d.end && cell.wholeDecimals < 0) {
                // Sixteen digits or more, as programs write them: the library's general routine.
                double value = 0.0;
                const auto [after, error] = fast_float::from_chars_advanced(
                    p, textEnd, value, fast_float::parse_options(fast_float::chars_format::general, mark));
                if (error != std::errc{} || !(std::fabs(value) < 1e300)) // "nan" and "inf" are no readings
                    return nullptr;
                p = after;
                row.values[slot] = cell.scaled(value);
            } else if (!d.end) {
                return nullptr; // spaces, words and quotes are read carefully
            } else if (p = d.end; cell.wholeDecimals >= 0) {
                if (d.decimals > cell.wholeDecimals)
                    return nullptr;
                const auto shift = static_cast<std::size_t>(cell.wholeDecimals - d.decimals);
                if (d.digits > kMostDigits[shift] || d.digits < -kMostDigits[shift])
                    return nullptr;
                row.digits[slot] = static_cast<std::int32_t>(d.digits * kPowersOfTen[shift]);
            } else {
                // Digits and power of ten are exact doubles, so their quotient is the nearest double (Clinger's fast
                // path).
                row.values[slot] =
                    cell.scaled(static_cast<double>(d.digits) / kDoublePowers[static_cast<std::size_t>(d.decimals)]);
            }
        } else {
            for (; *p != delimiter && *p != '\n' && *p != '\0'; ++p) {
                if (*p == '"')
                    return nullptr; // a delimiter inside quotes would shift the columns
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
