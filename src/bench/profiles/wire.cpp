#include "bench/profiles/wire.h"

#include <bit>
#include <cmath>
#include <cstdint>
#include <limits>

#include "core/quantity/json_text.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr logs::Role kMembers[] = {logs::Role::Volts, logs::Role::Amps, logs::Role::Watts, logs::Role::Temperature,
                                   logs::Role::Percent};
const std::vector<std::string> kTables = {"holding", "input", "coil"};
const std::vector<std::string> kTypes = {"uint16", "int16", "uint32", "int32", "float32"};
constexpr double kMostAddress = 65535.0;

template<class Enum>
Enum at(const std::vector<std::string>& words, const std::string& word) {
    return static_cast<Enum>(std::find(words.begin(), words.end(), word) - words.begin());
}

std::string digits(double value) {
    char text[40];
    (void)std::snprintf(text, sizeof text, "%.9g", value);
    return text;
}

// "meters.0.power" in a page: members by name, of lists by number.
const nlohmann::json* memberOf(const nlohmann::json& page, const std::string& path) {
    const nlohmann::json* here = &page;
    for (std::size_t from = 0; from <= path.size();) {
        const std::size_t dot = std::min(path.find('.', from), path.size());
        const std::string name = path.substr(from, dot - from);
        if (here->is_object() && here->contains(name)) {
            here = &here->at(name);
        } else if (here->is_array() && !name.empty() && name.size() < 6 &&
                   name.find_first_not_of("0123456789") == std::string::npos && std::stoul(name) < here->size()) {
            here = &here->at(std::stoul(name));
        } else {
            return nullptr;
        }
        from = dot + 1;
    }
    return here;
}

} // namespace

logs::LineFormat WebPage::lines() const {
    logs::LineFormat format;
    format.meaning = {{logs::Role::Volts, 0, ""}, {logs::Role::Amps, 1, ""}};
    for (const logs::Role role : {logs::Role::Temperature, logs::Role::Percent}) {
        if (members.contains(role))
            format.meaning.push_back({role, format.meaning.size(), ""});
    }
    format.cells = format.meaning.size();
    return format;
}

WebPage readWebPage(Fields f) {
    WebPage page;
    page.path = f.text("path", "/");
    if (!page.path.starts_with('/') || page.path.size() > 400 ||
        std::any_of(page.path.begin(), page.path.end(), [](unsigned char c) { return c <= 0x20 || c == 0x7f; }))
        f.wrong("path", "this should be what follows the address, from its “/” on, without blanks.");
    page.every = f.number("every_s", 0.2, 60.0, 1.0);
    page.volts = f.maybeNumber("mains_volts", 1.0, 300.0);
    Fields members = f.part("members");
    for (const logs::Role role : kMembers) {
        const std::string key = logs::roleKey(role);
        if (members.has(key.c_str()))
            page.members[role] = members.text(key.c_str());
    }
    members.finish();
    const auto has = [&](logs::Role role) { return page.members.contains(role); };
    if (!has(logs::Role::Volts) && !page.volts)
        f.wrong("members", "it says no volts.", "Name the member that holds them, or give “mains_volts”.");
    if (!has(logs::Role::Amps) && !has(logs::Role::Watts))
        f.wrong("members", "it says neither amps nor watts.");
    f.finish();
    return page;
}

nlohmann::ordered_json toJson(const WebPage& page) {
    nlohmann::ordered_json j{{"path", page.path}, {"every_s", page.every}};
    if (page.volts)
        j["mains_volts"] = *page.volts;
    for (const auto& [role, path] : page.members)
        j["members"][logs::roleKey(role)] = path;
    return j;
}

tl::expected<std::string, std::string> lineOf(const WebPage& page, const std::string& text) {
    const auto json = parseJson(text, "the page");
    if (!json)
        return tl::unexpected(say("the page is no JSON"));
    std::map<logs::Role, double> read;
    for (const auto& [role, path] : page.members) {
        const nlohmann::json* member = memberOf(*json, path);
        std::optional<double> value;
        if (member && member->is_number()) {
            value = member->get<double>();
        } else if (member && member->is_string()) {
            if (const auto number = parseNumber(member->get<std::string>(), path))
                value = *number;
        }
        if (!value || !std::isfinite(*value))
            return tl::unexpected(say("the page holds no number at “{}”", path));
        read[role] = *value;
    }
    const double volts = read.contains(logs::Role::Volts) ? read[logs::Role::Volts] : page.volts.value_or(0.0);
    // Of an alternating current the watts are what counts: what is told as amperes then is their share at these volts.
    const bool byWatts = read.contains(logs::Role::Watts);
    if (byWatts && !(volts > 0.0))
        return tl::unexpected(say("the page says watts at no volts"));
    const double amps = byWatts ? read[logs::Role::Watts] / volts : read[logs::Role::Amps];
    std::string line = digits(volts) + "," + digits(amps);
    for (const logs::Role role : {logs::Role::Temperature, logs::Role::Percent}) {
        if (read.contains(role))
            line += "," + digits(read[role]);
    }
    return line;
}

