#include "terminal/busy.h"

#include <chrono>
#include <cstdlib>
#include <string_view>
#include <utility>

#include <unistd.h>

#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::terminal {

namespace {

constexpr auto kStep = std::chrono::milliseconds(500);
constexpr std::string_view kTakenAway = "\r\x1b[K"; // the line is empty again

// Past the streams: they have nothing of it to keep, and their filter lets no escape through.
void put(std::string_view text) {
    for (std::size_t from = 0; from < text.size();) {
        const ssize_t n = ::write(STDERR_FILENO, text.data() + from, text.size() - from);
        if (n <= 0)
            return; // a terminal that is gone; what is worked out goes on
        from += static_cast<std::size_t>(n);
    }
}

bool canShow() {
    const char* terminal = std::getenv("TERM");
    return ::isatty(STDERR_FILENO) == 1 && !(terminal && std::string_view(terminal) == "dumb");
}

} // namespace

Busy::Busy(std::string what, double atMost) {
    if (canShow())
        thread_ = std::thread(&Busy::show, this, std::move(what), atMost);
}

Busy::~Busy() {
    if (!thread_.joinable())
        return;
    {
        const std::lock_guard lock(mutex_);
        ended_ = true;
    }
    over_.notify_one();
    thread_.join();
}

void Busy::show(const std::string& what, double atMost) {
    bool shown = false;
    std::unique_lock lock(mutex_);
    for (int steps = 1; !over_.wait_for(lock, kStep, [this] { return ended_; }); ++steps) {
        const int seconds = steps / 2;
        const std::string so = showDuration(seconds, 1.0);
        put(std::string(kTakenAway) + (steps < 2      ? what + " …"
                                       : atMost > 0.0 ? say("{}: {} of at most {}", what, so, showDuration(atMost, 1.0))
                                                      : say("{}: {}", what, so)));
        shown = true;
    }
    if (shown)
        put(kTakenAway);
}

} // namespace otterstone::terminal
