// How often a bank is said to charge a device, as printed on its box.
#include "core/label/label.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::label {

Result<ChargesClaim> parseCharges(std::string_view text, std::string_view place) {
    const auto numbers = scanPrinted(text);
    const std::size_t unit = text.find("Wh") != std::string_view::npos ? text.find("Wh") : text.find("wh");
    if (numbers.size() != 2 || unit == std::string_view::npos || numbers[0].unit == "wh" || numbers[1].unit != "wh" ||
        !(numbers[0].high > 0.0) || !(numbers[1].high > 0.0))
        return problem("bad_charges", std::string(place),
                       "“" + std::string(text) + "” does not say how often which battery is charged.",
                       "Write times, the device's battery and its name, like 4 × 12.4 Wh tablet.");
    return ChargesClaim{numbers[0].high, numbers[1].high, std::string(trimmed(text.substr(unit + 2)))};
}

std::string showCharges(const ChargesClaim& c) {
    return showNumber(c.times) + " × " + showNumber(c.deviceWattHours) + " Wh" +
           (c.device.empty() ? "" : " " + c.device);
}

} // namespace otterstone::label
