#include "core/label/size_text.h"

#include <algorithm>

#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::label {

Result<SizeMm> parseSize(std::string_view text, std::string_view place) {
    std::string plain(text);
    for (const std::string_view sign : {std::string_view("×"), std::string_view("x"), std::string_view("X")}) {
        for (std::size_t at = plain.find(sign); at != std::string::npos; at = plain.find(sign, at + 2))
            plain.replace(at, sign.size(), "  ");
    }
    const auto sides = scanPrinted(plain);
    const bool all = sides.size() == 3 && std::all_of(sides.begin(), sides.end(), [](const Printed& p) {
                         return p.high > 0.0 && (p.unit.empty() || p.unit == "mm");
                     });
    if (!all)
        return problem("bad_size", std::string(place), "three sides in millimetres are needed.",
                       "Write them like 106 × 68 × 25.");
    return SizeMm{sides[0].high, sides[1].high, sides[2].high};
}

std::string showSize(const SizeMm& s) {
    return say("{} × {} × {}", showNumber(s.length), showNumber(s.width), showNumber(s.height));
}

} // namespace otterstone::label
