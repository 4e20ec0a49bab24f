#include "app/runs/ribbon_model.h"

#include <QObject>
#include <QStringList>

#include "app/theme.h"
#include "core/label/rating.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

QString nameOf(const std::vector<book::Gear>& gear, std::optional<book::Id> id, const QString& otherwise) {
    for (const book::Gear& g : gear) {
        if (id && g.id == *id)
            return qs(g.name);
    }
    return otherwise;
}

QString means(const findings::Finding& f) {
    QString words = qs(show(f.wattHours, Unit::WattHour));
    if (f.meanVolts)
        words += QStringLiteral("\n") + QObject::tr("%1, %2").arg(qs(showValue(*f.meanVolts, Unit::Volt)), qs(showValue(f.meanWatts, Unit::Watt)));
    return words;
}

QString shareOf(double part, double whole) { return QStringLiteral("%1 %").arg(qs(showNumber(100.0 * part / whole, 2))); }

} // namespace

QString Ribbon::inWords() const {
    QStringList parts;
    for (std::size_t k = 0; k < stretches.size(); ++k) {
        for (const RibbonNotch& n : notches) {
            if (n.before == static_cast<int>(k))
                parts << QObject::tr("%1: %2").arg(n.point, QString(n.words).replace(QLatin1Char('\n'), QStringLiteral(", ")));
        }
        const RibbonStretch& s = stretches[k];
        parts << s.kind + QLatin1Char(' ') + s.name + (s.loss.isEmpty() ? QString() : QStringLiteral(", ") + s.loss);
    }
    return parts.join(QStringLiteral("; "));
}

Ribbon makeRibbon(const book::Bank& bank, const book::Run& run, const std::vector<book::Gear>& gear, const findings::Finding& f) {
    using book::GearKind;
    Ribbon r;
    const double meter = f.wattHours.value();
    const double port = f.portWattHours.value();
    const double cableLoss = std::abs(port - meter);
    const QString unknown = QObject::tr("not stated");
    const QString cableWords = f.referred ? QObject::tr("%1 Wh in the cable, %2").arg(qs(showNumber(cableLoss, 2)), shareOf(cableLoss, std::max(port, meter)))
                                          : QString();
    const QString cable = nameOf(gear, run.cable, unknown);
    const auto rating = label::ratedEnergy(bank.label);
    if (run.kind == findings::Kind::Drain) {
        const std::optional<double> rated = rating ? std::optional(rating->energy.value) : std::nullopt;
        const double kept = rated ? *rated - port : 0.0;
        r.stretches = {
            {qs(bank.name), QObject::tr("bank"), std::nullopt, rated, port,
             rated && kept > 0.0 ? QObject::tr("%1 Wh never left, %2").arg(qs(showNumber(kept, 3)), shareOf(kept, *rated)) : QString(),
             rated && kept > 0.0 ? std::optional(kept) : std::nullopt},
            {cable, QObject::tr("cable"), GearKind::Cable, port, meter, cableWords, f.referred ? std::optional(cableLoss) : std::nullopt},
            {nameOf(gear, run.meter, unknown), QObject::tr("meter"), GearKind::Meter, meter, meter, {}, std::nullopt},
            {nameOf(gear, run.load, unknown), QObject::tr("load"), GearKind::Load, meter, std::nullopt, {}, std::nullopt}};
        if (f.referred)
            r.notches.push_back({1, qs(show(f.portWattHours, Unit::WattHour)), QObject::tr("bank out, referred"), false});
        r.notches.push_back({2, means(f), QObject::tr("meter, read"), true});
        return r;
    }
    r.stretches = {
        {nameOf(gear, run.charger, unknown), QObject::tr("charger"), GearKind::Charger, std::nullopt, meter, {}, std::nullopt},
        {nameOf(gear, run.meter, unknown), QObject::tr("meter"), GearKind::Meter, meter, meter, {}, std::nullopt},
        {cable, QObject::tr("cable"), GearKind::Cable, meter, port, cableWords, f.referred ? std::optional(cableLoss) : std::nullopt},
        {qs(bank.name), QObject::tr("bank"), std::nullopt, port, std::nullopt, {}, std::nullopt}};
    r.notches.push_back({1, means(f), QObject::tr("meter, read"), true});
    if (f.referred)
        r.notches.push_back({3, qs(show(f.portWattHours, Unit::WattHour)), QObject::tr("bank in, referred"), false});
    return r;
}

} // namespace otterstone::app
