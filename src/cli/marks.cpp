#include "cli/marks.h"

namespace otterstone::cli {

// "percent@3600=45" or "trip@1h=heat": what was stamped when.
records::Mark readMark(const std::string& text) {
    const std::size_t at = text.find('@');
    const std::size_t equals = text.find('=');
    const auto what = records::markFromKey(text.substr(0, at));
    if (at == std::string::npos || !what)
        throw Wrong{
            {"bad_option", "--mark", "“" + text + "” is not understood.",
             "Write it like percent@1h12=45; known are percent, leds, plugged, unplugged, temperature, trip, estimate, device_percent and note."}};
    records::Mark m;
    m.what = *what;
    m.at = timeOption(text.substr(at + 1, equals == std::string::npos ? equals : equals - at - 1), "--mark");
    const std::string value = equals == std::string::npos ? std::string() : text.substr(equals + 1);
    using What = records::Mark::What;
    if (m.what == What::Estimate)
        m.number = timeOption(value, "--mark");
    else if (m.what == What::Temperature)
        m.number = orWrong(kinds::parseTemperature(value, "--mark"));
    else if (m.what == What::Percent || m.what == What::Leds || m.what == What::DevicePercent)
        m.number =
            number(value.substr(0, m.what == What::Leds ? value.find_first_of("/o") : std::string::npos), "--mark");
    if (m.what == What::Leds)
        m.text = value.substr(
            std::min(value.size(), value.find_first_of("/o"))); // how many there are in all stands behind "of" or "/"
    else if (m.what != What::Percent)
        m.text = value;
    return m;
}

} // namespace otterstone::cli
