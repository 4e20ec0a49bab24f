#include "core/records/conditions.h"

#include <algorithm>
#include <set>

#include "core/quantity/parse.h"

namespace otterstone::records {

namespace {

// "Case  on" and "case on" are one.
std::string plain(std::string_view words) {
    std::string text;
    for (const char c : lowered(std::string(trimmed(words)))) {
        if (c != ' ' || text.back() != ' ')
            text += c;
    }
    return text;
}

std::set<std::string> plainly(const Conditions& all) {
    std::set<std::string> set;
    for (const std::string& c : all)
        set.insert(plain(c));
    return set;
}

} // namespace

Conditions parseConditions(std::string_view text) {
    Conditions all;
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t to = std::min(text.find_first_of(";,", from), text.size());
        const std::string_view piece = trimmed(text.substr(from, to - from));
        if (!piece.empty() &&
            std::none_of(all.begin(), all.end(), [&](const std::string& c) { return plain(c) == plain(piece); }))
            all.emplace_back(piece);
        from = to + 1;
    }
    return all;
}

std::string showConditions(const Conditions& conditions) {
    std::string text;
    for (const std::string& c : conditions)
        text += (text.empty() ? "" : "; ") + c;
    return text;
}

bool sameConditions(const Conditions& a, const Conditions& b) { return plainly(a) == plainly(b); }

} // namespace otterstone::records
