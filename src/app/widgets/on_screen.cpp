#include "app/widgets/on_screen.h"

#include <QSettings>

#include "app/theme.h"

namespace otterstone::app {

namespace {

constexpr const char *kDecimal = "decimalSign", *kDegrees = "degrees"; // in the settings

ScreenForm& current() {
    static ScreenForm form = formFor(formChoice(), QLocale::system());
    return form;
}

} // namespace

ScreenForm formFor(const FormChoice& choice, const QLocale& desktop) {
    return {choice.decimal.value_or(desktop.decimalPoint() == QLatin1String(",") ? ',' : '.'),
            choice.fahrenheit.value_or(desktop.measurementSystem() == QLocale::ImperialUSSystem)};
}

FormChoice formChoice() {
    FormChoice choice;
    const QSettings settings;
    if (const QString sign = settings.value(QLatin1String(kDecimal)).toString(); !sign.isEmpty())
        choice.decimal = sign == QLatin1String(",") ? ',' : '.';
    if (const QString degrees = settings.value(QLatin1String(kDegrees)).toString(); !degrees.isEmpty())
        choice.fahrenheit = degrees == QLatin1String("F");
    return choice;
}

void chooseForm(const FormChoice& choice) {
    QSettings settings;
    const auto keep = [&](const char* key, const QString& value) {
        value.isEmpty() ? settings.remove(QLatin1String(key)) : settings.setValue(QLatin1String(key), value);
    };
    keep(kDecimal, choice.decimal ? QString(QLatin1Char(*choice.decimal)) : QString());
    keep(kDegrees, choice.fahrenheit ? QString(QLatin1Char(*choice.fahrenheit ? 'F' : 'C')) : QString());
    current() = formFor(choice, QLocale::system());
}

const ScreenForm& screenForm() {
    static constexpr ScreenForm kPlain;
    return theme().onPaper ? kPlain : current(); // what is painted on paper becomes a file
}

QString onScreen(const std::string& text) { return QString::fromStdString(inForm(text, screenForm())); }

QString onScreen(const QString& text) { return screenForm().isPlain() ? text : onScreen(text.toStdString()); }

QLocale figuresLocale() {
    QLocale locale = screenForm().decimal == ',' ? QLocale(QLocale::German, QLocale::Germany) : QLocale::c();
    locale.setNumberOptions(QLocale::OmitGroupSeparator);
    return locale;
}

} // namespace otterstone::app
