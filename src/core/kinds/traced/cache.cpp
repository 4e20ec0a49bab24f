// The whole finding as JSON, for the book's cache.
#include <cmath>

#include <nlohmann/json.hpp>

#include "core/kinds/figure_keys.h"
#include "core/kinds/traced/cache_json.h"
#include "core/kinds/traced/json.h"
#include "core/kinds/traced/working_json.h"
#include "core/quantity/json_text.h"
#include "core/setup/method.h"

namespace otterstone::kinds {

using nlohmann::json;

namespace {

std::optional<double> numberOrNothing(const CacheJson& j) {
    return j.isNull() ? std::nullopt : std::optional(j.get<double>());
}

std::optional<trace::PhaseKind> phaseFromName(const std::string& name) {
    for (int k = 0; k <= static_cast<int>(trace::PhaseKind::Off); ++k) {
        if (trace::phaseName(static_cast<trace::PhaseKind>(k)) == name)
            return static_cast<trace::PhaseKind>(k);
    }
    return std::nullopt;
}

void readStretches(const CacheJson& j, std::vector<trace::Stretch>& out) {
    for (const CacheJson s : j.list())
        out.push_back({s.at("from_s").get<double>(), s.at("to_s").get<double>()});
}

std::optional<Measured> figureValue(const Finding& f, std::string_view key) {
    const Working* w = figure(f, key);
    return w && !w->isText ? std::optional(w->value) : std::nullopt;
}

void readAlongThePath(const CacheJson& j, const WorkingsIn& workings, Finding& f) {
    for (const CacheJson p : j.at("points").list())
        f.points.push_back({path::pointFromName(p.at("point").get<std::string>()).value(), p.at("read").get<bool>(),
                            p.at("display").get<bool>(), workings.at(p.at("working"))});
    for (const CacheJson l : j.at("links").list()) {
        LinkFigure link{path::pointFromName(l.at("from").get<std::string>()).value(),
                        path::pointFromName(l.at("to").get<std::string>()).value(), l.at("gear").get<std::string>(),
                        std::nullopt, std::nullopt};
        if (!l.at("loss_wh").isNull())
            link.lossWattHours = l.at("loss_wh").get<double>();
        if (l.contains("working"))
            link.ohms = workings.at(l.at("working"));
        f.links.push_back(std::move(link));
    }
}

json statingJson(const std::optional<Stating>& s) {
    if (!s)
        return nullptr;
    return {{"low", s->state ? json(s->state->low) : json(nullptr)},
            {"high", s->state ? json(s->state->high) : json(nullptr)},
            {"sure", s->sure}};
}

std::optional<Stating> statingFrom(const CacheJson& j) {
    if (j.isNull())
        return std::nullopt;
    Stating s{std::nullopt, j.at("sure").get<bool>()};
    if (!j.at("low").isNull())
        s.state = State{j.at("low").get<double>(), j.at("high").get<double>()};
    return s;
}

json signJson(const std::optional<Sign>& s) {
    return s ? json{{"low", s->state.low}, {"high", s->state.high}, {"words", s->words}} : json(nullptr);
}

std::optional<Sign> signFrom(const CacheJson& j) {
    return j.isNull() ? std::nullopt
                      : std::optional(Sign{{j.at("low").get<double>(), j.at("high").get<double>()},
                                           j.at("words").get<std::string>()});
}

json stateOrNull(const std::optional<State>& s) { return s ? json{s->low, s->high} : json(nullptr); }
std::optional<State> stateOrNothing(const CacheJson& j) {
    return j.isNull() ? std::nullopt : std::optional(State{j.at(0).get<double>(), j.at(1).get<double>()});
}

json seenJson(const EndsSeen& s) {
    return {{"run", s.run},
            {"stated_began", statingJson(s.stated.began)},
            {"stated_ended", statingJson(s.stated.ended)},
            {"stated_ending", s.stated.ending ? json(endingKey(*s.stated.ending)) : json(nullptr)},
            {"stated_device", {stateOrNull(s.stated.deviceBegan), stateOrNull(s.stated.deviceEnded)}},
            {"device_began", signJson(s.deviceBegan)},
            {"device_ended", signJson(s.deviceEnded)},
            {"began", signJson(s.began)},
            {"ended", signJson(s.ended)},
            {"ending", endingKey(s.ending)},
            {"stamped", s.stamped},
            {"counters", s.counters},
            {"broke_off_after", orNull(s.brokeOffAfter)}};
}

EndsSeen seenFrom(const CacheJson& j) {
    EndsSeen s;
    j.at("run").getTo(s.run);
    s.stated.began = statingFrom(j.at("stated_began"));
    s.stated.ended = statingFrom(j.at("stated_ended"));
    if (const CacheJson e = j.at("stated_ending"); !e.isNull())
        s.stated.ending = endingFromKey(e.get<std::string>()).value();
    s.stated.deviceBegan = stateOrNothing(j.at("stated_device").at(0));
    s.stated.deviceEnded = stateOrNothing(j.at("stated_device").at(1));
    s.deviceBegan = signFrom(j.at("device_began"));
    s.deviceEnded = signFrom(j.at("device_ended"));
    s.began = signFrom(j.at("began"));
    s.ended = signFrom(j.at("ended"));
    s.ending = endingFromKey(j.at("ending").get<std::string>()).value();
    j.at("stamped").getTo(s.stamped);
    j.at("counters").getTo(s.counters);
    s.brokeOffAfter = numberOrNothing(j.at("broke_off_after"));
    return s;
}

json knownJson(const std::optional<KnownState>& s) {
    return s ? json{{"low", s->state.low}, {"high", s->state.high}, {"from", fromKey(s->from)}, {"words", s->words}}
             : json(nullptr);
}

std::optional<KnownState> knownFrom(const CacheJson& j) {
    if (j.isNull())
        return std::nullopt;
    KnownState s{
        {j.at("low").get<double>(), j.at("high").get<double>()}, StateFrom::Taken, j.at("words").get<std::string>()};
    for (const StateFrom from :
         {StateFrom::Stated, StateFrom::Trace, StateFrom::Stamped, StateFrom::Chain, StateFrom::Taken}) {
        if (fromKey(from) == j.at("from").get<std::string>())
            s.from = from;
    }
    return s;
}

json endsJson(const Ends& ends) {
    return {{"began", knownJson(ends.began)},
            {"ended", knownJson(ends.ended)},
            {"device_began", knownJson(ends.deviceBegan)},
            {"device_ended", knownJson(ends.deviceEnded)}};
}

// Ending and questions are the contract's own.
Ends endsFrom(const CacheJson& finding) {
    Ends ends;
    ends.began = knownFrom(finding.at("ends").at("began"));
    ends.ended = knownFrom(finding.at("ends").at("ended"));
    ends.deviceBegan = knownFrom(finding.at("ends").at("device_began"));
    ends.deviceEnded = knownFrom(finding.at("ends").at("device_ended"));
    ends.ending = endingFromKey(finding.at("ending").get<std::string>()).value();
    for (const CacheJson q : finding.at("questions").list()) {
        Question question{q.at("key").get<std::string>(), q.at("text").get<std::string>(), {}};
        for (const CacheJson a : q.at("answers").list())
            question.answers.push_back({a.at("key").get<std::string>(), a.at("text").get<std::string>()});
        ends.questions.push_back(std::move(question));
    }
    return ends;
}

} // namespace

std::string toCache(const Finding& f) {
    json out = toContract(f);
    out["method"] = kMethodVersion;
    out["referred"] = f.referred;
    WorkingsOut workings;
    out["figures"] = json::array();
    for (const Working& w : f.figures)
        out["figures"].push_back(workings.add(w));
    if (hasSheet(f.kind)) {
        out["through"] = {{"began", knownJson(f.ends.began)},
                          {"ended", knownJson(f.ends.ended)},
                          {"seconds", f.durationSeconds},
                          {"fills", f.fills}};
        return workings.addedTo(jsonText(out));
    }
    out["gauge"] = gaugeJson(f.gauge);
    out["withheld"] = json::array();
    for (const Withheld& w : f.withheld)
        out["withheld"].push_back({{"place", w.place}, {"figure", workings.add(w.figure)}});
    out["seen"] = seenJson(f.seen);
    out["ends"] = endsJson(f.ends);
    out["said"] = {f.said.amount, f.said.amountInWh, f.said.share, f.said.time, f.said.timeTo80, f.said.restsOn};
    for (std::size_t k = 0; k < f.points.size(); ++k)
        out["points"][k]["working"] = workings.add(f.points[k].energy);
    for (std::size_t k = 0; k < f.links.size(); ++k) {
        if (f.links[k].ohms)
            out["links"][k]["working"] = workings.add(*f.links[k].ohms);
    }
    out["plateau"] = {f.plateauAmps, f.plateauVolts, f.plateauPower};
    out["on_s"] = f.onSeconds;
    out["heat_measured"] =
        f.heat && f.heat->rise ? json{measuredJson(*f.heat->rise), measuredJson(*f.heat->seconds)} : json(nullptr);
    if (f.recharge) {
        out["until_end"] = measuredJson(f.recharge->untilEndWattHours);
        out["wall"] = f.recharge->wallWattHours ? measuredJson(*f.recharge->wallWattHours) : json(nullptr);
    }
    if (f.recharge) {
        out["claim_not_tested"] = f.recharge->claimNotTested;
        out["restarts"] = f.recharge->restarts;
    }
    if (f.drain)
        out["ended_by_exactly"] = static_cast<int>(f.drain->endedBy);
    return workings.addedTo(jsonText(out));
}

std::optional<Finding> fromCache(const std::string& text) try {
    thread_local simdjson::dom::parser parser;
    const CacheJson j(parser.parse(text).value());
    if (j.at("method").get<int>() != kMethodVersion)
        return std::nullopt;
    Finding f;
    f.kind = kindFromKey(j.at("kind").get<std::string>()).value();
    const WorkingsIn workings(j.at("workings"));
    for (const CacheJson w : j.at("figures").list())
        f.figures.push_back(workings.at(w));
    for (const CacheJson w : j.at("warnings").list())
        f.warnings.push_back({w.at("code").get<std::string>(), w.at("text").get<std::string>()});
    j.at("sentence").getTo(f.sentence);
    if (hasSheet(f.kind)) {
        const CacheJson through = j.at("through");
        f.ends.began = knownFrom(through.at("began"));
        f.ends.ended = knownFrom(through.at("ended"));
        f.durationSeconds = through.at("seconds").get<double>();
        f.fills = through.at("fills").get<bool>();
        return f;
    }
    f.samples = j.at("samples").get<std::size_t>();
    f.skippedLines = j.at("skipped_lines").get<std::size_t>();
    f.durationSeconds = j.at("duration_s").get<double>();
    f.onSeconds = j.at("on_s").get<double>();
    f.wattHours = figureValue(f, key::energyWh).value();
    f.milliampHours = figureValue(f, key::chargeMah);
    f.meanVolts = figureValue(f, key::meanVolts);
    f.meanWatts = figureValue(f, key::meanWatts).value_or(Measured(0.0));
    f.peakWatts = j.at("peak_watts").get<double>();
    f.point = path::pointFromName(j.at("point").get<std::string>()).value();
    f.portWattHours = figureValue(f, key::energyAtPortWh).value();
    f.referred = j.at("referred").get<bool>();
    f.ratedWattHours = numberOrNothing(j.at("rated_wh"));
    for (const CacheJson g : j.at("gaps").list())
        f.gaps.push_back({g.at("from_s").get<double>(), g.at("to_s").get<double>(), g.at("bridged").get<bool>(),
                          g.at("energy_wh").get<double>(), 0.0});
    for (const CacheJson p : j.at("phases").list())
        f.phases.push_back({phaseFromName(p.at("name").get<std::string>()).value(), p.at("from_s").get<double>(),
                            p.at("to_s").get<double>(), p.at("energy_wh").get<double>()});
    for (const CacheJson c : j.at("tier_changes").list())
        f.tierChanges.push_back(
            {c.at("at_s").get<double>(), c.at("from_volts").get<double>(), c.at("to_volts").get<double>()});
    for (const CacheJson w : j.at("withheld").list())
        f.withheld.push_back({w.at("place").get<std::size_t>(), workings.at(w.at("figure"))});
    f.seen = seenFrom(j.at("seen"));
    f.ends = endsFrom(j);
    std::size_t piece = 0;
    for (std::string SaidOfRun::*said : {&SaidOfRun::amount, &SaidOfRun::amountInWh, &SaidOfRun::share,
                                         &SaidOfRun::time, &SaidOfRun::timeTo80, &SaidOfRun::restsOn})
        j.at("said").at(piece++).getTo(f.said.*said);
    readAlongThePath(j, workings, f);
    f.plateauAmps = j.at("plateau").at(0).get<double>();
    f.plateauVolts = j.at("plateau").at(1).get<double>();
    f.plateauPower = j.at("plateau").at(2).get<double>();
    if (const CacheJson g = j.at("gauge"); !g.isNull()) {
        f.gauge.emplace();
        for (const CacheJson p : g.at("points").list())
            f.gauge->points.push_back({p.at("at_s").get<double>(), p.at("said_low").get<double>(),
                                       p.at("said_high").get<double>(), p.at("true_percent").get<double>()});
        for (const GaugePoint& p : f.gauge->points) {
            if (std::fabs(p.error()) >= std::fabs(f.gauge->worst.error()))
                f.gauge->worst = p;
        }
        f.gauge->zeroAt = numberOrNothing(g.at("zero_at_s"));
        f.gauge->reserve = figureValue(f, key::reserveWh);
    }
    if (const CacheJson h = j.at("heat"); !h.isNull()) {
        f.heat = HeatFinding{h.at("hottest_c").get<double>(), numberOrNothing(h.at("ambient_c")),
                             h.at("ambient_stated").get<bool>(), std::nullopt, std::nullopt};
        if (const CacheJson m = j.at("heat_measured"); !m.isNull()) {
            f.heat->rise = measuredFrom(m.at(0));
            f.heat->seconds = measuredFrom(m.at(1));
        }
    }
    if (f.kind == Kind::Drain) {
        DrainFinding d;
        d.deliveredShare = figureValue(f, key::deliveredShare);
        d.equivalentMah = figureValue(f, key::equivalentMah);
        const int by = j.at("ended_by_exactly").get<int>();
        if (by < 0 || by > static_cast<int>(trace::EndedBy::User))
            return std::nullopt;
        d.endedBy = static_cast<trace::EndedBy>(by);
        readStretches(j.at("interruptions"), d.interruptions);
        readStretches(j.at("pauses"), d.pauses);
        d.activeSeconds = j.at("active_s").get<double>();
        d.projectedWattHours = figureValue(f, key::projectedWh);
        j.at("restarts").getTo(d.restarts);
        d.transferred = figureValue(f, key::transferredShare);
        f.drain = d;
    } else {
        RechargeFinding r;
        r.timeTo50 = figureValue(f, key::timeTo50);
        r.timeTo80 = figureValue(f, key::timeTo80);
        r.timeTo100 = figureValue(f, key::timeTo100);
        r.bulkSeconds = j.at("bulk_s").get<double>();
        r.taperSeconds = j.at("taper_s").get<double>();
        r.endOfCharge = numberOrNothing(j.at("end_of_charge_s"));
        r.brokeOff = numberOrNothing(j.at("broke_off_s"));
        r.plateauWatts = figureValue(f, key::plateauWatts).value();
        readStretches(j.at("throttles"), r.throttles);
        readStretches(j.at("stops"), r.stops);
        j.at("restarts").getTo(r.restarts);
        j.at("claim_not_tested").getTo(r.claimNotTested);
        r.againstClaim = numberOrNothing(j.at("against_claim"));
        r.againstDisplay = numberOrNothing(j.at("against_display"));
        r.untilEndWattHours = measuredFrom(j.at("until_end"));
        if (!j.at("wall").isNull())
            r.wallWattHours = measuredFrom(j.at("wall"));
        r.idleWatts = numberOrNothing(j.at("idle_watts"));
        r.claimTested = j.at("claim_tested").get<bool>();
        f.recharge = r;
    }
    return f;
} catch (const std::exception&) {
    return std::nullopt; // a cache is only a cache: worked out anew
}

} // namespace otterstone::kinds
