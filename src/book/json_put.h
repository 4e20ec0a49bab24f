// Optional figures in and out of JSON objects; internal to this folder.
#pragma once

#include <nlohmann/json.hpp>

#include "book/records.h"

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

template<class T>
void get(const json& j, const char* key, std::optional<T>& value) {
    const auto at = j.find(key);
    if (at == j.end() || at->is_null())
        return;
    if constexpr (requires { value->value; })
        value = T(at->template get<double>());
    else
        value = at->template get<T>();
}

template<class T>
void getOr(const json& j, const char* key, T& value) {
    if (const auto at = j.find(key); at != j.end() && !at->is_null())
        at->get_to(value);
}

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
    if (number)
        value = Stated(*number, expanded);
}

inline json tiersJson(const std::vector<label::Tier>& tiers) {
    json j = json::array();
    for (const label::Tier& t : tiers)
        j.push_back({{"low_volts", t.low.value}, {"high_volts", t.high.value}, {"amps", t.amps.value}});
    return j;
}

inline std::vector<label::Tier> tiersFromJson(const json& j) {
    std::vector<label::Tier> tiers;
    for (const json& t : j)
        tiers.push_back({Volts(t.at("low_volts").get<double>()), Volts(t.at("high_volts").get<double>()), Amps(t.at("amps").get<double>())});
    return tiers;
}

} // namespace otterstone::book
