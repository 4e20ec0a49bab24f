#include "core/kinds/needs.h"

#include <algorithm>

namespace otterstone::kinds {

namespace {

constexpr FigureNeed kNeeds[] = {
    {Kind::Drain, "delivered_share", "the delivered share", Need::Full, Need::Empty},
    {Kind::Drain, "capacity", "the capacity", Need::Full, Need::Empty},
    {Kind::Drain, "usable_wh", "usable energy", Need::Full, Need::Empty, true},
    {Kind::Drain, "label_wh", "a verdict on the label", Need::Full, Need::Empty, true, true},
    {Kind::Drain, "gauge_error", "the display's error", Need::Full, Need::Empty},
    {Kind::Drain, "reserve_wh", "what came after 0 %", Need::Any, Need::Empty},
    {Kind::Drain, "against_display", "the display's estimate", Need::Any, Need::Empty},
    {Kind::Drain, "device_charges", "charges of the device", Need::Full, Need::Empty, true},
    {Kind::Drain, "projected_wh", "an estimate for a full drain", Need::Known, Need::Known},
    {Kind::Recharge, "charge_speed", "the charge speed", Need::Empty, Need::Full},
    {Kind::Recharge, "time_to_50", "the time to 50 %", Need::Empty, Need::Full},
    {Kind::Recharge, "time_to_80", "the time to 80 %", Need::Empty, Need::Full},
    {Kind::Recharge, "time_to_100", "the time to full", Need::Empty, Need::Full},
    {Kind::Recharge, "time_from", "the time from where it began", Need::Known, Need::Full},
    {Kind::Recharge, "put_in_wh", "the energy from empty to full", Need::Empty, Need::Full, true},
    {Kind::Recharge, "against_claim", "the claim", Need::Empty, Need::Full, true, true},
    {Kind::Recharge, "gauge_error", "the display's error", Need::Empty, Need::Full}};

bool met(Need need, const std::optional<KnownState>& at) {
    switch (need) {
    case Need::Any: return true;
    case Need::Full: return at && at->state.isFull();
    case Need::Empty: return at && at->state.isEmpty();
    case Need::Known: return at.has_value();
    }
    return false;
}

// A display that says 0 % may hide a reserve: empty is what its cut-off, or the tester, says. The same holds of full.
bool metAtEnd(const FigureNeed& need, const Ends& ends) {
    const bool shown = ends.ended && (ends.ended->from == StateFrom::Stamped || ends.ended->from == StateFrom::Chain);
    return met(need.end, ends.ended) && !(need.beyond && ends.ended->from == StateFrom::Taken) &&
           !(shown && (need.end == Need::Empty || need.end == Need::Full));
}

// What is taken says so beside its figure; while it is asked for, no claim is held against it.
bool metAtBegin(const FigureNeed& need, const Ends& ends) {
    const bool asked =
        std::any_of(ends.questions.begin(), ends.questions.end(), [](const Question& q) { return q.key == "began"; });
    return met(need.begin, ends.began) && !(need.verdict && asked && ends.began->from == StateFrom::Taken);
}

const FigureNeed* needOf(Kind kind, std::string_view figure) {
    const auto at = std::find_if(std::begin(kNeeds), std::end(kNeeds),
                                 [&](const FigureNeed& n) { return n.kind == kind && n.figure == figure; });
    return at == std::end(kNeeds) ? nullptr : at;
}

} // namespace

std::span<const FigureNeed> figureNeeds() { return kNeeds; }

bool answers(Kind kind, const Ends& ends, std::string_view figure) {
    const FigureNeed* need = needOf(kind, figure);
    return !need || (metAtBegin(*need, ends) && metAtEnd(*need, ends));
}

std::string whyNot(Kind kind, const Ends& ends, std::string_view figure) {
    const FigureNeed* need = needOf(kind, figure);
    std::string why;
    if (need && !metAtBegin(*need, ends))
        why = ends.began && met(need->begin, ends.began)
                  ? "nobody said how full it began, and what was moved makes it doubtful"
                  : beganWords(ends);
    if (need && !metAtEnd(*need, ends))
        why += (why.empty() ? "" : ", and ") + endedWords(ends);
    return why;
}

} // namespace otterstone::kinds
