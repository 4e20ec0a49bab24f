#include "core/quantity/json_text.h"

#include <algorithm>

#include "core/quantity/say.h"

namespace otterstone {

namespace {

std::string lineOf(std::string_view text, std::size_t byte) {
    const auto end = text.begin() + static_cast<std::ptrdiff_t>(std::min(byte, text.size()));
    return std::to_string(std::count(text.begin(), end, '\n') + 1);
}

// Where brackets open deeper than allowed; npos when they don't.
std::size_t tooDeepAt(std::string_view text) {
    int depth = 0;
    bool quoted = false;
    for (std::size_t k = 0; k < text.size(); ++k) {
        const char c = text[k];
        if (quoted) {
            if (c == '\\')
                ++k;
            else if (c == '"')
                quoted = false;
        } else if (c == '"') {
            quoted = true;
        } else if (c == '[' || c == '{') {
            if (++depth > kDeepestJson)
                return k;
        } else if (c == ']' || c == '}') {
            --depth;
        }
    }
    return std::string_view::npos;
}

} // namespace

Result<nlohmann::json> parseJson(std::string_view text, const std::string& place) {
    if (const std::size_t at = tooDeepAt(text); at != std::string_view::npos)
        return problem(
            "not_json", place,
            say("brackets stand more than {} deep at line {}.", std::to_string(kDeepestJson), lineOf(text, at)),
            "Nothing of ours is written so; take them out.");
    try {
        return nlohmann::json::parse(text);
    } catch (const nlohmann::json::parse_error& error) {
        return problem("not_json", place, say("this is not JSON; it breaks off at line {}.", lineOf(text, error.byte)),
                       "Check quotes, commas and brackets there.");
    } catch (const nlohmann::json::exception&) {
        return problem("not_json", place, "a number in it is too large for any figure.",
                       "Check the numbers with an exponent.");
    }
}

std::string jsonText(const nlohmann::json& json, int indent) {
    return json.dump(indent, ' ', false, nlohmann::json::error_handler_t::replace);
}

} // namespace otterstone
