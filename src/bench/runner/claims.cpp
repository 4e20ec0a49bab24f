#include "bench/runner/claims.h"

#include <QFileInfo>

#include "bench/instruments/link.h"

namespace otterstone::bench {

std::string placeOf(const Instrument& instrument) {
    const QString text = instrument.address.text.trimmed();
    if (instrument.profile.by == Profile::By::Serial || instrument.profile.by == Profile::By::Usbtmc) {
        const QFileInfo file(devicePath(text));
        const QString canonical = file.canonicalFilePath();
        return (canonical.isEmpty() ? file.absoluteFilePath() : canonical).toStdString();
    }
    const qsizetype colon = text.lastIndexOf(QLatin1Char(':'));
    QString host = (colon < 0 ? text : text.left(colon)).toLower();
    if (host == QLatin1String("localhost"))
        host = QStringLiteral("127.0.0.1");
    constexpr int kWeb = 80;
    const int usual = instrument.profile.by == Profile::By::Web ? kWeb : instrument.profile.tcpPort;
    const QString port = colon < 0 ? QString::number(usual) : text.mid(colon + 1);
    return (host + QLatin1Char(':') + port).toStdString();
}

Claim claimOf(const Plan& plan) {
    Claim claim;
    if (plan.rehearsal)
        return claim;
    claim.bank = plan.run.bank;
    for (const records::Stretch& s : records::kStretches) {
        if (const auto piece = plan.run.*(s.piece))
            claim.gear.insert(*piece);
    }
    for (const auto& [role, piece] : plan.pieces)
        claim.gear.insert(piece);
    for (const auto& [role, instrument] : plan.instruments)
        claim.places.emplace(placeOf(instrument), role);
    return claim;
}

std::optional<Clash> clashOf(const Claim& asking, const Claim& holding) {
    for (const auto& [place, role] : asking.places) {
        if (holding.places.contains(place))
            return Clash{Clash::What::Place, records::kNew, role, place};
    }
    for (const records::Id piece : asking.gear) {
        if (holding.gear.contains(piece))
            return Clash{Clash::What::Gear, piece, {}, {}};
    }
    if (asking.bank != records::kNew && asking.bank == holding.bank)
        return Clash{};
    return std::nullopt;
}

} // namespace otterstone::bench
