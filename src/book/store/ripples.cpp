#include "book/store/ripples.h"

#include <algorithm>
#include <mutex>
#include <optional>

#include "book/store/gathered.h"

#include "core/quantity/say.h"

namespace otterstone::book {

Result<setup::Bench> benchNow(const QString& path) {
    return guarded(path, [&] { return benchOf(path); });
}

namespace {

// Hands on in order what threads finish in any order.
class InOrder {
public:
    InOrder(std::size_t many, const std::function<bool(Rippled)>& tell) : waiting_(many), tell_(tell) {}
    // Whether to go on.
    bool done(std::size_t place, Rippled one) {
        const std::scoped_lock lock(mutex_);
        waiting_[place] = std::move(one);
        for (; goesOn_ && next_ < waiting_.size() && waiting_[next_]; ++next_)
            goesOn_ = tell_(std::move(*std::exchange(waiting_[next_], std::nullopt)));
        return goesOn_;
    }

private:
    std::mutex mutex_;
    std::vector<std::optional<Rippled>> waiting_;
    std::size_t next_ = 0;
    bool goesOn_ = true;
    const std::function<bool(Rippled)>& tell_;
};

// Of a bank as it was and as it is.
Rippled rippledOf(const Bank& bank, Banks& was, Banks& is, Id gear) {
    Rippled rippled;
    const auto& runs = is.findings(bank).runs();
    const auto asked = [&](const Run& r) { return gear != kNew && uses(r, gear); };
    if (gear != kNew && std::none_of(runs.begin(), runs.end(), asked))
        return rippled;
    const OfBank &before = was.of(bank), &after = is.of(bank);
    for (const Run* run : after.runs) {
        const auto then = before.findings.find(run->id);
        if (then == before.findings.end())
            continue;
        const KeyedFinding& now = after.findings.at(run->id);
        std::vector<together::FigureChange> changes;
        if (then->second.key != now.key)
            changes = together::changesBetween(then->second.finding, now.finding);
        if (asked(*run) || !changes.empty())
            rippled.rows.push_back({run->id, bank.name, run->title, std::move(changes)});
    }
    if (auto changes = together::changesBetween(was.judge(bank), is.judge(bank)); !changes.empty())
        rippled.rows.push_back({kNew, bank.name, say("all runs together"), std::move(changes)});
    rippled.fresh = is.takeFresh(bank);
    return rippled;
}

} // namespace

Result<void> tellRipples(const QString& path, const setup::Bench& before, Id gear,
                         const std::function<bool(Rippled)>& tell) {
    return guarded(path, [&] {
        const Bench now = benchOf(path);
        InOrder inOrder(now.banks.size(), tell);
        forEachFamily(path, familiesOf(now.banks, now), [&](Connection& c, const std::vector<std::size_t>& family) {
            Banks was(c, before), is(c, now, &was);
            return std::all_of(family.begin(), family.end(), [&](std::size_t k) {
                const Bank& bank = now.banks[k];
                const bool goesOn = inOrder.done(k, rippledOf(bank, was, is, gear));
                is.release(bank);
                was.release(bank);
                return goesOn;
            });
        });
    });
}

std::string inWords(const Ripple& r) {
    std::string text = r.bank + ", " + r.title + ": ";
    if (r.figures.empty())
        return say("{}nothing that is shown changes", text);
    for (std::size_t k = 0; k < r.figures.size(); ++k)
        text += (k == 0 ? "" : "; ") + r.figures[k].label + " " + r.figures[k].before + " → " + r.figures[k].after;
    return text;
}

} // namespace otterstone::book
