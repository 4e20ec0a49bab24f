#include "terminal/unwaiting.h"

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <csignal>
#include <iostream>
#include <memory>
#include <mutex>
#include <streambuf>
#include <string>
#include <thread>

#include <pthread.h>
#include <unistd.h>

#include "core/quantity/say.h"

namespace otterstone::terminal {

namespace {

using std::chrono::milliseconds;
constexpr std::size_t kMostKept = 1 << 18;
constexpr milliseconds kFlush{2000}, kEnd{500};

// What waits to be written; its thread may outlast whoever made it, held up in a write.
struct Waiting {
    explicit Waiting(int descriptor) : fd(descriptor) {}
    std::mutex mutex;
    std::condition_variable more, empty;
    std::string text;
    std::size_t dropped = 0;
    bool busy = false, failed = false;
    int fd;

    void put(std::string line) {
        const std::lock_guard lock(mutex);
        if (text.size() + line.size() > kMostKept) {
            ++dropped;
            return;
        }
        text += line;
        more.notify_one();
    }
    bool drained(milliseconds atMost) {
        std::unique_lock lock(mutex);
        return empty.wait_for(lock, atMost, [this] { return text.empty() && !busy; }) && !failed;
    }
    void write() {
        std::unique_lock lock(mutex);
        for (;;) {
            more.wait(lock, [this] { return !text.empty(); });
            std::string now = std::move(text);
            text.clear();
            if (const std::size_t lost = std::exchange(dropped, 0); lost > 0)
                now += say("({} lines were not taken here in time, and are left out.)\n", std::to_string(lost));
            busy = true;
            lock.unlock();
            bool taken = true;
            for (std::size_t from = 0; taken && from < now.size();) {
                const ssize_t n = ::write(fd, now.data() + from, now.size() - from);
                taken = n > 0 || (n < 0 && errno == EINTR);
                from += n > 0 ? static_cast<std::size_t>(n) : 0;
            }
            lock.lock();
            busy = false;
            failed = failed || !taken;
            if (text.empty())
                empty.notify_all();
        }
    }
};

class UnwaitingBuffer : public std::streambuf {
public:
    UnwaitingBuffer(std::ostream& stream, int fd, bool flushes)
        : stream_(stream), waiting_(std::make_shared<Waiting>(fd)), flushes_(flushes), before_(stream.rdbuf(this)) {
        // The thread takes no signal: these are whoever's holds them.
        sigset_t all, now;
        sigfillset(&all);
        pthread_sigmask(SIG_SETMASK, &all, &now);
        std::thread([waiting = waiting_] { waiting->write(); }).detach();
        pthread_sigmask(SIG_SETMASK, &now, nullptr);
    }
    ~UnwaitingBuffer() override {
        handOver();
        stream_.rdbuf(before_);
        (void)waiting_->drained(kEnd);
    }
    UnwaitingBuffer(const UnwaitingBuffer&) = delete;
    UnwaitingBuffer& operator=(const UnwaitingBuffer&) = delete;

protected:
    int_type overflow(int_type given) override {
        if (given == traits_type::eof())
            return traits_type::not_eof(given);
        line_ += traits_type::to_char_type(given);
        if (line_.back() == '\n' || line_.size() >= kMostKept)
            handOver();
        return given;
    }
    // Standard error is flushed behind each word; its lines go out as they are whole.
    int sync() override {
        if (!flushes_)
            return 0;
        handOver();
        return waiting_->drained(kFlush) ? 0 : -1;
    }

private:
    void handOver() {
        if (!line_.empty())
            waiting_->put(std::exchange(line_, {}));
    }
    std::ostream& stream_;
    std::shared_ptr<Waiting> waiting_;
    bool flushes_;
    std::string line_;
    std::streambuf* before_;
};

} // namespace

void printWithoutWaiting() {
    static UnwaitingBuffer out(std::cout, STDOUT_FILENO, true), err(std::cerr, STDERR_FILENO, false);
}

} // namespace otterstone::terminal
