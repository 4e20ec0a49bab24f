#include "bench/instruments/address.h"

#include <algorithm>

#include <QFileInfo>
#include <QHostAddress>

#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr int kHttpPort = 80;

} // namespace

QString devicePath(const QString& address) {
    const QString inDev = QStringLiteral("/dev/") + address;
    const bool fromHere = address.contains(QLatin1Char('/')) && !QFileInfo::exists(inDev);
    return address.startsWith(QLatin1Char('/')) ? address : fromHere ? QFileInfo(address).absoluteFilePath() : inDev;
}

std::optional<HostPort> hostPort(const QString& address, int otherwise) {
    QString host = address, port;
    const bool bare = QHostAddress(address).protocol() == QAbstractSocket::IPv6Protocol;
    if (const auto colon = address.lastIndexOf(QLatin1Char(':'));
        !bare && colon > address.lastIndexOf(QLatin1Char(']'))) {
        host = address.left(colon);
        port = address.mid(colon + 1);
        if (port.isEmpty())
            return std::nullopt;
    }
    if (host.startsWith(QLatin1Char('[')) && host.endsWith(QLatin1Char(']')))
        host = host.mid(1, host.size() - 2);
    else if (!bare && host.contains(QLatin1Char(':')))
        return std::nullopt;
    const bool odd = std::any_of(host.begin(), host.end(), [](QChar c) {
        return c.isSpace() || !c.isPrint() || c == QLatin1Char('/') || c == QLatin1Char('@');
    });
    const bool digits =
        std::all_of(port.begin(), port.end(), [](QChar c) { return c >= QLatin1Char('0') && c <= QLatin1Char('9'); });
    const int number = port.isEmpty() ? otherwise : port.size() <= 5 ? port.toInt() : 0;
    if (host.isEmpty() || odd || !digits || number < 1 || number > 65535)
        return std::nullopt;
    return HostPort{host, static_cast<quint16>(number)};
}

std::optional<Problem> addressProblem(const Profile& profile, const Address& address, const std::string& place) {
    const bool network = profile.by == Profile::By::Tcp || profile.by == Profile::By::Web;
    const int usual = profile.by == Profile::By::Web ? kHttpPort : profile.tcpPort;
    if (network ? hostPort(address.text, usual).has_value() : !address.text.trimmed().isEmpty())
        return std::nullopt;
    return Problem{
        "bad_address", place, say("“{}” is no address for “{}”.", address.text.toStdString(), profile.name),
        network ? say("Write host:port, with a port from 1 to 65535, like 192.168.1.20:{}.", std::to_string(usual))
                : say("Write the port's name, like /dev/ttyUSB0.")};
}

} // namespace otterstone::bench
