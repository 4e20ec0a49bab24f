#include "bench/instruments/last_word.h"

#include <array>
#include <atomic>
#include <csignal>
#include <cstdlib>
#include <cstring>

#include <unistd.h>

namespace otterstone::bench {

namespace {

// Read by a signal handler, so: no heap, no lock. A place is taken by its flag, and counts once its fd is set.
struct Place {
    std::atomic<bool> taken{false};
    std::atomic<int> fd{-1};
    std::array<char, 250> bytes{};
    std::size_t size = 0;
};
std::array<Place, 32> places; // nine benches with two loads each, and those that end meanwhile

void sayAll() {
    for (Place& p : places) {
        if (const int fd = p.fd.load(); fd >= 0) [[maybe_unused]]
            const auto written = ::write(fd, p.bytes.data(), p.size);
    }
}

void dying(int signal) {
    sayAll();
    std::signal(signal, SIG_DFL);
    std::raise(signal);
}

} // namespace

void prepareLastWords() {
    for (const int signal : {SIGSEGV, SIGBUS, SIGFPE, SIGILL, SIGABRT})
        std::signal(signal, dying);
    std::atexit(sayAll);
}

void LastWord::prepare(int fd, const QByteArray& bytes) {
    withdraw();
    for (std::size_t k = 0; k < places.size(); ++k) {
        Place& p = places[k];
        if (p.taken.exchange(true))
            continue;
        p.size = std::min(p.bytes.size(), static_cast<std::size_t>(bytes.size()));
        std::memcpy(p.bytes.data(), bytes.constData(), p.size);
        p.fd.store(fd);
        place_ = static_cast<int>(k);
        return;
    }
}

void LastWord::withdraw() {
    if (place_ < 0)
        return;
    Place& p = places[static_cast<std::size_t>(place_)];
    p.fd.store(-1);
    p.taken.store(false);
    place_ = -1;
}

} // namespace otterstone::bench
