// An entry of the fuzz tests: one reader, given any bytes. Built with clang and OTTERSTONE_FUZZ it searches by itself
// (docs/hardening.md); otherwise replay.cpp gives it the kept inputs. Whatever comes in, a reader reads or refuses: it
// never throws, never touches what is not its own, and makes no figure that is not finite.
#pragma once

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <string>
#include <string_view>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

namespace otterstone::fuzz {

inline std::string_view text(const std::uint8_t* data, std::size_t size) {
    return {reinterpret_cast<const char*>(data), size};
}

/// Ends the program with the words when it doesn't hold: what a search takes for a finding.
inline void must(bool holds, const char* words) {
    if (holds)
        return;
    std::fprintf(stderr, "does not hold: %s\n", words);
    std::abort();
}

/// Takes an input apart from its front; zeros when it is used up.
class Bytes {
public:
    Bytes(const std::uint8_t* data, std::size_t size) : data_(data), left_(size) {}
    [[nodiscard]] std::size_t left() const { return left_; }
    [[nodiscard]] std::uint8_t byte() {
        if (left_ == 0)
            return 0;
        --left_;
        return *data_++;
    }
    /// Any double, the odd ones too.
    [[nodiscard]] double number() {
        double value = 0.0;
        const std::size_t n = left_ < sizeof value ? left_ : sizeof value;
        std::memcpy(&value, data_, n);
        data_ += n;
        left_ -= n;
        return value;
    }
    [[nodiscard]] std::string_view rest() const { return text(data_, left_); }

private:
    const std::uint8_t* data_;
    std::size_t left_;
};

} // namespace otterstone::fuzz
