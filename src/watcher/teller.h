// Says "off" to one load, over whatever still reaches it, until it is known to be off.
#pragma once

#include <string>

#include "watcher/guard.h"

namespace otterstone::watcher {

class Teller {
public:
    /// `descriptor`: what the load is connected by already, or −1; it is closed by this.
    Teller(Guard guard, int descriptor) : guard_(std::move(guard)), fd_(descriptor) {}
    ~Teller() { close(); }
    Teller(const Teller&) = delete;
    Teller& operator=(const Teller&) = delete;

    /// Whether the load is off, as far as one of its kind can say; it is told twice a second for so long at most.
    [[nodiscard]] bool tell(double seconds);
    /// "the load at 192.168.1.20:5025"
    [[nodiscard]] std::string name() const;

private:
    [[nodiscard]] bool connected();
    [[nodiscard]] int connectTcp() const;
    [[nodiscard]] int openPort() const;
    [[nodiscard]] bool send(const std::string& bytes);
    /// What came within so many milliseconds, up to the first answer that is whole.
    [[nodiscard]] std::string answer(int milliseconds, std::size_t enough);
    void dropWhatCame();
    [[nodiscard]] bool isOff();
    void close();

    Guard guard_;
    int fd_;
    int told_ = 0; ///< times that "off" left this computer
};

} // namespace otterstone::watcher
