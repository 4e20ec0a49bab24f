// Work on many like things, shared with a second core where that is worth a thread.
#pragma once

#include <cstddef>
#include <system_error>
#include <thread>

namespace otterstone {

/// Calls f(half, from, to) with half 0 and 1 for the two halves of [0, count), at once if there are `worth` things or
/// more and a second core; else f(0, 0, count). f writes nothing that the other half reads, and does not throw.
template<class F>
void inHalves(std::size_t count, std::size_t worth, const F& f) {
    if (count < worth || std::thread::hardware_concurrency() < 2)
        return f(0, 0, count);
    std::thread other;
    try {
        other = std::thread([&] { f(1, count / 2, count); });
    } catch (const std::system_error&) { // no more threads are to be had
        return f(0, 0, count);
    }
    f(0, 0, count / 2);
    other.join();
}

} // namespace otterstone
