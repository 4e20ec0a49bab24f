// Sentences as patterns: whole sentences with places in them, readable in one glance and one file away from another
// language. What stands in a place is words already; digits are decided by quantity/format.
#pragma once

#include <span>
#include <string>
#include <string_view>
#include <type_traits>
#include <utility>

namespace otterstone {

/// A pattern with as many places, "{}" or "{1}", as it is given words: anything else does not compile.
template<std::size_t Places>
class Pattern {
public:
    consteval Pattern(const char* text) : text_(text) { // NOLINT: a pattern is written as its text
        std::size_t next = 0, most = 0;
        for (const char* c = text; *c != '\0'; ++c) {
            if (*c != '{')
                continue;
            if (c[1] == '}')
                most = ++next > most ? next : most;
            else if (c[1] >= '0' && c[1] <= '9' && c[2] == '}')
                most =
                    static_cast<std::size_t>(c[1] - '0') + 1 > most ? static_cast<std::size_t>(c[1] - '0') + 1 : most;
            else
                throw "a place is {} or {0} … {9}";
        }
        if (most != Places)
            throw "a pattern has as many places as it is given words";
    }
    [[nodiscard]] constexpr std::string_view text() const { return text_; }

private:
    std::string_view text_;
};

/// Precondition: `pattern` has a place for each of the words.
[[nodiscard]] std::string sayAll(std::string_view pattern, std::span<const std::string_view> words);

/// A text without places; braces in it are braces.
[[nodiscard]] std::string sayAsItStands(std::string_view text);

/// say("{} reached the port: {} of the printed {}", energy, share, printed)
template<class... Words>
[[nodiscard]] std::string say(std::type_identity_t<Pattern<sizeof...(Words)>> pattern, const Words&... words) {
    const std::string_view all[] = {std::string_view(words)..., std::string_view()};
    return sayAll(pattern.text(), std::span(all, sizeof...(Words)));
}

/// A text to be read: what is written out is said as it stands, what was said already stays so.
class Spoken {
public:
    Spoken() = default;
    Spoken(const char* asItStands) : text_(sayAsItStands(asItStands)) {} // NOLINT: it is written as its text
    Spoken(std::string said) : text_(std::move(said)) {}                 // NOLINT
    [[nodiscard]] std::string text() && { return std::move(text_); }

private:
    std::string text_;
};

} // namespace otterstone
