#include "standin/scpi_words.h"
#include "core/quantity/format.h"

#include <cctype>
#include <charconv>
#include <string>

namespace otterstone::standin {

namespace {

char upper(char c) { return static_cast<char>(std::toupper(static_cast<unsigned char>(c))); }

bool same(std::string_view a, std::string_view b) {
    if (a.size() != b.size())
        return false;
    for (std::size_t k = 0; k < a.size(); ++k) {
        if (upper(a[k]) != upper(b[k]))
            return false;
    }
    return true;
}

bool matches(std::string_view word, std::string_view pattern) {
    std::string brief;
    for (const char c : pattern) {
        if (!std::islower(static_cast<unsigned char>(c)))
            brief += c;
    }
    return same(word, pattern) || same(word, brief);
}

std::string_view trim(std::string_view s) {
    while (!s.empty() && std::isspace(static_cast<unsigned char>(s.front())))
        s.remove_prefix(1);
    while (!s.empty() && std::isspace(static_cast<unsigned char>(s.back())))
        s.remove_suffix(1);
    return s;
}

} // namespace

std::optional<std::string_view> parameterOf(std::string_view line, std::string_view pattern) {
    line = trim(line);
    if (line.starts_with(':'))
        line.remove_prefix(1);
    const std::size_t end = line.find(' ');
    std::string_view command = line.substr(0, end);
    for (;;) {
        const std::size_t a = command.find(':');
        const std::size_t b = pattern.find(':');
        if (!matches(command.substr(0, a), pattern.substr(0, b)) || (a == command.npos) != (b == pattern.npos))
            return std::nullopt;
        if (a == command.npos)
            break;
        command.remove_prefix(a + 1);
        pattern.remove_prefix(b + 1);
    }
    return end == line.npos ? std::string_view() : trim(line.substr(end));
}

std::string number(double v, int decimals) { return plainDigits(v, decimals); }

std::optional<double> numberIn(std::string_view text) {
    double v = 0.0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), v);
    return error == std::errc() && end == text.data() + text.size() ? std::optional(v) : std::nullopt;
}

bool isOn(std::string_view text) { return same(text, "1") || same(text, "on") || same(text, "in"); }

} // namespace otterstone::standin
