#include "core/plan/campaign/scarce.h"

#include <algorithm>

namespace otterstone::plan::campaign {

namespace {

constexpr std::size_t kTried = 4;     // of the busiest pieces
constexpr double kWorthTrying = 0.25; // busier than that

} // namespace

std::vector<Busy> scarceOf(const Problem& p, const Schedule& s) {
    std::vector<Busy> all;
    if (s.makespan <= 0.0)
        return all;
    std::vector<double> busy(p.pieces.size(), 0.0);
    double hands = 0.0, there = 0.0;
    for (const Placed& placed : s.placed) {
        for (const std::size_t piece : placed.pieces)
            busy[piece] += placed.to - placed.from;
        for (const Hands& h : p.jobs[placed.job].hands)
            hands += h.seconds;
    }
    for (std::size_t k = 0; k < p.pieces.size(); ++k) {
        if (busy[k] > 0.0)
            all.push_back({p.pieces[k].id, busy[k] / (p.pieces[k].count * s.makespan)});
    }
    if (!p.hours)
        there = s.makespan;
    else {
        for (const Presence& h : *p.hours)
            there += h.people * std::max(0.0, std::min(h.span.to, s.makespan) - h.span.from);
    }
    if (hands > 0.0 && there > 0.0)
        all.push_back({"", std::min(1.0, hands / there)});
    std::stable_sort(all.begin(), all.end(), [](const Busy& a, const Busy& b) { return a.share > b.share; });
    return all;
}

std::vector<OneMore> oneMoreOf(const Problem& p, const Answer& answer, const std::function<GoOn()>& goOn) {
    std::vector<OneMore> all;
    for (const Busy& b : scarceOf(p, answer.schedule)) {
        if (b.piece.empty() || b.share < kWorthTrying || all.size() == kTried)
            continue;
        Problem more = p;
        std::find_if(more.pieces.begin(), more.pieces.end(), [&](const Piece& piece) {
            return piece.id == b.piece;
        })->count += 1;
        const Answer then = solve(more, goOn());
        const bool same = then.schedule.leftOut.size() == answer.schedule.leftOut.size();
        all.push_back({b.piece, same ? std::max(0.0, answer.schedule.makespan - then.schedule.makespan) : 0.0,
                       std::max(0.0, then.schedule.value - answer.schedule.value)});
    }
    return all;
}

} // namespace otterstone::plan::campaign
