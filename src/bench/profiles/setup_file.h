// A bench as it stands: which instrument plays which role, where it is connected, and which piece of the gear drawer it
// is. Named, so that a run is begun without saying all of it again.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "bench/profiles/role.h"
#include "core/quantity/problem.h"

namespace otterstone::bench {

/// One instrument of a set-up.
struct Placed {
    std::string profile; ///< its key
    std::string address; ///< as it was typed
    std::string piece;   ///< its name in the gear drawer; empty: not said
    bool operator==(const Placed&) const = default;
};

struct SetupFile {
    std::string key;  ///< unique; the file's name without ".json"
    std::string name; ///< for people
    std::map<Role, Placed> placed;
    std::vector<std::string> also; ///< further pieces that lie there: cables, a charger
    /// All pieces that are named, the meter's before the others'.
    [[nodiscard]] std::vector<std::string> pieces() const;
    bool operator==(const SetupFile&) const = default;
};

/// Problems: those of parseObject, bad_value with the place inside the file.
[[nodiscard]] Result<SetupFile> setupFromJson(const std::string& text, const std::string& place);
[[nodiscard]] std::string toJson(const SetupFile& setup);

/// A key made of a name: "Left bench" is "left-bench"; empty when nothing of it can stand in a key.
[[nodiscard]] std::string keyOf(const std::string& name);

} // namespace otterstone::bench