Registers readRegisters(Fields f, const std::map<std::string, std::string>& known) {
    Registers all;
    all.unit = static_cast<int>(f.number("unit", 0.0, 247.0, 1.0));
    all.lowWordFirst = f.word("words", {"high first", "low first"}, "high first") == "low first";
    for (const std::string& action : f.keys()) {
        if (action == "unit" || action == "words")
            continue;
        const auto usual = known.find(action);
        if (usual == known.end()) {
            std::string names;
            for (const auto& [name, command] : known)
                names += (names.empty() ? "" : ", ") + name;
            f.wrong(action, "there is no such action.", "Actions are " + names + ".");
            continue;
        }
        Fields one = f.part(action.c_str());
        Register r;
        const bool asks = usual->second.ends_with('?');
        r.write = !asks;
        r.address = static_cast<int>(one.number(asks ? "read" : "write", 0.0, kMostAddress));
        r.table = at<Register::Table>(kTables, one.word("table", kTables, "holding"));
        r.type = at<Register::Type>(kTypes, one.word("type", kTypes, "uint16"));
        r.scale = one.number("scale", 1e-9, 1e9, 1.0);
        r.value = one.maybeNumber("value", -1e9, 1e9);
        if (r.write && r.table == Register::Table::Input)
            one.wrong("table", "an input register cannot be written.", "Use “holding” or “coil”.");
        const bool takesValue = usual->second.find("{value}") != std::string::npos;
        if (r.write && takesValue && r.value)
            one.wrong("value", "the value is what the recipe asks for.", "Leave it out.");
        if (r.write && !takesValue && !r.value)
            one.wrong("value", "what is written is not said.");
        if (!r.write && r.value)
            one.wrong("value", "this is read: there is no value.", "Leave it out.");
        one.finish();
        all.actions[action] = r;
    }
    f.finish();
    return all;
}

nlohmann::ordered_json toJson(const Registers& all) {
    nlohmann::ordered_json j{{"unit", all.unit}};
    if (all.lowWordFirst)
        j["words"] = "low first";
    for (const auto& [action, r] : all.actions) {
        auto& one = j[action];
        one[r.write ? "write" : "read"] = r.address;
        if (r.table != Register::Table::Holding)
            one["table"] = kTables[static_cast<std::size_t>(r.table)];
        if (r.type != Register::Type::Uint16)
            one["type"] = kTypes[static_cast<std::size_t>(r.type)];
        if (r.scale != 1.0)
            one["scale"] = r.scale;
        if (r.value)
            one["value"] = *r.value;
    }
    return j;
}

std::optional<std::vector<std::uint16_t>> wordsOf(const Register& r, double value, bool lowWordFirst) {
    const double scaled = r.value ? value : value / r.scale;
    std::uint32_t bits = 0;
    const double whole = std::round(scaled);
    const auto fits = [&](double low, double high) { return whole >= low && whole <= high; };
    switch (r.type) {
    case Register::Type::Float32:
        if (!(std::fabs(scaled) <= static_cast<double>(std::numeric_limits<float>::max())))
            return std::nullopt;
        bits = std::bit_cast<std::uint32_t>(static_cast<float>(scaled));
        break;
    case Register::Type::Uint16:
        if (!fits(0.0, 65535.0))
            return std::nullopt;
        return std::vector<std::uint16_t>{static_cast<std::uint16_t>(whole)};
    case Register::Type::Int16:
        if (!fits(-32768.0, 32767.0))
            return std::nullopt;
        return std::vector<std::uint16_t>{static_cast<std::uint16_t>(static_cast<std::int16_t>(whole))};
    case Register::Type::Uint32:
        if (!fits(0.0, 4294967295.0))
            return std::nullopt;
        bits = static_cast<std::uint32_t>(whole);
        break;
    case Register::Type::Int32:
        if (!fits(-2147483648.0, 2147483647.0))
            return std::nullopt;
        bits = static_cast<std::uint32_t>(static_cast<std::int32_t>(whole));
        break;
    }
    const auto high = static_cast<std::uint16_t>(bits >> 16U), low = static_cast<std::uint16_t>(bits & 0xffffU);
    return lowWordFirst ? std::vector<std::uint16_t>{low, high} : std::vector<std::uint16_t>{high, low};
}

std::optional<double> numberOf(const Register& r, const std::vector<std::uint16_t>& words, bool lowWordFirst) {
    if (words.size() < static_cast<std::size_t>(r.words()))
        return std::nullopt;
    if (r.type == Register::Type::Uint16)
        return words[0] * r.scale;
    if (r.type == Register::Type::Int16)
        return static_cast<std::int16_t>(words[0]) * r.scale;
    const std::uint32_t high = words[lowWordFirst ? 1 : 0], low = words[lowWordFirst ? 0 : 1];
    const std::uint32_t bits = (high << 16U) | low;
    if (r.type == Register::Type::Uint32)
        return bits * r.scale;
    if (r.type == Register::Type::Int32)
        return static_cast<std::int32_t>(bits) * r.scale;
    return static_cast<double>(std::bit_cast<float>(bits)) * r.scale;
}

} // namespace otterstone::bench
