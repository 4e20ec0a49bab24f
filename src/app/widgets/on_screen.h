// Figures as they are looked at: with the decimal sign and the degrees that the desktop's country has, or that the
// tester chose. What is typed, what is said of it, and what leaves the window keep a point and degrees Celsius.
#pragma once

#include <optional>
#include <string>

#include <QLocale>
#include <QString>

#include "core/quantity/screen_form.h"

namespace otterstone::app {

/// What the tester chose; nothing: as the desktop has it.
struct FormChoice {
    std::optional<char> decimal;
    std::optional<bool> fahrenheit;
};
[[nodiscard]] FormChoice formChoice();
[[nodiscard]] ScreenForm formFor(const FormChoice& choice, const QLocale& desktop);
/// Kept among the settings. What is on the screen already is to be shown anew.
void chooseForm(const FormChoice& choice);

[[nodiscard]] const ScreenForm& screenForm();
[[nodiscard]] QString onScreen(const std::string& text);
[[nodiscard]] QString onScreen(const QString& text);
/// With the decimal sign of the screen, for the axes of plots; no digits are grouped.
[[nodiscard]] QLocale figuresLocale();

} // namespace otterstone::app
