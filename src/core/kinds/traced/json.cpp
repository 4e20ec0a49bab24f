#include "core/kinds/traced/json.h"
#include "core/kinds/figure_keys.h"
#include "core/kinds/traced/working_json.h"

#include <algorithm>
#include <cmath>

#include <nlohmann/json.hpp>

namespace otterstone::kinds {

using nlohmann::json;

namespace {

json valueOrNull(const std::optional<Measured>& m) { return m ? json(m->value()) : json(nullptr); }
json expandedOrNull(const std::optional<Measured>& m) { return m ? json(m->expanded()) : json(nullptr); }

json stretches(const std::vector<trace::Stretch>& list) {
    json out = json::array();
    for (const trace::Stretch& s : list)
        out.push_back({{"from_s", s.from}, {"to_s", s.to}});
    return out;
}

json stateJson(const std::optional<KnownState>& s) {
    if (!s)
        return {{"state", "unknown"}, {"percent_low", nullptr}, {"percent_high", nullptr}, {"from", nullptr}};
    return {{"state", stateKey(s->state)},
            {"percent_low", s->state.low},
            {"percent_high", s->state.high},
            {"from", fromKey(s->from)}};
}

void endsKeys(const Ends& ends, json& out) {
    out["began"] = stateJson(ends.began);
    out["ended"] = stateJson(ends.ended);
    out["ending"] = endingKey(ends.ending);
    out["device_began"] = stateJson(ends.deviceBegan);
    out["device_ended"] = stateJson(ends.deviceEnded);
    out["questions"] = json::array();
    for (const Question& q : ends.questions) {
        json answers = json::array();
        for (const Answer& a : q.answers)
            answers.push_back({{"key", a.key}, {"text", a.text}});
        out["questions"].push_back({{"key", q.key}, {"text", q.sentence}, {"answers", answers}});
    }
}

// The contract's four words.
const char* endedByKey(Ending ending) {
    switch (ending) {
    case Ending::CutOff:
    case Ending::Heat: return "cutoff"; // `stopped_by_heat` among the warnings says more
    case Ending::OverCurrent: return "overcurrent";
    case Ending::DeviceFull:
    case Ending::LoadStopped:
    case Ending::Unplugged: return "user";
    default: return "unknown";
    }
}

void drainKeys(const DrainFinding& d, json& out) {
    out["delivered_share"] = valueOrNull(d.deliveredShare);
    out["delivered_share_u"] = expandedOrNull(d.deliveredShare);
    out["equivalent_mah"] = valueOrNull(d.equivalentMah);
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
    out["stops"] = json::array();
    for (std::size_t k = 0; k < r.stops.size(); ++k)
        out["stops"].push_back({{"from_s", r.stops[k].from}, {"to_s", r.stops[k].to}, {"restart", r.restarts[k]}});
    out["against_claim"] = orNull(r.againstClaim);
    out["against_display"] = orNull(r.againstDisplay);
    out["energy_until_end_wh"] = r.untilEndWattHours.value();
    out["wall_wh"] = valueOrNull(r.wallWattHours);
    out["idle_watts"] = orNull(r.idleWatts);
    out["claim_tested"] = r.claimTested;
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

json pointsJson(const Finding& f) {
    json points = json::array();
    for (const PointFigure& p : f.points) {
        json j{{"point", path::pointName(p.point)},
               {"read", p.read},
               {"display", p.byDisplay},
               {"energy_wh", p.energy.value.value()},
               {"energy_u_wh", p.energy.value.expanded()}};
        points.push_back(std::move(j));
    }
    return points;
}

json linksJson(const Finding& f) {
    json links = json::array();
    for (const LinkFigure& l : f.links) {
        json j{{"from", path::pointName(l.from)},
               {"to", path::pointName(l.to)},
               {"gear", l.name},
               {"loss_wh", orNull(l.lossWattHours)},
               {"ohms", l.ohms ? json(l.ohms->value.value()) : json(nullptr)},
               {"ohms_u", l.ohms ? json(l.ohms->value.expanded()) : json(nullptr)}};
        links.push_back(std::move(j));
    }
    return links;
}

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
            if (w.value.hasDoubt() && !w.partialDoubt)
                figure["u"] = w.value.expanded();
        }
        out["figures"].push_back(std::move(figure));
    }
    for (const Warning& w : f.warnings)
        out["warnings"].push_back({{"code", w.code}, {"text", w.text}});
    return out;
}

} // namespace

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
    out["points"] = pointsJson(f);
    out["links"] = linksJson(f);
    out["gauge"] = gaugeJson(answers(f, key::gaugeError) ? f.gauge : std::nullopt);
    out["heat"] = heatJson(f.heat);
    out["sentence"] = f.sentence;
    endsKeys(f.ends, out);
    if (f.drain) {
        drainKeys(*f.drain, out);
        out["ended_by"] = endedByKey(f.ends.ending);
    }
    if (f.recharge)
        rechargeKeys(*f.recharge, out);
    return out;
}

} // namespace otterstone::kinds
