#include "core/kinds/traced/json.h"
#include "core/setup/method.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <nlohmann/json.hpp>

namespace otterstone::kinds {

using nlohmann::json;

namespace {

json orNull(const std::optional<double>& v) { return v ? json(*v) : json(nullptr); }
json valueOrNull(const std::optional<Measured>& m) { return m ? json(m->value()) : json(nullptr); }
json expandedOrNull(const std::optional<Measured>& m) { return m ? json(m->expanded()) : json(nullptr); }

json stretches(const std::vector<trace::Stretch>& list) {
    json out = json::array();
    for (const trace::Stretch& s : list)
        out.push_back({{"from_s", s.from}, {"to_s", s.to}});
    return out;
}

void drainKeys(const DrainFinding& d, json& out) {
    out["delivered_share"] = valueOrNull(d.deliveredShare);
    out["delivered_share_u"] = expandedOrNull(d.deliveredShare);
    out["equivalent_mah"] = valueOrNull(d.equivalentMah);
    // Heat is a cut-off to whoever reads the contract's four words; `stopped_by_heat` among the warnings says more.
    out["ended_by"] = d.endedBy == trace::EndedBy::Heat ? "cutoff" : trace::endedByKey(d.endedBy);
    out["interruptions"] = stretches(d.interruptions);
    out["pauses"] = stretches(d.pauses);
    out["active_s"] = d.activeSeconds;
    out["projected_wh"] = valueOrNull(d.projectedWattHours);
    out["projected_u_wh"] = expandedOrNull(d.projectedWattHours);
    out["restarts"] = d.restarts;
    out["transferred_share"] = valueOrNull(d.transferred);
}

void rechargeKeys(const RechargeFinding& r, json& out) {
    out["time_to_s"] = {
        {"50", valueOrNull(r.timeTo50)}, {"80", valueOrNull(r.timeTo80)}, {"100", valueOrNull(r.timeTo100)}};
    out["time_to_u_s"] = {
        {"50", expandedOrNull(r.timeTo50)}, {"80", expandedOrNull(r.timeTo80)}, {"100", expandedOrNull(r.timeTo100)}};
    out["bulk_s"] = r.bulkSeconds;
    out["taper_s"] = r.taperSeconds;
    out["end_of_charge_s"] = orNull(r.endOfCharge);
    out["plateau_watts"] = r.plateauWatts.value();
    out["plateau_u_watts"] = r.plateauWatts.expanded();
    out["broke_off_s"] = orNull(r.brokeOff);
    out["throttles"] = stretches(r.throttles);
    out["against_claim"] = orNull(r.againstClaim);
    out["against_display"] = orNull(r.againstDisplay);
    out["energy_until_end_wh"] = r.untilEndWattHours.value();
    out["wall_wh"] = valueOrNull(r.wallWattHours);
    out["idle_watts"] = orNull(r.idleWatts);
    out["claim_tested"] = r.claimTested;
}

json measuredJson(const Measured& m) {
    json parts = json::array();
    for (const Contribution& c : m.contributions())
        parts.push_back({{"scope", scopeKey(c.source.scope)},
                         {"id", c.source.id},
                         {"what", c.source.what},
                         {"near", c.source.near},
                         {"u", c.u},
                         {"dof", std::isfinite(c.dof) ? json(c.dof) : json(nullptr)}});
    return {{"value", m.value()}, {"parts", parts}};
}

ErrorSource sourceFrom(const json& j) {
    ErrorSource s{Scope::Bench, j.at("id").get<std::string>(), j.at("what").get<std::string>(),
                  j.at("near").get<std::string>()};
    for (const Scope scope : {Scope::Run, Scope::Instrument, Scope::Bench, Scope::Bank}) {
        if (scopeKey(scope) == j.at("scope").get<std::string>())
            s.scope = scope;
    }
    return s;
}

Measured measuredFrom(const json& j) {
    Measured m(j.at("value").get<double>());
    for (const json& part : j.at("parts")) {
        const json& dof = part.at("dof");
        m = m.with(sourceFrom(part), part.at("u").get<double>(),
                   dof.is_null() ? std::numeric_limits<double>::infinity() : dof.get<double>());
    }
    return m;
}

json workingJson(const Working& w) {
    json parts = json::array(), others = json::array();
    for (const Working& p : w.parts)
        parts.push_back(workingJson(p));
    for (const Working& o : w.others)
        others.push_back(workingJson(o));
    return {{"key", w.key},
            {"label", w.label},
            {"formula", w.formula},
            {"value", measuredJson(w.value)},
            {"unit", w.unit},
            {"point", w.point},
            {"note", w.note},
            {"text", w.isText},
            {"partial", w.partialDoubt},
            {"question", w.question},
            {"school", w.school},
            {"others", others},
            {"parts", parts},
            {"shown", w.shown()}};
}

Working workingFrom(const json& j) {
    Working w;
    j.at("key").get_to(w.key);
    j.at("label").get_to(w.label);
    j.at("formula").get_to(w.formula);
    w.value = measuredFrom(j.at("value"));
    w.unit = j.at("unit").get<Unit>();
    j.at("point").get_to(w.point);
    j.at("note").get_to(w.note);
    j.at("text").get_to(w.isText);
    j.at("partial").get_to(w.partialDoubt);
    j.at("question").get_to(w.question);
    j.at("school").get_to(w.school);
    for (const json& p : j.at("parts"))
        w.parts.push_back(workingFrom(p));
    for (const json& o : j.at("others"))
        w.others.push_back(workingFrom(o));
    return w;
}

std::optional<trace::PhaseKind> phaseFromName(const std::string& name) {
    for (int k = 0; k <= static_cast<int>(trace::PhaseKind::Off); ++k) {
        if (trace::phaseName(static_cast<trace::PhaseKind>(k)) == name)
            return static_cast<trace::PhaseKind>(k);
    }
    return std::nullopt;
}

void readStretches(const json& j, std::vector<trace::Stretch>& out) {
    for (const json& s : j)
        out.push_back({s.at("from_s").get<double>(), s.at("to_s").get<double>()});
}

std::optional<Measured> figureValue(const Finding& f, std::string_view key) {
    const Working* w = figure(f, key);
    return w && !w->isText ? std::optional(w->value) : std::nullopt;
}

json gaugeJson(const std::optional<GaugeFinding>& gauge) {
    if (!gauge)
        return nullptr;
    json points = json::array();
    for (const GaugePoint& p : gauge->points)
        points.push_back({{"at_s", p.at},
                          {"said_low", p.saidLow},
                          {"said_high", p.saidHigh},
                          {"true_percent", p.truePercent},
                          {"error", p.error()}});
    return {{"points", points},
            {"worst_error", gauge->worst.error()},
            {"zero_at_s", orNull(gauge->zeroAt)},
            {"reserve_wh", valueOrNull(gauge->reserve)}};
}

json heatJson(const std::optional<HeatFinding>& heat) {
    if (!heat)
        return nullptr;
    return {{"hottest_c", heat->hottest},
            {"ambient_c", orNull(heat->ambient)},
            {"ambient_stated", heat->ambientStated},
            {"rise_k", valueOrNull(heat->rise)},
            {"rise_u_k", expandedOrNull(heat->rise)},
            {"tau_s", valueOrNull(heat->seconds)},
            {"at_25_c", valueOrNull(heat->at25())}};
}

json pointsJson(const Finding& f, bool withWorkings) {
    json points = json::array();
    for (const PointFigure& p : f.points) {
        json j{{"point", path::pointName(p.point)},
               {"read", p.read},
               {"display", p.byDisplay},
               {"energy_wh", p.energy.value.value()},
               {"energy_u_wh", p.energy.value.expanded()}};
        if (withWorkings)
            j["working"] = workingJson(p.energy);
        points.push_back(std::move(j));
    }
    return points;
}

json linksJson(const Finding& f, bool withWorkings) {
    json links = json::array();
    for (const LinkFigure& l : f.links) {
        json j{{"from", path::pointName(l.from)},
               {"to", path::pointName(l.to)},
               {"gear", l.name},
               {"loss_wh", orNull(l.lossWattHours)},
               {"ohms", l.ohms ? json(l.ohms->value.value()) : json(nullptr)},
               {"ohms_u", l.ohms ? json(l.ohms->value.expanded()) : json(nullptr)}};
        if (withWorkings && l.ohms)
            j["working"] = workingJson(*l.ohms);
        links.push_back(std::move(j));
    }
    return links;
}

void readAlongThePath(const json& j, Finding& f) {
    for (const json& p : j.at("points"))
        f.points.push_back({path::pointFromName(p.at("point").get<std::string>()).value(), p.at("read").get<bool>(),
                            p.at("display").get<bool>(), workingFrom(p.at("working"))});
    for (const json& l : j.at("links")) {
        LinkFigure link{path::pointFromName(l.at("from").get<std::string>()).value(),
                        path::pointFromName(l.at("to").get<std::string>()).value(), l.at("gear").get<std::string>(),
                        std::nullopt, std::nullopt};
        if (!l.at("loss_wh").is_null())
            link.lossWattHours = l.at("loss_wh").get<double>();
        if (l.contains("working"))
            link.ohms = workingFrom(l.at("working"));
        f.links.push_back(std::move(link));
    }
}

std::optional<double> numberOrNothing(const json& j) {
    return j.is_null() ? std::nullopt : std::optional(j.get<double>());
}

} // namespace

namespace {

// What a sheet says: no samples, no energy; its figures are the whole of it.
json sheetContract(const Finding& f) {
    json out{
        {"kind", kindKey(f.kind)}, {"sentence", f.sentence}, {"figures", json::array()}, {"warnings", json::array()}};
    for (const Working& w : f.figures) {
        json figure{{"key", w.key},   {"label", w.label},       {"point", w.point},
                    {"note", w.note}, {"formula", w.formula},   {"value", nullptr},
                    {"u", nullptr},   {"unit", symbol(w.unit)}, {"shown", w.shown()}};
        if (!w.isText) {
            figure["value"] = w.value.value();
            if (w.value.hasDoubt())
                figure["u"] = w.value.expanded();
        }
        out["figures"].push_back(std::move(figure));
    }
    for (const Warning& w : f.warnings)
        out["warnings"].push_back({{"code", w.code}, {"text", w.text}});
    return out;
}

} // namespace

json toContract(const Finding& f) {
    if (hasSheet(f.kind))
        return sheetContract(f);
    json out;
    out["kind"] = kindKey(f.kind);
    out["samples"] = f.samples;
    out["skipped_lines"] = f.skippedLines;
    out["duration_s"] = f.durationSeconds;
    out["energy_wh"] = f.wattHours.value();
    out["energy_u_wh"] = f.wattHours.expanded();
    out["charge_mah"] = valueOrNull(f.milliampHours);
    out["mean_volts"] = valueOrNull(f.meanVolts);
    out["mean_watts"] = f.meanWatts.value();
    out["peak_watts"] = f.peakWatts;
    out["point"] = path::pointName(f.point);
    out["energy_at_port_wh"] = f.portWattHours.value();
    out["energy_at_port_u_wh"] = f.portWattHours.expanded();
    out["rated_wh"] = orNull(f.ratedWattHours);
    json gaps = json::array();
    for (const trace::Gap& g : f.gaps)
        gaps.push_back({{"from_s", g.from}, {"to_s", g.to}, {"bridged", g.bridged}, {"energy_wh", g.wattHours}});
    out["gaps"] = gaps;
    json phases = json::array();
    for (const trace::Phase& p : f.phases)
        phases.push_back(
            {{"name", trace::phaseName(p.kind)}, {"from_s", p.from}, {"to_s", p.to}, {"energy_wh", p.wattHours}});
    out["phases"] = phases;
    json tiers = json::array();
    for (const trace::TierChange& c : f.tierChanges)
        tiers.push_back({{"at_s", c.at}, {"from_volts", c.fromVolts}, {"to_volts", c.toVolts}});
    out["tier_changes"] = tiers;
    json warnings = json::array();
    for (const Warning& w : f.warnings)
        warnings.push_back({{"code", w.code}, {"text", w.text}});
    out["warnings"] = warnings;
    out["points"] = pointsJson(f, false);
    out["links"] = linksJson(f, false);
    out["gauge"] = gaugeJson(f.gauge);
    out["heat"] = heatJson(f.heat);
    out["sentence"] = f.sentence;
    if (f.drain)
        drainKeys(*f.drain, out);
    if (f.recharge)
        rechargeKeys(*f.recharge, out);
    return out;
}

json toCache(const Finding& f) {
    json out = toContract(f);
    out["method"] = kMethodVersion;
    out["referred"] = f.referred;
    json figures = json::array();
    for (const Working& w : f.figures)
        figures.push_back(workingJson(w));
    out["figures"] = figures;
    if (hasSheet(f.kind))
        return out;
    out["points"] = pointsJson(f, true);
    out["links"] = linksJson(f, true);
    out["plateau"] = {f.plateauAmps, f.plateauVolts, f.plateauPower};
    out["on_s"] = f.onSeconds;
    out["heat_measured"] =
        f.heat && f.heat->rise ? json{measuredJson(*f.heat->rise), measuredJson(*f.heat->seconds)} : json(nullptr);
    if (f.recharge) {
        out["until_end"] = measuredJson(f.recharge->untilEndWattHours);
        out["wall"] = f.recharge->wallWattHours ? measuredJson(*f.recharge->wallWattHours) : json(nullptr);
    }
    if (f.drain)
        out["ended_by_exactly"] = static_cast<int>(f.drain->endedBy);
    return out;
}

std::optional<Finding> fromCache(const json& j) try {
    if (j.at("method").get<int>() != kMethodVersion)
        return std::nullopt;
    Finding f;
    f.kind = kindFromKey(j.at("kind").get<std::string>()).value();
    for (const json& w : j.at("figures"))
        f.figures.push_back(workingFrom(w));
    for (const json& w : j.at("warnings"))
        f.warnings.push_back({w.at("code").get<std::string>(), w.at("text").get<std::string>()});
    j.at("sentence").get_to(f.sentence);
    if (hasSheet(f.kind))
        return f;
    f.samples = j.at("samples").get<std::size_t>();
    f.skippedLines = j.at("skipped_lines").get<std::size_t>();
    f.durationSeconds = j.at("duration_s").get<double>();
    f.onSeconds = j.at("on_s").get<double>();
    f.wattHours = figureValue(f, "energy_wh").value();
    f.milliampHours = figureValue(f, "charge_mah");
    f.meanVolts = figureValue(f, "mean_volts");
    f.meanWatts = figureValue(f, "mean_watts").value_or(Measured(0.0));
    f.peakWatts = j.at("peak_watts").get<double>();
    f.point = path::pointFromName(j.at("point").get<std::string>()).value();
    f.portWattHours = figureValue(f, "energy_at_port_wh").value();
    f.referred = j.at("referred").get<bool>();
    f.ratedWattHours = numberOrNothing(j.at("rated_wh"));
    for (const json& g : j.at("gaps"))
        f.gaps.push_back({g.at("from_s").get<double>(), g.at("to_s").get<double>(), g.at("bridged").get<bool>(),
                          g.at("energy_wh").get<double>(), 0.0});
    for (const json& p : j.at("phases"))
        f.phases.push_back({phaseFromName(p.at("name").get<std::string>()).value(), p.at("from_s").get<double>(),
                            p.at("to_s").get<double>(), p.at("energy_wh").get<double>()});
    for (const json& c : j.at("tier_changes"))
        f.tierChanges.push_back(
            {c.at("at_s").get<double>(), c.at("from_volts").get<double>(), c.at("to_volts").get<double>()});
    readAlongThePath(j, f);
    f.plateauAmps = j.at("plateau").at(0).get<double>();
    f.plateauVolts = j.at("plateau").at(1).get<double>();
    f.plateauPower = j.at("plateau").at(2).get<double>();
    if (const json& g = j.at("gauge"); !g.is_null()) {
        f.gauge.emplace();
        for (const json& p : g.at("points"))
            f.gauge->points.push_back({p.at("at_s").get<double>(), p.at("said_low").get<double>(),
                                       p.at("said_high").get<double>(), p.at("true_percent").get<double>()});
        for (const GaugePoint& p : f.gauge->points) {
            if (std::fabs(p.error()) >= std::fabs(f.gauge->worst.error()))
                f.gauge->worst = p;
        }
        f.gauge->zeroAt = numberOrNothing(g.at("zero_at_s"));
        f.gauge->reserve = figureValue(f, "reserve_wh");
    }
    if (const json& h = j.at("heat"); !h.is_null()) {
        f.heat = HeatFinding{h.at("hottest_c").get<double>(), numberOrNothing(h.at("ambient_c")),
                             h.at("ambient_stated").get<bool>(), std::nullopt, std::nullopt};
        if (const json& m = j.at("heat_measured"); !m.is_null()) {
            f.heat->rise = measuredFrom(m.at(0));
            f.heat->seconds = measuredFrom(m.at(1));
        }
    }
    if (f.kind == Kind::Drain) {
        DrainFinding d;
        d.deliveredShare = figureValue(f, "delivered_share");
        d.equivalentMah = figureValue(f, "equivalent_mah");
        const int by = j.at("ended_by_exactly").get<int>();
        if (by < 0 || by > static_cast<int>(trace::EndedBy::User))
            return std::nullopt;
        d.endedBy = static_cast<trace::EndedBy>(by);
        readStretches(j.at("interruptions"), d.interruptions);
        readStretches(j.at("pauses"), d.pauses);
        d.activeSeconds = j.at("active_s").get<double>();
        d.projectedWattHours = figureValue(f, "projected_wh");
        j.at("restarts").get_to(d.restarts);
        d.transferred = figureValue(f, "transferred_share");
        f.drain = d;
    } else {
        RechargeFinding r;
        r.timeTo50 = figureValue(f, "time_to_50");
        r.timeTo80 = figureValue(f, "time_to_80");
        r.timeTo100 = figureValue(f, "time_to_100");
        r.bulkSeconds = j.at("bulk_s").get<double>();
        r.taperSeconds = j.at("taper_s").get<double>();
        r.endOfCharge = numberOrNothing(j.at("end_of_charge_s"));
        r.brokeOff = numberOrNothing(j.at("broke_off_s"));
        r.plateauWatts = figureValue(f, "plateau_watts").value();
        readStretches(j.at("throttles"), r.throttles);
        r.againstClaim = numberOrNothing(j.at("against_claim"));
        r.againstDisplay = numberOrNothing(j.at("against_display"));
        r.untilEndWattHours = measuredFrom(j.at("until_end"));
        if (!j.at("wall").is_null())
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
