#include "book/demo/demo_sheets.h"

#include <algorithm>

#include <nlohmann/json.hpp>

#include "core/label/usb_facts.h"
#include "core/model/hands.h"
#include "core/path/bottleneck.h"
#include "core/path/cable.h"

namespace otterstone::book {

namespace {

using records::Kind;

std::size_t portNamed(const model::Bank& bank, const std::string& name) {
    for (std::size_t k = 0; k < bank.ports.size(); ++k) {
        if (bank.ports[k].name == name)
            return k;
    }
    return 0;
}

model::Charger chargerOf(const Gear& g) {
    model::Charger c;
    c.watts = g.watts.value_or(18.0);
    c.tiers = g.tiers.empty() ? path::powerRuleTiers(Watts(c.watts)) : g.tiers;
    return c;
}

model::Cable cableOf(const Gear& g) {
    const double ohms = g.ohms              ? g.ohms->value
                        : g.awg && g.metres ? path::estimatedLoop(*g.awg, *g.metres).value.value()
                                            : 0.1;
    return {ohms, label::usbFact(g.marked ? label::Fact::CableMarked : label::Fact::CableUnmarked)};
}

const Gear* byId(const std::vector<Gear>& all, std::optional<Id> id) {
    const auto at = std::find_if(all.begin(), all.end(), [&](const Gear& g) { return id && g.id == *id; });
    return at == all.end() ? nullptr : &*at;
}

} // namespace

Run demoRunOf(const nlohmann::json& j) {
    Run r;
    r.kind = records::kindFromKey(j.at("kind").get<std::string>()).value();
    r.title = j.at("title");
    r.startedAt = j.at("started_at");
    for (const Stretch& s : kStretches) {
        if (j.contains(s.key))
            r.*(s.piece) = j.at(s.key).get<Id>();
    }
    return r;
}

Run demoSheet(const nlohmann::json& j, const label::Label& label, const model::Bank& truth,
              const std::vector<Gear>& gear, const std::function<model::Bank(const std::string&)>& truthOf) {
    Run r = demoRunOf(j);
    r.logName = "hands at the simulated bench";
    model::Tools tools;
    tools.ambient = 17.0;
    if (const Gear* cable = byId(gear, r.cable))
        tools.cable = cableOf(*cable);
    tools.cable.amps = label::usbFact(label::Fact::CableMarked);
    if (const Gear* charger = byId(gear, r.charger))
        tools.charger = chargerOf(*charger);
    const std::size_t port = portNamed(truth, j.value("port", ""));
    if (j.contains("text")) { // written down as it stands in the scenario
        std::string text;
        for (const auto& line : j.at("text"))
            text += line.get<std::string>() + "\n";
        r.sheet = kinds::sheetFromText(r.kind, text);
        return r;
    }
    switch (r.kind) {
    case Kind::Survey: r.sheet = model::surveyByHand(truth, label, tools); break;
    case Kind::Staircase: r.sheet = model::staircaseByHand(truth, port, j.at("volts"), j.at("amps"), tools); break;
    case Kind::Sharing: r.sheet = model::sharingByHand(truth, tools); break;
    case Kind::PassThrough:
        r.sheet = model::passThroughByHand(truth, portNamed(truth, j.at("in")), portNamed(truth, j.at("out")), tools);
        break;
    case Kind::LightLoad:
        r.sheet = model::lightLoadByHand(truth, port, tools, 150.0, j.value("low_mode", false));
        break;
    case Kind::Directions:
        r.sheet = model::directionsByHand(truth, port, truthOf(j.at("other")), j.at("other"), tools);
        break;
    case Kind::Matrix: {
        std::vector<model::NamedCharger> chargers;
        std::vector<model::NamedCable> cables;
        for (const Gear& g : gear) {
            if (g.kind == GearKind::Charger)
                chargers.push_back({g.name, chargerOf(g)});
            else if (g.kind == GearKind::Cable)
                cables.push_back({g.name, cableOf(g)});
        }
        tools.decimals = 2;
        r.point = path::Point::BankIn;
        r.sheet = model::matrixByHand(truth, port, chargers, cables, tools);
        break;
    }
    default:
        r.sheet = records::Sheet{r.kind, {}};
        for (const auto& row : j.value("rows", nlohmann::json::array()))
            r.sheet->rows.push_back(row.get<std::vector<std::string>>());
        break;
    }
    for (auto& row : r.sheet->rows)
        row.resize(kinds::columnsOf(*r.sheet).size());
    return r;
}

} // namespace otterstone::book
