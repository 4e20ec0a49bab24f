#include "app/gear/gear_fields.h"

#include <cmath>

#include <QObject>
#include <QStringList>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/label/label.h"
#include "core/path/cable.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/records/money.h"
#include "core/trace/clock.h"

namespace otterstone::app {

namespace {

using records::Gear;
using records::GearKind;

QString tr(const char* words) { return QObject::tr(words); }

QString shown(const std::optional<Stated>& s, double factor = 1.0) {
    if (!s)
        return {};
    return qs(showNumber(s->value * factor, 7)) +
           (s->expanded ? QStringLiteral(" ± ") + qs(showNumber(*s->expanded * factor, 3)) : QString());
}

bool blank(const std::string& text) { return trimmed(text).empty(); }

GearField textField(const QString& label, const QString& placeholder, std::string Gear::*member) {
    return {label, placeholder, [member](const Gear& g) { return qs(g.*member); },
            [member](Gear& g, const std::string& text) -> std::optional<Problem> {
                g.*member = std::string(trimmed(text));
                return std::nullopt;
            }};
}

GearField priceField() {
    return {tr("Price"), QStringLiteral("14 EUR"),
            [](const Gear& g) {
                return g.price ? qs(records::showMoney({*g.price, g.currency})) : QString();
            },
            [](Gear& g, const std::string& text) -> std::optional<Problem> {
                const auto money = records::parseMoney(text, tr("Price").toStdString());
                if (!money)
                    return money.error();
                g.price = *money ? std::optional((*money)->amount) : std::nullopt;
                g.currency = *money ? (*money)->currency : std::string();
                return std::nullopt;
            }};
}

GearField numberField(const QString& label, const QString& placeholder, std::optional<double> Gear::*member) {
    return {label, placeholder,
            [member](const Gear& g) { return g.*member ? qs(showNumber(*(g.*member), 7)) : QString(); },
            [member, label](Gear& g, const std::string& text) -> std::optional<Problem> {
                (g.*member).reset();
                if (blank(text))
                    return std::nullopt;
                const auto value = parseNumber(text, label.toStdString());
                if (!value)
                    return value.error();
                if (!(*value > 0.0))
                    return Problem{"not_positive", label.toStdString(), "must be above 0.",
                                   "Leave it empty when it is not known."};
                g.*member = *value;
                return std::nullopt;
            }};
}

// With its ±; `factor` is what one unit on the screen is inside (0.01 for a percentage).
GearField statedField(const QString& label, const QString& placeholder, std::optional<Stated> Gear::*member,
                      double factor = 1.0, double most = HUGE_VAL) {
    return {label, placeholder, [member, factor](const Gear& g) { return shown(g.*member, 1.0 / factor); },
            [member, label, factor, most](Gear& g, const std::string& text) -> std::optional<Problem> {
                (g.*member).reset();
                if (blank(text))
                    return std::nullopt;
                std::string plain = text;
                std::erase(plain, '%');
                const auto value = parseMeasured(plain, label.toStdString(), ErrorSource::ofBench("", "entered"));
                if (!value)
                    return value.error();
                if (!(value->value() >= 0.0) || value->value() * factor > most)
                    return Problem{"out_of_range", label.toStdString(), "this cannot be.",
                                   "Leave it empty when it is not known."};
                g.*member = Stated::of(*value * Measured(factor));
                return std::nullopt;
            }};
}

GearField tiersField(const QString& label) {
    return {label, QStringLiteral("5V 3A; 9V 2.22A; 3.3-11V 3A"),
            [](const Gear& g) { return qs(label::showTiers(g.tiers)); },
            [label](Gear& g, const std::string& text) -> std::optional<Problem> {
                auto tiers = label::parseTiers(text, label.toStdString());
                if (!tiers)
                    return tiers.error();
                g.tiers = std::move(*tiers);
                return std::nullopt;
            }};
}

GearField accuracyField() {
    return {tr("Accuracy"), QStringLiteral("volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm"),
            [](const Gear& g) { return qs(path::showMeter(g.meter)); },
            [](Gear& g, const std::string& text) -> std::optional<Problem> {
                auto meter = path::parseMeter(text, "accuracy");
                if (!meter)
                    return meter.error();
                g.meter = std::move(*meter);
                return std::nullopt;
            }};
}

GearField clockField() {
    return {tr("Clock factor"), QStringLiteral("1.02 ± 0.001, or stopwatch / meter: 1 h / 58 min 50 s"),
            [](const Gear& g) {
                return !g.clockComparison.empty() ? qs(g.clockComparison)
                       : g.clock == Stated(1.0)   ? QString()
                                                  : shown(g.clock);
            },
            [](Gear& g, const std::string& text) -> std::optional<Problem> {
                g.clock = Stated(1.0);
                g.clockComparison.clear();
                if (blank(text))
                    return std::nullopt;
                const auto clock = trace::parseClockFactor(text, "clock factor", ErrorSource::ofBench("", "entered"));
                if (!clock)
                    return clock.error();
                g.clock = Stated(clock->value(), clock->hasDoubt() ? std::optional(clock->expanded()) : std::nullopt);
                if (text.find('/') != std::string::npos)
                    g.clockComparison = std::string(trimmed(text)); // the comparison that gave it stays readable
                return std::nullopt;
            }};
}

// "6 mA at 5 V"
GearField ownDrawField() {
    return {tr("Own draw"), QStringLiteral("6 mA at 5 V"),
            [](const Gear& g) {
                return g.ownDraw ? tr("%1 mA at %2 V")
                                       .arg(qs(showNumber(g.ownDraw->amps * 1000.0)), qs(showNumber(g.ownDraw->volts)))
                                 : QString();
            },
            [](Gear& g, const std::string& text) -> std::optional<Problem> {
                g.ownDraw.reset();
                if (blank(text))
                    return std::nullopt;
                path::OwnDraw draw;
                bool amps = false;
                for (const label::Printed& p : label::scanPrinted(text)) {
                    if (p.unit == "ma" || p.unit == "a") {
                        draw.amps = p.low * (p.unit == "ma" ? 1e-3 : 1.0);
                        amps = true;
                    } else if (p.unit == "v") {
                        draw.volts = p.low;
                    }
                }
                if (!amps || !(draw.volts > 0.0))
                    return Problem{"bad_own_draw", "own draw", "“" + text + "” is not a current.",
                                   "Write it like: 6 mA at 5 V."};
                g.ownDraw = draw;
                return std::nullopt;
            }};
}

GearField awgField() {
    return {tr("Wire gauge, AWG"), QStringLiteral("24"),
            [](const Gear& g) { return g.awg ? QString::number(*g.awg) : QString(); },
            [](Gear& g, const std::string& text) -> std::optional<Problem> {
                g.awg.reset();
                if (blank(text))
                    return std::nullopt;
                const auto value = parseNumber(text, "wire gauge", Expect::WholeNumber);
                if (!value)
                    return value.error();
                if (*value < 10 || *value > 40 || *value != std::floor(*value))
                    return Problem{"bad_gauge", "wire gauge", "a cable's gauge is a whole number from 10 to 40.",
                                   "Printed on the jacket, as in 24AWG."};
                g.awg = static_cast<int>(*value);
                return std::nullopt;
            }};
}

GearField markedField() {
    return {tr("Electronic marker"), tr("yes or no"), [](const Gear& g) { return g.marked ? tr("yes") : QString(); },
            [](Gear& g, const std::string& text) -> std::optional<Problem> {
                const std::string t = lowered(trimmed(text));
                if (!t.empty() && t != "yes" && t != "no" && t != "y" && t != "n")
                    return Problem{"bad_marker", "electronic marker", "“" + text + "” is neither yes nor no.",
                                   "A marked cable carries 5 A, an unmarked one 3 A."};
                g.marked = t.starts_with("y");
                return std::nullopt;
            }};
}

} // namespace

QString kindWords(GearKind kind) {
    switch (kind) {
    case GearKind::Charger: return tr("Charger");
    case GearKind::Cable: return tr("Cable");
    case GearKind::Meter: return tr("Meter");
    case GearKind::Load: return tr("Load");
    case GearKind::Trigger: return tr("Trigger");
    case GearKind::Thermometer: return tr("Thermometer");
    case GearKind::Device: return tr("Device");
    }
    return {};
}

QString kindHint(GearKind kind) {
    switch (kind) {
    case GearKind::Charger:
        return tr(
            "What it offers decides, with the cable and the bank, which tier is used; a claim is only tested with a charger that can supply it. Its efficiency brings a "
            "recharge to the wall.");
    case GearKind::Cable:
        return tr(
            "With its loop resistance, what a meter read is referred to the bank's port: I²R, sample by sample. Without one, gauge and length give an estimate; two meters "
            "around it measure it.");
    case GearKind::Meter:
        return tr(
            "Its accuracy makes the ± of every figure. A clock that runs slow makes every energy wrong: compare it once with a stopwatch, and write both spans.");
    case GearKind::Load: return tr("Its accuracy and its clock count where a run was read off the load itself.");
    case GearKind::Trigger: return tr("The little box that asks a port for a tier.");
    case GearKind::Thermometer: return tr("Where it sat belongs into the run's notes.");
    case GearKind::Device:
        return tr(
            "With its battery's energy a run into it says what arrived; with what it burns, whether it charges while it is used.");
    }
    return {};
}

std::vector<GearField> fieldsOf(GearKind kind) {
    const GearField name = textField(tr("Name"), tr("as on its sticker"), &Gear::name);
    const GearField notes =
        textField(tr("Notes"), kind == GearKind::Meter ? tr("orientation, quirks") : QString(), &Gear::notes);
    switch (kind) {
    case GearKind::Charger:
        return {name,
                numberField(tr("Gives at most, W"), QStringLiteral("65"), &Gear::watts),
                tiersField(tr("Tiers offered")),
                statedField(tr("Efficiency, %"), QStringLiteral("88 ± 2"), &Gear::efficiency, 0.01, 1.0),
                priceField(),
                notes};
    case GearKind::Cable:
        return {name,
                statedField(tr("Loop resistance, Ω"), QStringLiteral("0.115 ± 0.015"), &Gear::ohms),
                numberField(tr("Length, m"), QStringLiteral("1"), &Gear::metres),
                awgField(),
                markedField(),
                textField(tr("Ends"), tr("C to A"), &Gear::ends),
                priceField(),
                notes};
    case GearKind::Meter: return {name, accuracyField(), clockField(), ownDrawField(), notes};
    case GearKind::Load:
        return {name,
                textField(tr("Modes"), QStringLiteral("CC CP CR"), &Gear::modes),
                numberField(tr("Takes at most, W"), QStringLiteral("150"), &Gear::watts),
                numberField(tr("Volts at most"), QStringLiteral("60"), &Gear::maxVolts),
                numberField(tr("Amps at most"), QStringLiteral("15"), &Gear::maxAmps),
                accuracyField(),
                clockField(),
                notes};
    case GearKind::Trigger: return {name, tiersField(tr("Can ask for")), notes};
    case GearKind::Thermometer:
        return {name, numberField(tr("Accuracy, ± K"), QStringLiteral("0.5"), &Gear::kelvin), notes};
    case GearKind::Device:
        return {name, statedField(tr("Battery, Wh"), QStringLiteral("26.4 ± 0.5"), &Gear::battery),
                statedField(tr("Charging efficiency, %"), QStringLiteral("88"), &Gear::efficiency, 0.01, 1.0),
                numberField(tr("Burns in use, W"), QStringLiteral("5.5"), &Gear::watts), notes};
    }
    return {};
}

QString factsOf(const Gear& g) {
    QStringList facts;
    const auto add = [&facts](const QString& words) {
        if (!words.isEmpty())
            facts << words;
    };
    switch (g.kind) {
    case GearKind::Charger:
        add(g.watts ? tr("%1 W").arg(qs(showNumber(*g.watts))) : QString());
        add(g.efficiency ? tr("%1 % efficient").arg(shown(g.efficiency, 100.0)) : QString());
        break;
    case GearKind::Cable:
        if (g.ohms)
            add(shown(g.ohms) + QStringLiteral(" Ω"));
        else if (g.awg && g.metres)
            add(tr("about %1").arg(qs(show(path::estimatedLoop(*g.awg, *g.metres).value, Unit::Ohm))));
        add(g.metres ? tr("%1 m").arg(qs(showNumber(*g.metres))) : QString());
        add(g.awg ? tr("AWG %1").arg(*g.awg) : QString());
        add(g.marked ? tr("marked, 5 A") : QString());
        add(qs(g.ends));
        break;
    case GearKind::Meter:
        add(qs(path::showMeter(g.meter)));
        add(g.clock.value != 1.0 ? tr("clock × %1").arg(shown(g.clock)) : QString());
        break;
    case GearKind::Load:
        add(qs(g.modes));
        add(g.watts ? tr("%1 W").arg(qs(showNumber(*g.watts))) : QString());
        add(g.maxAmps ? tr("%1 A").arg(qs(showNumber(*g.maxAmps))) : QString());
        break;
    case GearKind::Trigger: add(qs(label::showTiers(g.tiers))); break;
    case GearKind::Thermometer: add(g.kelvin ? tr("± %1 K").arg(qs(showNumber(*g.kelvin))) : QString()); break;
    case GearKind::Device:
        add(g.battery ? tr("%1 Wh").arg(shown(g.battery)) : QString());
        add(g.watts ? tr("burns %1 W in use").arg(qs(showNumber(*g.watts))) : QString());
        break;
    }
    const QString separator = QStringLiteral(" · ");
    facts = {onScreen(facts.join(separator))};
    add(qs(g.notes));
    facts.removeAll(QString());
    return facts.isEmpty() ? tr("nothing known yet") : facts.join(separator);
}

} // namespace otterstone::app
