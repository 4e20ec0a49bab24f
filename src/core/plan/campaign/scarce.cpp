#include "core/plan/campaign/scarce.h"

#include <algorithm>

#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

constexpr std::size_t kTried = 4;      // of the busiest pieces
constexpr double kWorthTrying = 0.25;  // busier than that
constexpr double kWorthTelling = 60.0; // s

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
    std::vector<Schedule> then; // with each of them
    const auto tryWith = [&](const std::string& id, int many, const Schedule& before) {
        Problem more = p;
        std::find_if(more.pieces.begin(), more.pieces.end(), [&](const Piece& piece) {
            return piece.id == id;
        })->count += many;
        Schedule s = solve(more, goOn()).schedule;
        const bool same = s.leftOut.size() == before.leftOut.size();
        all.push_back({id, many, same ? std::max(0.0, before.makespan - s.makespan) : 0.0,
                       std::max(0.0, s.value - before.value)});
        then.push_back(std::move(s));
    };
    const auto tried = [&](const std::string& id) {
        return std::any_of(all.begin(), all.end(), [&](const OneMore& o) { return o.piece == id; });
    };
    for (const LeftOut& l : answer.schedule.leftOut) {
        const auto lack = lackOf(p, p.jobs[l.job]);
        if (lack && !lack->pieces.empty() && all.size() < kTried && !tried(p.pieces[lack->pieces.front()].id))
            tryWith(p.pieces[lack->pieces.front()].id, 1, answer.schedule);
    }
    for (const Busy& b : scarceOf(p, answer.schedule)) {
        if (!b.piece.empty() && b.share >= kWorthTrying && all.size() < kTried && !tried(b.piece))
            tryWith(b.piece, 1, answer.schedule);
    }
    const auto best = std::max_element(all.begin(), all.end(), [](const OneMore& a, const OneMore& b) {
        return std::pair(a.gains, a.saves) < std::pair(b.gains, b.saves);
    });
    if (best != all.end() && best->helps())
        tryWith(std::string(best->piece), 2, Schedule(then[static_cast<std::size_t>(best - all.begin())]));
    return all;
}

bool OneMore::helps() const { return gains > 0.0 || saves >= kWorthTelling; }

std::string oneMoreWords(const OneMore& o) {
    const std::string helps = o.gains > 0.0              ? say("more of it fits")
                              : o.saves >= kWorthTelling ? say("{} earlier", showDuration(o.saves))
                                                         : say("nothing found that it would save");
    return o.more == 1 ? say("one more {}: {}", o.piece, helps) : say("yet another {}: {}", o.piece, helps);
}

} // namespace otterstone::plan::campaign
