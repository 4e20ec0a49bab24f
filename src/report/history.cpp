#include "report/history.h"

#include <algorithm>

#include "core/quantity/json_text.h"

namespace otterstone::report {

using nlohmann::json;

namespace {

const std::string* find(const std::vector<std::pair<std::string, std::string>>& all, const std::string& name) {
    const auto at = std::find_if(all.begin(), all.end(), [&](const auto& f) { return f.first == name; });
    return at == all.end() ? nullptr : &at->second;
}

} // namespace

Published whatIsSaid(const Material& material, const Content& content) {
    Published p;
    p.at = content.at;
    p.method = content.method;
    // A figure is named by its table's first cells; the tables of figures carry their run or bank in a key of their
    // own.
    for (const Section& s : content.sections) {
        for (const Block& b : s.blocks) {
            const auto* table = std::get_if<Table>(&b);
            if (!table || s.key == "changes" || s.key == "gear")
                continue;
            for (const auto& row : table->rows) {
                for (std::size_t k = 1; k < row.size(); ++k) {
                    if (!row[k].value && row[k].code.empty())
                        continue;
                    std::string name = s.heading + ": " + row.front().text;
                    if (table->columns[k].key != "value")
                        name += ", " + table->columns[k].heading;
                    if (!find(p.figures, name))
                        p.figures.emplace_back(std::move(name), row[k].text);
                }
            }
        }
    }
    for (const setup::Question& q : setup::questions()) {
        const std::string key = answerOf(material.schools, q.key);
        for (const setup::Answer& a : q.answers) {
            if (a.key == key)
                p.means["school: " + q.words] = a.words;
        }
    }
    for (const GearSaid& g : material.gear)
        p.means[g.kind + " " + g.name] = g.accuracy;
    return p;
}

std::string toJson(const Published& p) {
    json figures = json::array();
    for (const auto& [name, shown] : p.figures)
        figures.push_back({name, shown});
    return jsonText({{"figures", figures}, {"means", p.means}});
}

std::optional<Published> fromJson(const std::string& text, const std::string& at, int method) {
    const auto parsed = parseJson(text, "published");
    if (!parsed || !parsed->is_object() || !parsed->contains("figures") || !parsed->contains("means"))
        return std::nullopt;
    const json& all = *parsed;
    try {
        Published p;
        p.at = at;
        p.method = method;
        for (const json& f : all.at("figures"))
            p.figures.emplace_back(f.at(0).get<std::string>(), f.at(1).get<std::string>());
        p.means = all.at("means").get<std::map<std::string, std::string>>();
        return p;
    } catch (const json::exception&) {
        return std::nullopt;
    }
}

Changes changesBetween(const Published& before, const Published& now) {
    const std::string unknown = say("unknown");
    Changes c;
    if (before.method != now.method)
        c.means.push_back({say("method"), say("version {}", std::to_string(before.method)),
                           say("version {}", std::to_string(now.method))});
    for (const auto& [name, stated] : now.means) {
        const auto was = before.means.find(name);
        if (was != before.means.end() && was->second != stated)
            c.means.push_back({name, was->second.empty() ? unknown : was->second, stated.empty() ? unknown : stated});
        else if (was == before.means.end())
            c.means.push_back({name, unknown, stated.empty() ? say("used now") : stated});
    }
    for (const auto& [name, shown] : now.figures) {
        const std::string* was = find(before.figures, name);
        if (!was || *was != shown)
            c.figures.push_back({name, was ? *was : unknown, shown});
    }
    for (const auto& [name, shown] : before.figures) {
        if (!find(now.figures, name))
            c.figures.push_back({name, shown, unknown});
    }
    return c;
}

} // namespace otterstone::report
