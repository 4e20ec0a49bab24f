// A column of readings. Instruments write few digits, so the readings of a log are kept as whole numbers of their last
// digit: half the memory of doubles, and exactly the same values. Other readings are kept as doubles.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <memory>
#include <new>
#include <vector>

#include <sys/mman.h>

namespace otterstone::trace {

/// An allocator whose resize() leaves numbers as they are: a two-million-row log is written once, not twice. Large
/// columns ask for large pages, which saves thousands of page faults.
template<class T>
struct LazyAllocator : std::allocator<T> {
    template<class U>
    struct rebind {
        using other = LazyAllocator<U>;
    };
    static constexpr std::size_t kLargePage = std::size_t(1) << 21;

    T* allocate(std::size_t count) {
        const std::size_t bytes = count * sizeof(T);
        if (bytes < 2 * kLargePage)
            return std::allocator<T>::allocate(count);
        void* p = ::operator new(bytes, std::align_val_t(kLargePage));
        ::madvise(p, bytes, MADV_HUGEPAGE); // only a wish: nothing depends on it
        return static_cast<T*>(p);
    }
    void deallocate(T* p, std::size_t count) {
        if (count * sizeof(T) < 2 * kLargePage)
            std::allocator<T>::deallocate(p, count);
        else
            ::operator delete(p, std::align_val_t(kLargePage));
    }
    template<class U>
    void construct(U* p) noexcept {
        ::new (static_cast<void*>(p)) U;
    }
    template<class U, class... Args>
    void construct(U* p, Args&&... args) {
        ::new (static_cast<void*>(p)) U(std::forward<Args>(args)...);
    }
};

using Column = std::vector<double, LazyAllocator<double>>;
using Digits = std::vector<std::int32_t, LazyAllocator<std::int32_t>>;

/// Stands where an instrument gave no reading; it is read as NaN.
inline constexpr std::int32_t kNoDigits = std::numeric_limits<std::int32_t>::min();

/// The reading that is written as `digits`.
[[nodiscard]] constexpr double readingOf(std::int32_t digits, double divisor) {
    return digits == kNoDigits ? std::numeric_limits<double>::quiet_NaN() : static_cast<double>(digits) / divisor;
}

/// The same for a column.
void divideDigits(const std::int32_t* digits, double divisor, std::size_t count, double* out);

/// Whether no value is larger than `most` either way, or is none.
[[nodiscard]] bool allWithin(const Column& column, double most);

class Readings {
public:
    Readings() = default;
    Readings(std::initializer_list<double> values) : doubles_(values) {}
    explicit Readings(Column values) : doubles_(std::move(values)) {}
    /// Each reading is digits / divisor; the divisor is a power of ten, so the quotient is the double nearest to the
    /// decimal.
    Readings(Digits digits, double divisor) : digits_(std::move(digits)), divisor_(divisor) {}

    [[nodiscard]] std::size_t size() const { return divisor_ != 0.0 ? digits_.size() : doubles_.size(); }
    [[nodiscard]] bool empty() const { return size() == 0; }
    [[nodiscard]] double operator[](std::size_t k) const {
        return divisor_ != 0.0 ? readingOf(digits_[k], divisor_) : doubles_[k];
    }
    [[nodiscard]] double back() const { return (*this)[size() - 1]; }
    /// Writes readings [first, first + count) as doubles.
    void decode(std::size_t first, std::size_t count, double* out) const {
        if (divisor_ != 0.0) {
            divideDigits(digits_.data() + first, divisor_, count, out);
        } else {
            std::copy_n(doubles_.data() + first, count, out);
        }
    }
    /// Readings [first, first + count) as doubles.
    [[nodiscard]] Column part(std::size_t first, std::size_t count) const {
        Column out(count);
        decode(first, count, out.data());
        return out;
    }

    friend bool allWithin(const Readings& readings, double most);

    void push_back(double value) {
        if (divisor_ != 0.0)
            *this = Readings(part(0, size()));
        doubles_.push_back(value);
    }
    void append(const Column& values) {
        if (divisor_ != 0.0)
            *this = Readings(part(0, size()));
        doubles_.insert(doubles_.end(), values.begin(), values.end());
    }
    void negate() {
        divisor_ = -divisor_;
        for (double& v : doubles_)
            v = -v;
    }

private:
    Column doubles_;
    Digits digits_;
    double divisor_ = 0.0; ///< 0: the doubles count
};

} // namespace otterstone::trace
