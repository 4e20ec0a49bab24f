#include "core/quantity/json_fields.h"

#include <algorithm>

#include "core/quantity/format.h"
#include "core/quantity/json_text.h"
#include "core/quantity/say.h"

namespace otterstone {

namespace {

const nlohmann::json kEmpty = nlohmann::json::object();

std::string quoted(const std::vector<std::string>& words) {
    std::string all;
    for (const std::string& w : words)
        all += (all.empty() ? "“" : ", “") + w + "”";
    return all;
}

} // namespace

Fields::Fields(const nlohmann::json& json, std::string place, std::optional<Problem>& problem)
    : json_(json), place_(std::move(place)), problem_(problem) {
    if (!json_.is_object())
        wrong("", "this should be an object in braces.");
}

const nlohmann::json* Fields::find(const char* key) {
    asked_.insert(key);
    return has(key) ? &json_.at(key) : nullptr;
}

void Fields::wrong(const std::string& key, Spoken what, Spoken mend) {
    if (!problem_)
        problem_ =
            Problem{"bad_value", key.empty() ? place_ : placeOf(key), std::move(what).text(), std::move(mend).text()};
}

std::string Fields::text(const char* key, const std::optional<std::string>& otherwise) {
    const auto* j = find(key);
    if (j && j->is_string())
        return j->get<std::string>();
    if (j || !otherwise)
        wrong(key, j ? "this should be a text in quotes." : "this is missing.");
    return otherwise.value_or("");
}

std::string Fields::word(const char* key, const std::vector<std::string>& words,
                         const std::optional<std::string>& otherwise) {
    std::string given = text(key, otherwise);
    if (!given.empty() && std::find(words.begin(), words.end(), given) == words.end() && given != otherwise)
        wrong(key, say("“{}” is not known here.", given), say("It can be {}.", quoted(words)));
    return given;
}

std::optional<double> Fields::maybeNumber(const char* key, double low, double high) {
    const auto* j = find(key);
    if (!j)
        return std::nullopt;
    if (!j->is_number() || j->get<double>() < low || j->get<double>() > high) {
        wrong(key, say("this should be a number from {} to {}.", showNumber(low), showNumber(high)));
        return std::nullopt;
    }
    return j->get<double>();
}

double Fields::number(const char* key, double low, double high, std::optional<double> otherwise) {
    const auto given = maybeNumber(key, low, high);
    if (!given && !otherwise && !has(key))
        wrong(key, "this is missing.", say("It is a number from {} to {}.", showNumber(low), showNumber(high)));
    return given.value_or(otherwise.value_or(low));
}

std::vector<std::string> Fields::words(const char* key, const std::vector<std::string>& allowed) {
    std::vector<std::string> all;
    const auto* j = find(key);
    if (!j)
        return all;
    if (!j->is_array()) {
        wrong(key, "this should be a list in square brackets.");
        return all;
    }
    for (const auto& item : *j) {
        if (!item.is_string() || std::find(allowed.begin(), allowed.end(), item.get<std::string>()) == allowed.end())
            wrong(key, say("{} is not known here.", jsonText(item)), say("It can hold {}.", quoted(allowed)));
        else
            all.push_back(item.get<std::string>());
    }
    return all;
}

std::vector<std::string> Fields::texts(const char* key) {
    std::vector<std::string> all;
    const auto* j = find(key);
    if (j && !j->is_array())
        wrong(key, "this should be a list in square brackets.");
    for (std::size_t k = 0; j && j->is_array() && k < j->size(); ++k) {
        if ((*j)[k].is_string())
            all.push_back((*j)[k].get<std::string>());
        else
            wrong(key, say("{} should be a text in quotes.", jsonText((*j)[k])));
    }
    return all;
}

std::optional<std::string> Fields::typed(const char* key) {
    const auto* j = find(key);
    if (j && j->is_number())
        return jsonText(*j);
    return j ? std::optional(text(key)) : std::nullopt;
}

bool Fields::yes(const char* key) {
    const auto* j = find(key);
    if (j && !j->is_boolean())
        wrong(key, "this should be true or false.");
    return j && j->is_boolean() && j->get<bool>();
}

Fields Fields::part(const char* key) {
    const auto* j = find(key);
    return {j ? *j : kEmpty, placeOf(key), problem_};
}

std::vector<Fields> Fields::list(const char* key) {
    std::vector<Fields> all;
    const auto* j = find(key);
    if (j && !j->is_array())
        wrong(key, "this should be a list in square brackets.");
    if (!j || !j->is_array())
        return all;
    for (std::size_t k = 0; k < j->size(); ++k)
        all.emplace_back((*j)[k], placeOf(key) + "[" + std::to_string(k + 1) + "]", problem_);
    return all;
}

std::vector<std::string> Fields::keys() const {
    std::vector<std::string> all;
    if (json_.is_object()) {
        for (const auto& [key, value] : json_.items())
            all.push_back(key);
    }
    return all;
}

void Fields::finish() {
    for (const std::string& key : keys()) {
        if (!asked_.contains(key))
            wrong(key, "there is nothing of this name here.", "Check its spelling, or take it out.");
    }
}

Result<nlohmann::json> parseObject(const std::string& text, const std::string& place, const std::string& format) {
    auto parsed = parseJson(text, place);
    if (!parsed)
        return parsed;
    nlohmann::json& json = *parsed;
    if (!json.is_object() || json.value("format", nlohmann::json()) != format)
        return problem("wrong_format", place, say("this does not say \"format\": \"{}\".", format));
    const auto version = json.value("version", nlohmann::json());
    if (!version.is_number_integer() || version < 1)
        return problem("wrong_format", place, "its \"version\" is missing.", "Write \"version\": 1.");
    if (version > 1)
        return problem("newer_format", place, "it was written for a newer Otterstone.", "Update Otterstone.");
    return parsed;
}

} // namespace otterstone
