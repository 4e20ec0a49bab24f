#include "core/records/bought.h"

#include <algorithm>

#include "core/quantity/date.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"
#include "core/records/money.h"

namespace otterstone::records {

namespace {

constexpr const char* kDigits = "0123456789";

Result<Content> parseContent(std::string_view text, std::string_view place) {
    const Content whole{std::string(text), {}};
    if (!text.ends_with('g'))
        return whole;
    const std::string_view before = trimmed(text.substr(0, text.size() - 1));
    const std::size_t from = before.find_last_not_of("0123456789.,") + 1; // 0 where there is no other
    if (before.find_first_of(kDigits, from) == std::string_view::npos)
        return whole; // "bag"
    const auto grams = parseNumber(before.substr(from), place);
    if (!grams)
        return tl::unexpected(grams.error());
    const std::string_view what = trimmed(before.substr(0, from));
    if (what.empty())
        return problem("bad_content", std::string(place), say("“{}” does not say of what.", text),
                       "Write it like bag 12 g.");
    if (*grams <= 0.0 || *grams > kLargestFigure)
        return problem("bad_content", std::string(place), say("“{}” cannot be.", text));
    return Content{std::string(what), *grams};
}

} // namespace

Result<void> parsePaid(std::string_view text, std::string_view place, Bought& into) {
    const auto money = parseMoney(text, place);
    if (!money)
        return tl::unexpected(money.error());
    into.paid = *money ? std::optional((*money)->amount) : std::nullopt;
    into.currency = *money ? (*money)->currency : std::string();
    return {};
}

std::string showPaid(const Bought& b) { return b.paid ? showMoney({*b.paid, b.currency}) : std::string(); }

Result<std::vector<Content>> parseContents(std::string_view text, std::string_view place) {
    std::vector<Content> contents;
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t to = std::min(text.find(';', from), text.size());
        if (const auto piece = trimmed(text.substr(from, to - from)); !piece.empty()) {
            auto content = parseContent(piece, place);
            if (!content)
                return tl::unexpected(content.error());
            contents.push_back(std::move(*content));
        }
        from = to + 1;
    }
    return contents;
}

std::string showContents(const std::vector<Content>& contents) {
    std::string text;
    for (const Content& c : contents)
        text += (text.empty() ? "" : "; ") + c.what + (c.grams ? " " + showNumber(*c.grams, 6) + " g" : "");
    return text;
}

std::string contentsWeight(const std::vector<Content>& contents) {
    double grams = 0.0;
    std::size_t weighed = 0;
    for (const Content& c : contents) {
        grams += c.grams.value_or(0.0);
        weighed += c.grams ? 1 : 0;
    }
    if (weighed == 0)
        return {};
    return weighed == contents.size() ? say("{} g in all", showNumber(grams, 6))
                                      : say("{} g of those weighed", showNumber(grams, 6));
}

Result<std::string> parseDay(std::string_view given, std::string_view place) {
    const std::string_view text = trimmed(given);
    if (!text.empty() && !isDay(text))
        return problem("bad_date", std::string(place), say("“{}” is no day.", text), "Write it like 2026-04-02.");
    return std::string(text);
}

std::string boughtWords(const Bought& b) {
    std::string words = b.where;
    const auto add = [&words](const std::string& more) { words += (words.empty() ? "" : ", ") + more; };
    if (!b.orderedOn.empty())
        add(say("ordered on {}", b.orderedOn));
    if (b.paid)
        add(say("for {}", showPaid(b)));
    return words;
}

} // namespace otterstone::records
