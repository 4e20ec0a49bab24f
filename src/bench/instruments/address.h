// Where an instrument is connected: a serial port, a file of the kernel's, or a host.
#pragma once

#include <optional>

#include <QString>

#include "bench/profiles/profile.h"

namespace otterstone::bench {

/// "/dev/ttyUSB0" or "ttyUSB0" for a serial port, "/dev/usbtmc0" for a USB instrument, "host:port" or "host" for TCP
/// and for a page.
struct Address {
    QString text;
    bool operator==(const Address&) const = default;
};

/// Of a serial port or a USB instrument: "ttyUSB0" lies in /dev, "bench/meter" from here on where /dev has none of that
/// name, "/dev/ttyUSB0" is what it is.
[[nodiscard]] QString devicePath(const QString& address);

struct HostPort {
    QString host;
    quint16 port = 0;
};
/// "bench:5025", "192.168.1.20", "[fe80::1]:5025". Nothing for what is no host, or a port that is not a whole number
/// from 1 to 65535: nobody else's port is spoken to instead.
[[nodiscard]] std::optional<HostPort> hostPort(const QString& address, int otherwise);

/// What is wrong with an address of an instrument like this; nothing as a rule. The problem names `place`.
[[nodiscard]] std::optional<Problem> addressProblem(const Profile& profile, const Address& address,
                                                    const std::string& place);

} // namespace otterstone::bench
