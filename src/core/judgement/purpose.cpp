#include "core/judgement/purpose.h"

#include <algorithm>
#include <cmath>

#include "core/judgement/figure_keys.h"
#include "core/quantity/json_text.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

using nlohmann::json;

const std::vector<Purpose>& purposes() {
    const Gate cabin{fig::flight, {"carry-on"}, {}, {}, say("must fly in the cabin without asking")};
    static const std::vector<Purpose> kAll = {
        {"plane",
         say("Carry on a plane"),
         say("As much as may be carried, for little weight and room."),
         {cabin},
         {{fig::usableGentle, 0.0, 80.0, 3.0},
          {fig::whPerKg, 80.0, 200.0, 2.0},
          {fig::whPerLitre, 150.0, 400.0, 1.0},
          {fig::recharge80, 4.0 * 3600.0, 3600.0, 1.0},
          {fig::deliveredShare, 0.55, 0.90, 1.0}}},
        {"computer",
         say("Computer day"),
         say("Keeps a computer going: watts on one port, and much of it at high load."),
         {{fig::wattsAlone, {}, 40.0, {}, say("must give 40 W on one port")}},
         {{fig::usableNearFull, 30.0, 90.0, 3.0},
          {fig::wattsAlone, 40.0, 100.0, 2.0},
          {fig::heat25, 60.0, 35.0, 1.0},
          {fig::recharge80, 3.0 * 3600.0, 3600.0, 1.0},
          {fig::weight, 700.0, 300.0, 1.0}}},
        {"small",
         say("Many small devices"),
         say("Several at once, for days."),
         {},
         {{fig::usableGentle, 10.0, 90.0, 3.0},
          {fig::wattsShared, 10.0, 60.0, 2.0},
          {fig::pricePerWh, 3.0, 0.8, 1.0},
          {fig::gaugeError, 0.25, 0.0, 0.5}}},
        {"overnight",
         say("Overnight at low power"),
         say("Runs a small thing through the night, and tells truly what is left."),
         {},
         {{fig::usableGentle, 10.0, 90.0, 2.0},
          {fig::deliveredShare, 0.55, 0.90, 2.0},
          {fig::gaugeError, 0.25, 0.0, 1.0},
          {fig::pricePerWh, 3.0, 0.8, 1.0}}},
        {"fast",
         say("Fastest turn-round"),
         say("Soon ready again."),
         {},
         {{fig::recharge80, 4.0 * 3600.0, 1800.0, 3.0},
          {fig::recharge100, 6.0 * 3600.0, 3600.0, 1.0},
          {fig::usableNearFull, 10.0, 90.0, 1.0},
          {fig::wattsAlone, 10.0, 65.0, 1.0}}},
    };
    return kAll;
}

const Purpose* purposeNamed(std::string_view key) {
    const auto& all = purposes();
    const auto at = std::find_if(all.begin(), all.end(), [&](const Purpose& p) { return p.key == key; });
    return at == all.end() ? nullptr : &*at;
}

std::string purposeToJson(const Purpose& p) {
    json all = {
        {"key", p.key}, {"name", p.words}, {"about", p.about}, {"gates", json::array()}, {"scales", json::array()}};
    for (const Gate& g : p.gates) {
        json gate = {{"figure", g.figure}, {"words", g.words}};
        if (!g.codes.empty())
            gate["one_of"] = g.codes;
        if (g.least)
            gate["at_least"] = *g.least;
        if (g.most)
            gate["at_most"] = *g.most;
        all["gates"].push_back(std::move(gate));
    }
    for (const Scale& s : p.scales)
        all["scales"].push_back({{"figure", s.figure}, {"worst", s.worst}, {"best", s.best}, {"weight", s.weight}});
    return jsonText(all, 1);
}

Result<Purpose> purposeFromJson(std::string_view text, std::string_view place) {
    const auto bad = [&](Spoken what, Spoken mend) {
        return problem("bad_purpose", std::string(place), std::move(what), std::move(mend));
    };
    const auto parsed = parseJson(text, std::string(place));
    if (!parsed || !parsed->is_object())
        return bad("this is not a purpose in JSON.", "`otterstone-cli choose --show plane` prints one to begin with.");
    const json& all = *parsed;
    try {
        Purpose p;
        p.key = all.value("key", "own");
        p.words = all.value("name", "Own");
        p.about = all.value("about", "");
        for (const json& g : all.value("gates", json::array())) {
            Gate gate;
            gate.figure = g.at("figure");
            gate.words = g.value("words", "");
            gate.codes = g.value("one_of", std::vector<std::string>{});
            for (std::string& code : gate.codes) // older purposes name a class by its words
                std::ranges::replace(code, ' ', '_');
            if (g.contains("at_least"))
                gate.least = g.at("at_least").get<double>();
            if (g.contains("at_most"))
                gate.most = g.at("at_most").get<double>();
            if (!figureKind(gate.figure))
                return bad(say("there is no figure \"{}\" to be a gate.", gate.figure),
                           "`otterstone-cli choose --figures` lists them.");
            if (gate.codes.empty() && !gate.least && !gate.most)
                return bad(say("the gate on \"{}\" asks for nothing.", gate.figure),
                           "Give it one_of, at_least or at_most.");
            p.gates.push_back(std::move(gate));
        }
        for (const json& s : all.value("scales", json::array())) {
            const Scale scale{s.at("figure"), s.at("worst"), s.at("best"), s.value("weight", 1.0)};
            const FigureKind* kind = figureKind(scale.figure);
            if (!kind || kind->better == Better::Neither)
                return bad(say("\"{}\" is no figure that can be weighed.", scale.figure),
                           "`otterstone-cli choose --figures` lists them.");
            if (!std::isfinite(scale.worst) || !std::isfinite(scale.best) || scale.worst == scale.best ||
                !(scale.weight > 0.0))
                return bad(say("the scale of \"{}\" needs two different anchors and a weight above 0.", scale.figure),
                           "");
            p.scales.push_back(scale);
        }
        if (p.scales.empty())
            return bad("it weighs nothing.", "Give it at least one of scales.");
        return p;
    } catch (const json::exception& e) {
        return bad(std::string("a value is missing or of the wrong kind: ") + e.what(),
                   "`otterstone-cli choose --show plane` prints one to begin with.");
    }
}

} // namespace otterstone::judgement
