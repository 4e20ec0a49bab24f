#include "core/records/mark.h"

#include <array>

#include "core/label/label.h"

namespace otterstone::records {

namespace {

constexpr std::array<std::pair<Mark::What, std::string_view>, 11> kMarks = {
    {{Mark::What::Percent, "percent"},
     {Mark::What::Leds, "leds"},
     {Mark::What::Plugged, "plugged"},
     {Mark::What::Unplugged, "unplugged"},
     {Mark::What::Temperature, "temperature"},
     {Mark::What::Trip, "trip"},
     {Mark::What::Estimate, "estimate"},
     {Mark::What::Note, "note"},
     {Mark::What::DevicePercent, "device_percent"},
     {Mark::What::Instrument, "instrument"},
     {Mark::What::Stop, "stop"}}};

} // namespace

std::string markKey(Mark::What what) {
    for (const auto& [w, key] : kMarks) {
        if (w == what)
            return std::string(key);
    }
    return "note";
}

std::optional<Mark::What> markFromKey(std::string_view key) {
    for (const auto& [w, k] : kMarks) {
        if (k == key)
            return w;
    }
    return std::nullopt;
}

int ledsInAll(const Mark& mark) {
    // "2 of 4": the second number is how many there are.
    const std::size_t of = mark.text.find("of");
    for (const label::Printed& p : label::scanPrinted(of == std::string::npos ? mark.text : mark.text.substr(of))) {
        if (p.low >= 1.0 && p.low <= 20.0)
            return static_cast<int>(p.low);
    }
    return 4;
}

} // namespace otterstone::records
