#include "app/runs/ribbon_model.h"

#include <cmath>

#include <QObject>
#include <QStringList>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/label/rating.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

QString nameOf(const std::vector<records::Gear>& gear, std::optional<records::Id> id, const QString& otherwise) {
    for (const records::Gear& g : gear) {
        if (id && g.id == *id)
            return qs(g.name);
    }
    return otherwise;
}

QString means(const kinds::Finding& f, const Working& energy) {
    QString words = onScreen(energy.shown());
    if (f.meanVolts)
        words += QStringLiteral("\n") + QObject::tr("%1, %2").arg(onScreen(showValue(*f.meanVolts, Unit::Volt)),
                                                                  onScreen(showValue(f.meanWatts, Unit::Watt)));
    return words;
}

QString shareOf(double part, double whole) {
    return QStringLiteral("%1 %").arg(onScreen(showNumber(100.0 * part / whole, 2)));
}

} // namespace

QString Ribbon::inWords() const {
    QStringList parts;
    for (std::size_t k = 0; k < stretches.size(); ++k) {
        for (const RibbonNotch& n : notches) {
            if (n.before == static_cast<int>(k))
                parts << QObject::tr("%1: %2").arg(n.point,
                                                   QString(n.words).replace(QLatin1Char('\n'), QStringLiteral(", ")));
        }
        const RibbonStretch& s = stretches[k];
        parts << s.kind + QLatin1Char(' ') + s.name + (s.loss.isEmpty() ? QString() : QStringLiteral(", ") + s.loss);
    }
    return parts.join(QStringLiteral("; "));
}

int placeOf(std::optional<records::Id> records::Run::*piece) {
    for (std::size_t k = 0; k < std::size(records::kStretches); ++k) {
        if (records::kStretches[k].piece == piece)
            return static_cast<int>(k);
    }
    return -1;
}

namespace {

using path::Point;

const kinds::PointFigure* figureAt(const kinds::Finding& f, Point p) {
    const kinds::PointFigure* display = nullptr;
    for (const kinds::PointFigure& x : f.points) {
        if (x.point == p && !x.byDisplay)
            return &x;
        if (x.point == p)
            display = &x;
    }
    return display;
}

// Builds the stretches from left to right; the band's widths come from the points between them.
class Builder {
public:
    Builder(const records::Run& run, const std::vector<records::Gear>& gear, const kinds::Finding& f)
        : run_(run), gear_(gear), f_(f) {}

    [[nodiscard]] std::optional<double> wattHours(Point p) const {
        const auto* figure = figureAt(f_, p);
        return figure ? std::optional(figure->energy.value.value()) : std::nullopt;
    }

    void gear(std::optional<records::Id> records::Run::*piece, const QString& kind, std::optional<double> in,
              std::optional<double> out) {
        RibbonStretch s{
            nameOf(gear_, run_.*piece, QObject::tr("not stated")), kind, placeOf(piece), in, out, {}, {}, false};
        if (piece == &records::Run::farCable && !(run_.*piece)) {
            s.absent = true;
            s.name = QStringLiteral("+");
            s.kind = QObject::tr("cable");
        }
        if (in && out && *in > *out * (1.0 + 1e-9)) {
            s.lossWattHours = *in - *out;
            s.loss = QObject::tr("%1 Wh lost, %2").arg(onScreen(showNumber(*in - *out, 2)), shareOf(*in - *out, *in));
        }
        ribbon.stretches.push_back(std::move(s));
    }

    void notch(Point p) {
        const auto* figure = figureAt(f_, p);
        // Without a cable between, the load's or charger's figure is the meter's: one notch says it.
        const bool sameAsMeter =
            !run_.farCable && (p == Point::Load || p == Point::Charger) && figureAt(f_, Point::Meter);
        if (!figure || (!figure->read && sameAsMeter))
            return;
        RibbonNotch n;
        n.before = static_cast<int>(ribbon.stretches.size());
        n.at = p;
        n.words = p == f_.point ? means(f_, figure->energy) : onScreen(figure->energy.shown());
        n.point = qs(path::pointWords(p)) + (figure->byDisplay ? QObject::tr(", display")
                                             : figure->read    ? QObject::tr(", read")
                                                               : QObject::tr(", referred"));
        n.read = figure->read;
        ribbon.notches.push_back(std::move(n));
    }

