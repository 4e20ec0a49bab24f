#include "bench/recipes/hands.h"

#include <algorithm>
#include <array>

namespace otterstone::bench {

namespace {

struct Row {
    Hands hands;
    const char* key;
    const char* command;
    std::optional<bool> plugs;
};
constexpr std::array<Row, 10> kRows{{{Hands::ChargerIn, "charger in", "HANDs:CHARger IN", true},
                                     {Hands::ChargerOut, "charger out", "HANDs:CHARger OUT", false},
                                     {Hands::DeviceIn, "device in", "HANDs:DEVice IN", true},
                                     {Hands::DeviceOut, "device out", "HANDs:DEVice OUT", false},
                                     {Hands::Replug, "replug", "HANDs:REPLug", std::nullopt},
                                     {Hands::Button, "button", "HANDs:BUTTon", std::nullopt},
                                     {Hands::LowMode, "low mode", "HANDs:LOWMode ON", std::nullopt},
                                     {Hands::Load, "load", "HANDs:LOAD", std::nullopt},
                                     {Hands::LoadOut, "load out", "HANDs:LOAD", false},
                                     {Hands::Source, "source", "HANDs:SOURce", std::nullopt}}};
constexpr bool inOrder() {
    for (std::size_t k = 0; k < kRows.size(); ++k) {
        if (static_cast<std::size_t>(kRows[k].hands) != k)
            return false;
    }
    return static_cast<std::size_t>(Hands::Source) + 1 == kRows.size();
}
static_assert(inOrder(), "each movement has its row, in the order of Hands");

const Row& rowOf(Hands hands) { return kRows[static_cast<std::size_t>(hands)]; }

} // namespace

const std::vector<std::string>& handsKeys() {
    static const std::vector<std::string> kKeys = [] {
        std::vector<std::string> all;
        all.reserve(std::size(kRows));
        for (const Row& r : kRows)
            all.emplace_back(r.key);
        return all;
    }();
    return kKeys;
}

std::optional<Hands> handsFrom(const std::string& key) {
    const auto at = std::find_if(kRows.begin(), kRows.end(), [&](const Row& r) { return key == r.key; });
    return at == kRows.end() ? std::nullopt : std::optional(at->hands);
}

std::string handsCommand(Hands hands) { return rowOf(hands).command; }

std::optional<bool> plugs(Hands hands) { return rowOf(hands).plugs; }

} // namespace otterstone::bench
