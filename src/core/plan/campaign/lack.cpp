#include <algorithm>

#include "core/plan/campaign/schedule.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

std::optional<Lack> lackOf(const Problem& p, const Job& job) {
    for (const Need& need : job.needs) {
        Lack lack{need.kind, 0, 0, {}};
        for (const Need& other : job.needs) {
            if (other.kind != need.kind)
                continue;
            ++lack.wanted;
            lack.pieces.insert(lack.pieces.end(), other.anyOf.begin(), other.anyOf.end());
        }
        std::sort(lack.pieces.begin(), lack.pieces.end());
        lack.pieces.erase(std::unique(lack.pieces.begin(), lack.pieces.end()), lack.pieces.end());
        for (const std::size_t piece : lack.pieces)
            lack.there += p.pieces[piece].count;
        if (lack.there < lack.wanted)
            return lack;
    }
    return std::nullopt;
}

std::string whyLeftOut(const Problem& p, const LeftOut& out) {
    const auto lack = lackOf(p, p.jobs[out.job]);
    if (!lack)
        return out.why;
    const std::string wanted = std::to_string(lack->wanted);
    if (lack->pieces.empty())
        return say("it wants {} × {} at once, and there is none that can do it", wanted, lack->kind);
    std::string there;
    for (const std::size_t piece : lack->pieces)
        there += (there.empty() ? "" : say(" and ")) +
                 (p.pieces[piece].count > 1 ? std::to_string(p.pieces[piece].count) + " × " : "") + p.pieces[piece].id;
    return say("it wants {} × {} at once, and there is only {}", wanted, lack->kind, there);
}

} // namespace otterstone::plan::campaign
