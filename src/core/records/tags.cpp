#include "core/records/tags.h"

#include <algorithm>

#include "core/quantity/parse.h"

namespace otterstone::records {

std::vector<std::string> parseTags(std::string_view text) {
    std::vector<std::string> tags;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find_first_of(",;\n"), text.size());
        const std::string tag(trimmed(text.substr(0, end)));
        text.remove_prefix(std::min(end + 1, text.size()));
        const bool known = std::any_of(tags.begin(), tags.end(),
                                       [&](const std::string& other) { return lowered(other) == lowered(tag); });
        if (!tag.empty() && !known)
            tags.push_back(tag);
    }
    return tags;
}

std::string showTags(const std::vector<std::string>& tags) {
    std::string text;
    for (const std::string& tag : tags)
        text += (text.empty() ? "" : "; ") + tag;
    return text;
}

} // namespace otterstone::records