    Ribbon ribbon;

private:
    const records::Run& run_;
    const std::vector<records::Gear>& gear_;
    const kinds::Finding& f_;
};

Ribbon drainRibbon(Builder b, const records::Bank& bank, const records::Run& run) {
    const auto rating = label::ratedEnergy(bank.label);
    const auto meter = b.wattHours(Point::Meter);
    const auto load = b.wattHours(Point::Load);
    // An unreferred figure is taken for the port's, so the band goes on unbroken.
    const auto port = b.wattHours(Point::BankOut) ? b.wattHours(Point::BankOut) : meter ? meter : load;
    RibbonStretch own{qs(bank.name),
                      QObject::tr("bank"),
                      -1,
                      rating ? std::optional(rating->energy.value) : std::nullopt,
                      port,
                      {},
                      {},
                      false};
    if (own.wattHoursIn && port && *own.wattHoursIn > *port) {
        own.lossWattHours = *own.wattHoursIn - *port;
        own.loss = QObject::tr("%1 Wh never left, %2")
                       .arg(onScreen(showNumber(*own.lossWattHours, 3)), shareOf(*own.lossWattHours, *own.wattHoursIn));
    }
    b.ribbon.stretches.push_back(std::move(own));
    b.notch(Point::BankOut);
    b.gear(&records::Run::cable, QObject::tr("cable"), port, meter ? meter : port);
    b.notch(Point::Meter);
    b.gear(&records::Run::meter, QObject::tr("meter"), meter ? meter : port, meter ? meter : port);
    const auto after = meter ? meter : port;
    b.gear(&records::Run::farCable, QObject::tr("far cable"), after, load);
    b.notch(Point::Load);
    if (run.device)
        b.gear(&records::Run::device, QObject::tr("device"), load ? load : after, std::nullopt);
    else
        b.gear(&records::Run::load, QObject::tr("load"), load ? load : after, std::nullopt);
    return std::move(b.ribbon);
}

Ribbon rechargeRibbon(Builder b, const records::Bank& bank) {
    const auto wall = b.wattHours(Point::Wall);
    const auto charger = b.wattHours(Point::Charger);
    const auto meter = b.wattHours(Point::Meter);
    const auto port = b.wattHours(Point::BankIn) ? b.wattHours(Point::BankIn) : meter;
    b.notch(Point::Wall);
    b.gear(&records::Run::charger, QObject::tr("charger"), wall, charger ? charger : meter);
    b.notch(Point::Charger);
    b.gear(&records::Run::farCable, QObject::tr("far cable"), charger ? charger : std::nullopt, meter ? meter : port);
    b.notch(Point::Meter);
    b.gear(&records::Run::meter, QObject::tr("meter"), meter ? meter : port, meter ? meter : port);
    b.gear(&records::Run::cable, QObject::tr("cable"), meter ? meter : port, port);
    b.notch(Point::BankIn);
    b.ribbon.stretches.push_back({qs(bank.name), QObject::tr("bank"), -1, port, std::nullopt, {}, {}, false});
    return std::move(b.ribbon);
}

} // namespace

QString sayAt(const kinds::Finding& f, Point point) {
    const auto* figure = figureAt(f, point);
    if (!figure)
        return {};
    QString words = QObject::tr("At the %1: %2").arg(qs(path::pointWords(point)), onScreen(figure->energy.shown()));
    words += figure->byDisplay ? QObject::tr(", by the bank's own display")
             : figure->read    ? QObject::tr(", read there")
                               : QStringLiteral(", ") + onScreen(figure->energy.note);
    const double off = figure->energy.value.value() - f.portWattHours.value();
    const bool port = point == Point::BankOut || point == Point::BankIn;
    if (!port && std::abs(off) > 1e-9)
        words += QObject::tr("; %1 Wh (%2) %3 than at the port")
                     .arg(onScreen(showNumber(std::abs(off), 2)), shareOf(std::abs(off), f.portWattHours.value()),
                          off > 0 ? QObject::tr("more") : QObject::tr("less"));
    return words + QLatin1Char('.');
}

