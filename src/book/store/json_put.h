// Figures in and out of JSON objects, checked as they are read; internal to this folder.
#pragma once

#include <cmath>
#include <concepts>
#include <utility>

#include "book/store/damage.h"
#include "core/quantity/json_text.h"
#include "core/records/run.h"

namespace otterstone::book {

using nlohmann::json;

template<class T>
void put(json& j, const char* key, const std::optional<T>& value) {
    if (!value)
        return;
    if constexpr (requires { value->value; })
        j[key] = value->value;
    else
        j[key] = *value;
}

/// An empty text, and what is not so, are left out.
inline void put(json& j, const char* key, const std::string& text) {
    if (!text.empty())
        j[key] = text;
}

inline void put(json& j, const char* key, std::same_as<bool> auto yes) {
    if (yes)
        j[key] = true;
}

/// A value of its type, or Damage.
template<class T>
T as(const json& j, const char* key) {
    if constexpr (std::is_same_v<T, bool>) {
        if (!j.is_boolean())
            throw Damage(key, "this should be true or false");
        return j.get<bool>();
    } else if constexpr (std::is_floating_point_v<T>) {
        if (!j.is_number())
            throw Damage(key, "this should be a number");
        return checkedFigure(j.get<double>(), key);
    } else if constexpr (std::is_integral_v<T>) {
        // Whole, within its type, and a double that says a whole number is one too.
        const double given = j.is_number() ? j.get<double>() : NAN;
        if (!(given == std::floor(given)) || std::fabs(given) > 9e15 ||
            !std::in_range<T>(static_cast<long long>(given)))
            throw Damage(key, "this should be a whole number");
        return static_cast<T>(given);
    } else if constexpr (std::is_same_v<T, std::string>) {
        if (!j.is_string() || j.get_ref<const std::string&>().size() > static_cast<std::size_t>(kLongestText))
            throw Damage(key, "this should be a text");
        return j.get<std::string>();
    } else { // an amount with its unit
        return T(as<double>(j, key));
    }
}

/// The part under a key; Damage when this is no object or has none.
inline const json& part(const json& j, const char* key) {
    if (!j.is_object())
        throw Damage("", "this should be an object in braces");
    const auto at = j.find(key);
    if (at == j.end())
        throw Damage(key, "this is missing");
    return *at;
}

/// The object that a cell holds as text.
inline json objectIn(const std::string& text, const char* column) {
    auto j = parseJson(text, column);
    if (!j)
        throw Damage(column, j.error().text);
    if (!j->is_object())
        throw Damage(column, "this should be a JSON object");
    return std::move(*j);
}

inline bool has(const json& j, const char* key) { return j.is_object() && j.contains(key); }

/// The list under a key; empty when there is none.
inline const json& list(const json& j, const char* key) {
    static const json kEmpty = json::array();
    if (!has(j, key))
        return kEmpty;
    if (!j.at(key).is_array())
        throw Damage(key, "this should be a list in square brackets");
    return j.at(key);
}

/// What must be there.
template<class T>
T need(const json& j, const char* key) {
    return as<T>(part(j, key), key);
}

template<class T>
void get(const json& j, const char* key, std::optional<T>& value) {
    if (has(j, key) && !j.at(key).is_null())
        value = as<T>(j.at(key), key);
}

/// What may be missing, and then stays as it is.
template<class T>
void getOr(const json& j, const char* key, T& value) {
    if (has(j, key) && !j.at(key).is_null())
        value = as<T>(j.at(key), key);
}

inline void get(const json& j, const char* key, std::string& text) { getOr(j, key, text); }

inline void get(const json& j, const char* key, bool& yes) { getOr(j, key, yes); }

inline void put(json& j, const char* key, const std::optional<Stated>& value) {
    if (!value)
        return;
    j[key] = value->value;
    if (value->expanded)
        j[std::string(key) + "_expanded"] = *value->expanded;
}

inline void get(const json& j, const char* key, std::optional<Stated>& value) {
    std::optional<double> number, expanded;
    get(j, key, number);
    get(j, (std::string(key) + "_expanded").c_str(), expanded);
    if (expanded && *expanded < 0.0)
        throw Damage(std::string(key) + "_expanded", "no doubt is below 0");
    if (number)
        value = Stated(*number, expanded);
}

inline json tiersJson(const std::vector<label::Tier>& tiers) {
    json j = json::array();
    for (const label::Tier& t : tiers)
        j.push_back({{"low_volts", t.low.value}, {"high_volts", t.high.value}, {"amps", t.amps.value}});
    return j;
}

inline void put(json& j, const char* key, const std::vector<label::Tier>& tiers) {
    if (!tiers.empty())
        j[key] = tiersJson(tiers);
}

inline void get(const json& j, const char* key, std::vector<label::Tier>& tiers) {
    for (const json& t : list(j, key))
        tiers.push_back({need<Volts>(t, "low_volts"), need<Volts>(t, "high_volts"), need<Amps>(t, "amps")});
}

/// What stands as a line of text, and is read as it is typed; Damage when it cannot be.
template<class T>
void readLine(const std::string& line, const char* key, Result<T> (*read)(std::string_view, std::string_view),
              T& value) {
    if (line.empty())
        return;
    auto understood = read(line, key);
    if (!understood)
        throw Damage(key, understood.error().text);
    value = std::move(*understood);
}

} // namespace otterstone::book
