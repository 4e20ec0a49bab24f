// One end of a pseudo-terminal, behind a name that stays the same when it is unplugged and plugged in again.
#pragma once

#include <string>
#include <utility>

#include "core/quantity/problem.h"

namespace otterstone::standin {

class Pty {
public:
    /// `link`: the path under which the other end is found.
    explicit Pty(std::string link) : link_(std::move(link)) {}
    ~Pty() { close(); }
    Pty(const Pty&) = delete;
    Pty& operator=(const Pty&) = delete;

    /// Set to a rate, which whoever opens the other end may change.
    [[nodiscard]] Result<void> open(int baud);
    void close();
    [[nodiscard]] bool isOpen() const { return master_ >= 0; }
    [[nodiscard]] const std::string& link() const { return link_; }
    /// Somebody has the other end open.
    [[nodiscard]] bool heard() const;
    /// The rate the other end was set to; 0 when nobody set one.
    [[nodiscard]] int baud() const;

    /// What cannot go out at once waits.
    void write(const std::string& bytes);
    void flush();
    /// What the other end has sent since.
    [[nodiscard]] std::string read();
    /// Until the other end has taken some.
    void waitForRoom(int milliseconds) const;
    /// Bytes that went out since this was last asked.
    [[nodiscard]] std::size_t takeSent() { return std::exchange(sent_, 0); }
    [[nodiscard]] std::size_t waiting() const { return waiting_.size(); }
    /// Forgets what waits: a meter nobody listens to prints all the same.
    void drop() { waiting_.clear(); }

private:
    std::string link_;
    std::string waiting_;
    std::size_t sent_ = 0;
    int master_ = -1;
};

} // namespace otterstone::standin