Ribbon makeLiveRibbon(const records::Bank& bank, const records::Run& run, const std::vector<records::Gear>& gear,
                      const LiveFlow& flow) {
    constexpr double kTicksPerWattHour = 40.0;
    const bool drain = run.kind == records::Kind::Drain;
    const double here = flow.volts * flow.amps;
    std::optional<double> watts = flow.reading ? std::optional(here) : std::nullopt;
    std::optional<double> port;
    for (const records::Gear& g : gear) {
        if (run.cable == g.id && g.ohms && flow.reading)
            port = here + (drain ? 1.0 : -1.0) * flow.amps * flow.amps * g.ohms->value;
    }
    Ribbon r;
    r.fullWidth = std::max(flow.peakWatts, 0.5);
    r.drift = flow.wattHours * kTicksPerWattHour;
    const auto stretch = [&](std::optional<records::Id> records::Run::*piece, const QString& kind,
                             std::optional<double> in, std::optional<double> out) {
        RibbonStretch s{nameOf(gear, run.*piece, QObject::tr("not stated")), kind, -1, in, out, {}, {}, false};
        if (in && out && *in > *out * (1.0 + 1e-6)) {
            s.lossWattHours = *in - *out;
            s.loss = QObject::tr("%1 W lost, %2").arg(onScreen(showNumber(*in - *out, 2)), shareOf(*in - *out, *in));
        }
        r.stretches.push_back(std::move(s));
    };
    const auto notch = [&](Point at, const QString& words, bool read) {
        r.notches.push_back({static_cast<int>(r.stretches.size()), at, words,
                             qs(path::pointWords(at)) + (read ? QObject::tr(", read") : QObject::tr(", referred")),
                             read});
    };
    const QString meterWords = flow.reading ? onScreen(QObject::tr("%1 W\n%2 V, %3 A")
                                                           .arg(here, 0, 'f', 2)
                                                           .arg(flow.volts, 0, 'f', 3)
                                                           .arg(flow.amps, 0, 'f', 3))
                                            : QObject::tr("no reading");
    const auto portWords = [&] { return onScreen(QObject::tr("%1 W").arg(*port, 0, 'f', 2)); };
    const RibbonStretch own{qs(bank.name),
                            QObject::tr("bank"),
                            -1,
                            drain  ? (port ? port : watts)
                            : port ? port
                                   : watts,
                            drain ? (port ? port : watts) : std::nullopt,
                            {},
                            {},
                            false};
    if (drain) {
        r.stretches.push_back(own);
        if (port)
            notch(Point::BankOut, portWords(), false);
        stretch(&records::Run::cable, QObject::tr("cable"), port ? port : watts, watts);
        notch(Point::Meter, meterWords, true);
        stretch(&records::Run::meter, QObject::tr("meter"), watts, watts);
        stretch(run.device ? &records::Run::device : &records::Run::load,
                run.device ? QObject::tr("device") : QObject::tr("load"), watts, watts);
    } else {
        stretch(&records::Run::charger, QObject::tr("charger"), watts, watts);
        notch(Point::Meter, meterWords, true);
        stretch(&records::Run::meter, QObject::tr("meter"), watts, watts);
        stretch(&records::Run::cable, QObject::tr("cable"), watts, port ? port : watts);
        if (port)
            notch(Point::BankIn, portWords(), false);
        r.stretches.push_back(own);
    }
    return r;
}

Ribbon makeRibbon(const records::Bank& bank, const records::Run& run, const std::vector<records::Gear>& gear,
                  const kinds::Finding& f) {
    Builder b(run, gear, f);
    return f.kind == records::Kind::Drain ? drainRibbon(std::move(b), bank, run) : rechargeRibbon(std::move(b), bank);
}

} // namespace otterstone::app
