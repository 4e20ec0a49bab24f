#include "book/store/choices.h"

#include <nlohmann/json.hpp>

#include "core/plan/campaign/wishes.h"
#include "core/quantity/json_text.h"
#include "core/setup/prices.h"

namespace otterstone::book {

using nlohmann::json;

namespace {

template<class T>
Result<void> whether(const Result<T>& read) {
    if (!read)
        return tl::unexpected(read.error());
    return {};
}

constexpr ChoiceKind kKinds[] = {
    {choice::purpose, "the house's purpose",
     [](const std::string& text, const std::string& place) {
         return whether(judgement::purposeFromJson(text, place));
     }},
    {choice::needs, "the house's needs",
     [](const std::string& text, const std::string& place) { return whether(needsFromText(text, place)); }},
    {choice::campaign, "the house's campaign",
     [](const std::string& text, const std::string& place) {
         return whether(plan::campaign::wishesFromText(text, place));
     }},
    {setup::kPricesKey, "the house's prices",
     [](const std::string& text, const std::string& place) { return whether(setup::pricesFromText(text, place)); }},
};

} // namespace

std::span<const ChoiceKind> choiceKinds() { return kKinds; }

Result<Needs> needsFromText(const std::string& text, const std::string& place) {
    Needs needs;
    if (text.empty())
        return needs;
    const auto all = parseJson(text, place);
    if (!all)
        return tl::unexpected(all.error());
    try {
        needs.lines = all->value("needs", std::vector<std::string>{});
        needs.days = all->value("days", 0.0);
    } catch (const json::exception&) {
        return problem("bad_needs", place, "these are no needs.",
                       "Write {\"needs\": [\"Tablet 26.4 Wh 1x\"], \"days\": 3}.");
    }
    return needs;
}

std::string needsToText(const Needs& needs) { return jsonText({{"needs", needs.lines}, {"days", needs.days}}); }

judgement::Purpose purposeOr(const std::string& text) {
    const auto own = judgement::purposeFromJson(text, choice::purpose);
    return own ? *own : judgement::purposes().front();
}

} // namespace otterstone::book
