#include "app/runs/stamps.h"

#include <QObject>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/kinds/traced/heat.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

using records::Mark;
using What = records::Mark::What;

const std::vector<StampKind>& stampKinds() {
    static const std::vector<StampKind> kAll = {
        {What::Percent, Qt::Key_P, QObject::tr("display %"), QObject::tr("what the bank's display says, %")},
        {What::Leds, Qt::Key_L, QObject::tr("LEDs"), QObject::tr("how many are lit, as in 2 of 4")},
        {What::Plugged, Qt::Key_I, QObject::tr("plugged in"), {}},
        {What::Unplugged, Qt::Key_U, QObject::tr("unplugged"), {}},
        {What::Temperature, Qt::Key_T, QObject::tr("temperature"), QObject::tr("°C, or °F when written")},
        {What::Trip, Qt::Key_R, QObject::tr("trip"), QObject::tr("what tripped: heat, over-current, charger error")},
        {What::Estimate, Qt::Key_E, QObject::tr("its own estimate"),
         QObject::tr("how long the display says it will take: 72 min")},
        {What::DevicePercent, Qt::Key_D, QObject::tr("device %"), QObject::tr("what the device's own display says, %")},
        {What::Note, Qt::Key_N, QObject::tr("note"), QObject::tr("a few words")}};
    return kAll;
}

const StampKind& stampKind(What what) {
    for (const StampKind& k : stampKinds()) {
        if (k.what == what)
            return k;
    }
    return stampKinds().back();
}

QString markWords(const Mark& m) {
    const QString number = m.number ? qs(showNumber(*m.number, 3)) : QString();
    switch (m.what) {
    case What::Percent: return onScreen(number + QStringLiteral(" %"));
    case What::Leds: return QObject::tr("%1 of %2 LEDs").arg(onScreen(number)).arg(records::ledsInAll(m));
    case What::Plugged: return m.text.empty() ? QObject::tr("plugged") : QObject::tr("plugged: %1").arg(qs(m.text));
    case What::Unplugged: return QObject::tr("unplugged");
    case What::Temperature: return onScreen(number + QStringLiteral(" °C"));
    case What::Estimate: return QObject::tr("says %1").arg(onScreen(showDuration(m.number.value_or(0.0))));
    case What::Trip: return QObject::tr("trip: %1").arg(qs(m.text));
    case What::DevicePercent: return QObject::tr("device %1 %").arg(onScreen(number));
    case What::Instrument: return QStringLiteral("⚠ ") + qs(m.text);
    case What::Stop: return QObject::tr("stopped: %1").arg(onScreen(m.text));
    case What::Note: return qs(m.text);
    }
    return {};
}

QString typedWords(const Mark& m) {
    switch (m.what) {
    case What::Leds:
        return qs(showNumber(m.number.value_or(0.0))) + QStringLiteral(" of ") + QString::number(records::ledsInAll(m));
    case What::Estimate: return qs(showDuration(m.number.value_or(0.0), 1.0));
    case What::Percent:
    case What::Temperature:
    case What::DevicePercent: return qs(showNumber(m.number.value_or(0.0)));
    default: return qs(m.text);
    }
}

Result<Mark> readStamp(What what, double at, const QString& typed) {
    Mark m;
    m.at = at;
    m.what = what;
    const std::string text = typed.trimmed().toStdString();
    const std::string place = stampKind(what).name.toStdString();
    switch (what) {
    case What::Percent:
    case What::DevicePercent: {
        std::string plain = text;
        std::erase(plain, '%');
        const auto n = parseNumber(plain, place);
        if (!n)
            return tl::unexpected(n.error());
        if (*n < 0.0 || *n > 100.0)
            return problem("above_hundred", place, "a display says 0 to 100 %.");
        m.number = *n;
        return m;
    }
    case What::Leds: {
        const std::size_t of = text.find("of");
        const auto lit = parseNumber(text.substr(0, of), place, Expect::WholeNumber);
        if (!lit)
            return tl::unexpected(lit.error());
        m.number = *lit;
        if (of != std::string::npos)
            m.text = text.substr(of);
        if (*lit < 0.0 || *lit > records::ledsInAll(m))
            return problem("too_many_leds", place, "more are lit than there are.",
                           "Write it like: 2 of 5. Without “of” four are meant.");
        return m;
    }
    case What::Temperature: {
        const auto celsius = kinds::parseTemperature(text, place);
        if (!celsius)
            return tl::unexpected(celsius.error());
        m.number = *celsius;
        return m;
    }
    case What::Estimate: {
        const auto seconds = parseDuration(text, place, 60.0);
        if (!seconds)
            return tl::unexpected(seconds.error());
        m.number = *seconds;
        return m;
    }
    case What::Note:
        if (text.empty())
            return problem("no_words", place, "a note needs words.");
        [[fallthrough]];
    default: m.text = text; return m;
    }
}

} // namespace otterstone::app
