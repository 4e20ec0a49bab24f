// Workings, measured values and what a display was found to say as JSON; internal to this folder.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include <nlohmann/json.hpp>

#include "core/kinds/traced/cache_json.h"
#include "core/kinds/traced/gauge.h"
#include "core/quantity/working.h"

namespace otterstone::kinds {

[[nodiscard]] inline nlohmann::json orNull(const std::optional<double>& v) {
    return v ? nlohmann::json(*v) : nlohmann::json(nullptr);
}
[[nodiscard]] nlohmann::json measuredJson(const Measured& m);
[[nodiscard]] Measured measuredFrom(const CacheJson& j);
/// Workings for the cache, each written once however many figures hold it; a figure is named by its number there.
class WorkingsOut {
public:
    /// Precondition: `w` stays where it is as long as others are added.
    [[nodiscard]] std::size_t add(const Working& w);
    /// The text of a JSON object with all that was added as its last member, "workings".
    [[nodiscard]] std::string addedTo(std::string object) const;

private:
    [[nodiscard]] std::size_t written(const Working& w);
    [[nodiscard]] std::size_t sourceOf(const ErrorSource& s);
    std::string nodes_, sources_;                          ///< with commas between them
    std::unordered_map<std::string, std::size_t> numbers_; ///< of nodes, by their text
    std::map<ErrorSource, std::size_t> sourceNumbers_;
    std::unordered_multimap<const Contribution*, std::pair<const Working*, std::size_t>> added_; ///< by their doubt
    std::unordered_map<const ErrorSource*, std::size_t> sourcesAt_;
};

class WorkingsIn {
public:
    /// Throws what the JSON library throws of what is not as WorkingsOut wrote it, and std::out_of_range where a
    /// working holds more, or goes deeper, than any of ours: who walks through it would never come to its end.
    explicit WorkingsIn(const CacheJson& all);
    /// Throws std::out_of_range for a number that none has.
    [[nodiscard]] const Working& at(const CacheJson& number) const;

private:
    struct Extent {
        std::size_t nodes = 1, depth = 1; ///< walked through, each as often as it is held
    };
    std::vector<Working> nodes_;
    std::vector<Extent> extents_;
};

[[nodiscard]] nlohmann::json gaugeJson(const std::optional<GaugeFinding>& gauge);

} // namespace otterstone::kinds
