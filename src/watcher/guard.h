// What the watcher is told of a load: how it is reached, how "off" is said to it, and by what it is known to be off.
#pragma once

#include <optional>
#include <string>

namespace otterstone::watcher {

/// Of one load, from the moment it may be on until it said that it is off.
struct Guard {
    enum class By { Tcp, Serial, File } by = By::Tcp;
    std::string where;         ///< host, or the path of a port
    int port = 0;              ///< of the host; of a serial port its baud rate
    std::string parity;        ///< of a serial port: "none", "even", "odd"
    std::string off, question; ///< bytes as they go over the wire; no question: nothing is asked
    /// Off is: its input says "0" or "OFF", its amperes are idle, "off" came back as it was sent, or nothing that a
    /// load of this kind could say.
    enum class Proof { State, Amps, Echo, None } proof = Proof::None;
    double idleAmps = 0.05;
    bool operator==(const Guard&) const = default;
};

/// What is sent over the pipe: one message each.
struct Message {
    enum class What { Guard, Release, Alive } what = What::Alive;
    int id = 0;
    Guard guard;
};

/// One message as bytes, and back; nothing for bytes that are none.
[[nodiscard]] std::string encode(const Message& message);
[[nodiscard]] std::optional<Message> decode(const std::string& bytes);

/// The watcher's end of the pipe, and the longest message.
inline constexpr int kPipe = 3;
inline constexpr std::size_t kLongestMessage = 4096;
/// Whoever holds a load that may be on says so at least so often; else nobody watches it, and it is switched off.
inline constexpr int kUnwatchedSeconds = 20;

} // namespace otterstone::watcher
