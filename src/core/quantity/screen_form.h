// How a tester's own country writes figures: its decimal sign, its degrees. Only what is looked at is written so;
// files, the command line and what is typed have a point and degrees Celsius.
#pragma once

#include <string>
#include <string_view>

namespace otterstone {

struct ScreenForm {
    char decimal = '.'; ///< '.' or ','
    bool fahrenheit = false;

    [[nodiscard]] bool isPlain() const { return decimal == '.' && !fahrenheit; }
    bool operator==(const ScreenForm&) const = default;
};

/// A text of ours ("16.05 ± 0.07 Wh", "it stopped at 60 °C") in that form: "16,05 ± 0,07 Wh", "it stopped at 140 °F".
/// What is no figure stays as it is: "C1.2", "0.3.0", "127.0.0.1:5025", "2.4A", "log-1.5.csv". Differences of
/// temperature are in K, and stay so.
[[nodiscard]] std::string inForm(std::string_view text, const ScreenForm& form);

/// Degrees Fahrenheit of degrees Celsius: t·9/5 + 32 (NIST SP 811:2008, B.8).
[[nodiscard]] constexpr double fahrenheitOf(double celsius) { return celsius * 9.0 / 5.0 + 32.0; }
/// And back.
[[nodiscard]] constexpr double celsiusOf(double fahrenheit) { return (fahrenheit - 32.0) * 5.0 / 9.0; }

} // namespace otterstone
