#include "logs/columns.h"

#include <algorithm>
#include <vector>

#include "core/quantity/parse.h"

namespace otterstone::logs {

namespace {

constexpr std::array<std::string_view, kRoles> kKeys = {"time",        "date",    "volts",  "amps",  "watts",
                                                        "temperature", "percent", "energy", "charge"};

struct UnitName {
    std::string_view symbol;
    UnitScale scale;
};

const std::vector<UnitName>& units() {
    static const std::vector<UnitName> kUnits = {
        {"s", {Role::Time, 1.0}},
        {"sec", {Role::Time, 1.0}},
        {"secs", {Role::Time, 1.0}},
        {"second", {Role::Time, 1.0}},
        {"seconds", {Role::Time, 1.0}},
        {"sekunden", {Role::Time, 1.0}},
        {"ms", {Role::Time, 1e-3}},
        {"msec", {Role::Time, 1e-3}},
        {"us", {Role::Time, 1e-6}},
        {"µs", {Role::Time, 1e-6}},
        {"min", {Role::Time, 60.0}},
        {"mins", {Role::Time, 60.0}},
        {"minutes", {Role::Time, 60.0}},
        {"m", {Role::Time, 60.0}},
        {"h", {Role::Time, 3600.0}},
        {"hr", {Role::Time, 3600.0}},
        {"hours", {Role::Time, 3600.0}},
        {"h:m:s", {Role::Time, 1.0, 0.0, true}},
        {"h:mm:ss", {Role::Time, 1.0, 0.0, true}},
        {"hh:mm:ss", {Role::Time, 1.0, 0.0, true}},
        {"hms", {Role::Time, 1.0, 0.0, true}},
        {"m:s", {Role::Time, 1.0, 0.0, true}},
        {"mm:ss", {Role::Time, 1.0, 0.0, true}},
        {"h:m", {Role::Time, 1.0, 0.0, true}},
        {"hh:mm", {Role::Time, 1.0, 0.0, true}},
        {"v", {Role::Volts, 1.0}},
        {"volt", {Role::Volts, 1.0}},
        {"volts", {Role::Volts, 1.0}},
        {"mv", {Role::Volts, 1e-3}},
        {"uv", {Role::Volts, 1e-6}},
        {"µv", {Role::Volts, 1e-6}},
        {"kv", {Role::Volts, 1e3}},
        {"a", {Role::Amps, 1.0}},
        {"amp", {Role::Amps, 1.0}},
        {"amps", {Role::Amps, 1.0}},
        {"ma", {Role::Amps, 1e-3}},
        {"ua", {Role::Amps, 1e-6}},
        {"µa", {Role::Amps, 1e-6}},
        {"w", {Role::Watts, 1.0}},
        {"watt", {Role::Watts, 1.0}},
        {"watts", {Role::Watts, 1.0}},
        {"mw", {Role::Watts, 1e-3}},
        {"uw", {Role::Watts, 1e-6}},
        {"kw", {Role::Watts, 1e3}},
        {"°c", {Role::Temperature, 1.0}},
        {"degc", {Role::Temperature, 1.0}},
        {"c", {Role::Temperature, 1.0}},
        {"℃", {Role::Temperature, 1.0}},
        {"°f", {Role::Temperature, 5.0 / 9.0, -160.0 / 9.0}},
        {"f", {Role::Temperature, 5.0 / 9.0, -160.0 / 9.0}},
        {"k", {Role::Temperature, 1.0, -273.15}},
        {"%", {Role::Percent, 1.0}},
        {"percent", {Role::Percent, 1.0}},
        {"wh", {Role::EnergyCounter, 1.0}},
        {"mwh", {Role::EnergyCounter, 1e-3}},
        {"kwh", {Role::EnergyCounter, 1e3}},
        {"j", {Role::EnergyCounter, 1.0 / 3600.0}},
        {"mah", {Role::ChargeCounter, 1e-3}},
        {"ah", {Role::ChargeCounter, 1.0}},
    };
    return kUnits;
}

// The first of each row are the plainest; a cell equal to any of them scores 3, one that holds it as a word 2.
const std::vector<std::string_view>& words(Role role) {
    static const std::array<std::vector<std::string_view>, kRoles> kWords = {{
        {"time", "elapsed", "timestamp", "zeit", "zeitstempel", "uhrzeit", "datetime", "temps", "tiempo", "tempo",
         "runtime", "uptime", "duration", "seconds", "sec", "epoch", "laufzeit", "t"},
        {"date", "datum", "fecha"},
        {"voltage", "volts", "volt", "vbus", "spannung", "tension", "tensión", "voltaje", "u", "v"},
        {"current", "amps", "ampere", "amperes", "ibus", "strom", "stromstärke", "courant", "corriente", "i", "a"},
        {"power", "watts", "watt", "leistung", "puissance", "potencia", "p", "w"},
        {"temperature", "temp", "temperatur", "température", "temperatura"},
        {"percent", "soc", "percentage", "ladestand", "state of charge", "battery", "level"},
        {"energy", "energie", "énergie", "energía", "wh"},
        {"capacity", "charge", "kapazität", "ladung", "capacité", "mah", "ah"},
    }};
    return kWords[static_cast<std::size_t>(role)];
}

bool isWordByte(char c) {
    return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || static_cast<unsigned char>(c) >= 0x80;
}

bool holdsWord(std::string_view text, std::string_view word) {
    for (std::size_t at = text.find(word); at != std::string_view::npos; at = text.find(word, at + 1)) {
        const bool before = at > 0 && isWordByte(text[at - 1]);
        const bool after = at + word.size() < text.size() && isWordByte(text[at + word.size()]);
        if (!before && !after)
            return true;
    }
    return false;
}

bool isNobodys(const std::string& name) {
    static constexpr std::array<std::string_view, 16> kOther = {
        "d+",     "d-",         "dp",  "dm",        "cc1", "cc2", "set",  "limit",
        "target", "resistance", "ohm", "impedance", "max", "min", "peak", "ripple"};
    return std::any_of(kOther.begin(), kOther.end(), [&](std::string_view w) { return holdsWord(name, w); });
}

} // namespace

std::string roleKey(Role role) { return std::string(kKeys[static_cast<std::size_t>(role)]); }

std::optional<Role> roleFromKey(std::string_view key) {
    const auto at = std::find(kKeys.begin(), kKeys.end(), key);
    return at == kKeys.end() ? std::nullopt : std::optional(static_cast<Role>(at - kKeys.begin()));
}

std::optional<UnitScale> unitFor(Role role, std::string_view symbol) {
    const std::string small = lowered(trimmed(symbol));
    for (const UnitName& u : units()) {
        if (u.scale.role == role && u.symbol == small)
            return u.scale;
    }
    return std::nullopt;
}

std::optional<UnitScale> anyUnit(std::string_view symbol) {
    std::string small = lowered(trimmed(symbol));
    if (small.size() > 2 && (small.front() == '[' || small.front() == '('))
        small = small.substr(1, small.size() - 2);
    for (const UnitName& u : units()) {
        if (u.symbol == small)
            return u.scale;
    }
    return std::nullopt;
}

HeaderCell splitHeader(std::string_view cell) {
    std::string_view text = trimmed(cell);
    if (text.size() >= 2 && text.front() == '"' && text.back() == '"')
        text = trimmed(text.substr(1, text.size() - 2));
    for (const auto& [open, close] : {std::pair('[', ']'), std::pair('(', ')')}) {
        const std::size_t from = text.find_last_of(open);
        const std::size_t to = text.find_last_of(close);
        if (from != std::string_view::npos && to != std::string_view::npos && to > from)
            return {lowered(trimmed(text.substr(0, from))), std::string(trimmed(text.substr(from + 1, to - from - 1)))};
    }
    for (const char divider : {'/', '_', ' ', ','}) {
        const std::size_t at = text.find_last_of(divider);
        if (at == std::string_view::npos || at == 0)
            continue;
        const std::string_view unit = trimmed(text.substr(at + 1));
        if (anyUnit(unit) && !(divider == ' ' && unit.size() > 3 && unit.find(':') == std::string_view::npos)) {
            std::string name = lowered(trimmed(text.substr(0, at)));
            std::replace(name.begin(), name.end(), '_', ' ');
            return {name, std::string(unit)};
        }
    }
    std::string name = lowered(text);
    std::replace(name.begin(), name.end(), '_', ' ');
    return {name, {}};
}

int nameScore(Role role, const HeaderCell& header) {
    if (isNobodys(header.name))
        return 0;
    const auto unit = header.unit.empty() ? std::nullopt : anyUnit(header.unit);
    if (unit && !unitFor(role, header.unit) && role != Role::Date)
        return 0; // "t [°C]" is no time, "battery [V]" no percentage
    const std::vector<std::string_view>& known = words(role);
    if (std::find(known.begin(), known.end(), header.name) != known.end())
        return 3;
    for (std::string_view w : known) {
        if (w.size() > 1 && holdsWord(header.name, w))
            return 2;
    }
    if (header.name == "%" && role == Role::Percent)
        return 3;
    const auto bare = anyUnit(header.name); // a column called just "mV" or "A"
    if (header.unit.empty() && bare && bare->role == role)
        return 2;
    return unit && unit->role == role ? 1 : 0;
}

} // namespace otterstone::logs
