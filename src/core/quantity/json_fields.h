// Reads a JSON object that a person wrote: every wrong, missing or unknown key is told with its place, the first one
// wins.
#pragma once

#include <optional>
#include <set>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "core/quantity/problem.h"

namespace otterstone {

class Fields {
public:
    /// `place` leads to this object ("gentle.json: steps[2]"); the first problem is kept in `problem`.
    Fields(const nlohmann::json& json, std::string place, std::optional<Problem>& problem);

    [[nodiscard]] bool has(const char* key) const { return json_.is_object() && json_.contains(key); }
    [[nodiscard]] std::string text(const char* key, const std::optional<std::string>& otherwise = std::nullopt);
    [[nodiscard]] std::string word(const char* key, const std::vector<std::string>& words,
                                   const std::optional<std::string>& otherwise = std::nullopt);
    [[nodiscard]] double number(const char* key, double low, double high,
                                std::optional<double> otherwise = std::nullopt);
    [[nodiscard]] std::optional<double> maybeNumber(const char* key, double low, double high);
    [[nodiscard]] std::vector<std::string> words(const char* key, const std::vector<std::string>& allowed);
    /// A list of texts, whatever they say.
    [[nodiscard]] std::vector<std::string> texts(const char* key);
    /// A text, or a number as a person would have typed it; nothing when it is not there.
    [[nodiscard]] std::optional<std::string> typed(const char* key);
    [[nodiscard]] bool yes(const char* key);
    /// The object under a key; an empty one when it is not there.
    [[nodiscard]] Fields part(const char* key);
    [[nodiscard]] std::vector<Fields> list(const char* key);
    /// All keys of this object, for those that name something themselves.
    [[nodiscard]] std::vector<std::string> keys() const;
    void wrong(const std::string& key, Spoken what, Spoken mend = {});
    /// Tells of a key nobody asked for: a slip of the pen would otherwise do nothing, silently.
    void finish();

private:
    [[nodiscard]] const nlohmann::json* find(const char* key);
    [[nodiscard]] std::string placeOf(const std::string& key) const {
        return place_.empty() || place_.ends_with(' ') ? place_ + key : place_ + "." + key;
    }

    const nlohmann::json& json_;
    std::string place_;
    std::optional<Problem>& problem_;
    std::set<std::string> asked_;
};

/// The object in a text, and its "format" and "version" checked. Problems: not_json, wrong_format, newer_format.
[[nodiscard]] Result<nlohmann::json> parseObject(const std::string& text, const std::string& place,
                                                 const std::string& format);

} // namespace otterstone
