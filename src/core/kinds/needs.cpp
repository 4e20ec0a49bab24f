#include "core/kinds/needs.h"
#include "core/kinds/figure_keys.h"
#include "core/quantity/say.h"

#include <algorithm>

namespace otterstone::kinds {

namespace {

constexpr FigureNeed kNeeds[] = {
    {Kind::Drain, key::deliveredShare, "the delivered share", Need::Full, Need::Empty},
    {Kind::Drain, key::capacity, "the capacity", Need::Full, Need::Empty},
    {Kind::Drain, key::usableWh, "usable energy", Need::Full, Need::Empty, true},
    {Kind::Drain, key::labelWh, "a verdict on the label", Need::Full, Need::Empty, true, true},
    {Kind::Drain, key::gaugeError, "the display's error", Need::Full, Need::Empty},
    {Kind::Drain, key::reserveWh, "what came after 0 %", Need::Any, Need::Empty},
    {Kind::Drain, key::againstDisplay, "the display's estimate", Need::Any, Need::Empty},
    {Kind::Drain, key::deviceCharges, "charges of the device", Need::Full, Need::Empty, true},
    {Kind::Drain, key::projectedWh, "an estimate for a full drain", Need::Known, Need::Known},
    {Kind::Recharge, key::chargeSpeed, "the charge speed", Need::Empty, Need::Full},
    {Kind::Recharge, key::timeTo50, "the time to 50 %", Need::Empty, Need::Full},
    {Kind::Recharge, key::timeTo80, "the time to 80 %", Need::Empty, Need::Full},
    {Kind::Recharge, key::timeTo100, "the time to full", Need::Empty, Need::Full},
    {Kind::Recharge, key::timeFrom, "the time from where it began", Need::Known, Need::Full},
    {Kind::Recharge, key::putInWh, "the energy from empty to full", Need::Empty, Need::Full, true},
    {Kind::Recharge, key::againstClaim, "the claim", Need::Empty, Need::Full, true, true},
    {Kind::Recharge, key::gaugeError, "the display's error", Need::Empty, Need::Full}};

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
                  ? say("nobody said how full it began, and what was moved makes it doubtful")
                  : beganWords(ends);
    if (need && !metAtEnd(*need, ends))
        why += (why.empty() ? "" : say(", and ")) + endedWords(ends);
    return why;
}

} // namespace otterstone::kinds
