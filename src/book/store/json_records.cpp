#include "book/store/json_records.h"
#include "core/kinds/rows.h"

#include "book/store/json_put.h"
#include "book/store/older_runs.h"

namespace otterstone::book {

namespace {

json markJson(const records::Mark& m) {
    json j{{"at_s", m.at}, {"what", records::markKey(m.what)}, {"text", m.text}};
    put(j, "number", m.number);
    return j;
}

records::Mark markFromJson(const json& j) {
    records::Mark m;
    m.at = need<double>(j, "at_s");
    m.what = records::markFromKey(need<std::string>(j, "what")).value_or(records::Mark::What::Note);
    get(j, "number", m.number);
    getOr(j, "text", m.text);
    return m;
}

// Rows as objects with the columns' keys; empty cells are left out. Where there are devices, they stand beside the
// rows.
json sheetJson(const records::Sheet& sheet) {
    json rows = json::array();
    const auto columns = kinds::columnsOf(sheet);
    for (const auto& row : sheet.rows) {
        json j = json::object();
        for (std::size_t k = 0; k < std::min(row.size(), columns.size()); ++k) {
            if (!row[k].empty())
                j[columns[k].key] = row[k];
        }
        rows.push_back(std::move(j));
    }
    if (sheet.devices.empty() && !sheet.held)
        return rows;
    json j{{"devices", sheet.devices}, {"rows", std::move(rows)}};
    if (sheet.held)
        j["between"] = "held";
    return j;
}

std::optional<records::Sheet> sheetFromJson(records::Kind kind, const json& all) {
    if (!records::hasSheet(kind))
        return std::nullopt;
    records::Sheet sheet{kind, {}};
    if (all.is_object()) {
        for (const json& device : list(all, "devices"))
            sheet.devices.push_back(as<std::string>(device, "devices"));
        if (sheet.devices.size() > kinds::kMostDevices)
            throw Damage("devices", "these are more than a notebook can hold");
        std::string between;
        getOr(all, "between", between);
        sheet.held = between == "held";
    }
    const auto columns = kinds::columnsOf(sheet);
    for (const json& j : all.is_object() ? list(all, "rows") : all) {
        auto& row = sheet.rows.emplace_back(columns.size());
        for (std::size_t k = 0; k < row.size(); ++k)
            getOr(j, columns[k].key.c_str(), row[k]);
    }
    return sheet;
}

// {"low", "high"} in percent; neither where it was said to be not known. "sure" was answered to a question.
json statingJson(const records::Stating& s) {
    json j = json::object();
    if (s.state)
        putState(j, *s.state);
    if (s.sure)
        j["sure"] = true;
    return j;
}

std::optional<records::Stating> statingFrom(const json& details, const char* key) {
    if (!has(details, key))
        return std::nullopt;
    const json& j = details.at(key);
    records::Stating s;
    getOr(j, "sure", s.sure);
    s.state = stateFrom(j, key);
    return s;
}

} // namespace

json detailsJson(const Run& r) {
    json j{{"point", path::pointName(r.point)}};
    if (r.byDisplay)
        j["by_display"] = true;
    if (!r.port.empty())
        j["port"] = r.port;
    put(j, "ambient_c", r.ambient);
    if (!r.conditions.empty())
        j["conditions"] = r.conditions;
    if (r.ends.began)
        j["began"] = statingJson(*r.ends.began);
    if (r.ends.ended)
        j["ended"] = statingJson(*r.ends.ended);
    for (const auto& [key, state] :
         {std::pair("device_began", &r.ends.deviceBegan), std::pair("device_ended", &r.ends.deviceEnded)}) {
        if (*state)
            putState(j[key] = json::object(), **state);
    }
    if (r.ends.ending)
        j["ending"] = records::endingKey(*r.ends.ending);
    if (r.target) {
        json& t = j["target"] = json::object();
        put(t, "start_percent", r.target->startPercent);
        put(t, "end_percent", r.target->endPercent);
        put(t, "efficiency", r.target->efficiency);
    }
    if (!r.recipe.empty())
        j["recipe"] = r.recipe;
    if (!r.stopped.empty())
        j["stopped"] = r.stopped;
    if (r.sheet)
        j["sheet"] = sheetJson(*r.sheet);
    return j;
}

void readDetails(const json& j, Run& r) {
    std::string point = "meter";
    getOr(j, "point", point);
    r.point = path::pointFromName(point).value_or(path::Point::Meter);
    getOr(j, "by_display", r.byDisplay);
    getOr(j, "port", r.port);
    get(j, "ambient_c", r.ambient);
    for (const json& c : list(j, "conditions"))
        r.conditions.push_back(as<std::string>(c, "conditions"));
    getOr(j, "recipe", r.recipe);
    getOr(j, "stopped", r.stopped);
    r.ends.began = statingFrom(j, "began");
    r.ends.ended = statingFrom(j, "ended");
    for (const auto& [key, state] :
         {std::pair("device_began", &r.ends.deviceBegan), std::pair("device_ended", &r.ends.deviceEnded)}) {
        if (has(j, key))
            *state = stateFrom(j.at(key), key);
    }
    if (has(j, "ending")) {
        r.ends.ending = records::endingFromKey(as<std::string>(j.at("ending"), "ending"));
        if (!r.ends.ending)
            throw Damage("ending", "there is no such end of a run");
    }
    if (has(j, "target")) {
        if (!r.target)
            r.target.emplace();
        const json& t = j.at("target");
        get(t, "start_percent", r.target->startPercent);
        get(t, "end_percent", r.target->endPercent);
        get(t, "efficiency", r.target->efficiency);
    }
    if (has(j, "sheet"))
        r.sheet = sheetFromJson(r.kind, j.at("sheet").is_object() ? j.at("sheet") : list(j, "sheet"));
}

json toJson(const Run& r) {
    json j = detailsJson(r);
    j.update({{"id", r.id},
              {"bank", r.bank},
              {"kind", records::kindKey(r.kind)},
              {"title", r.title},
              {"started_at", r.startedAt},
              {"log_name", r.logName},
              {"skipped_lines", r.skippedLines},
              {"notes", r.notes},
              {"settling", r.settling}});
    for (const Stretch& s : kStretches)
        put(j, s.key, r.*(s.piece));
    if (r.target)
        j["target"]["bank"] = r.target->bank;
    j["also"] = json::array();
    for (const AlsoTrace& t : r.also) {
        json also{{"point", path::pointName(t.point)}, {"by_display", t.byDisplay}, {"log_name", t.logName}};
        put(also, "meter", t.meter);
        j["also"].push_back(std::move(also));
    }
    put(j, "from_s", r.from);
    put(j, "to_s", r.to);
    put(j, "counter_wh", r.counterWattHours);
    put(j, "counter_ah", r.counterAmpHours);
    j["marks"] = json::array();
    for (const records::Mark& m : r.marks)
        j["marks"].push_back(markJson(m));
    j["log_warnings"] = json::array();
    for (const auto& [code, words] : r.logWarnings)
        j["log_warnings"].push_back({{"code", code}, {"text", words}});
    return j;
}

Run runFromJson(const json& j) {
    Run r;
    r.id = need<Id>(j, "id");
    r.bank = need<Id>(j, "bank");
    const auto kind = records::kindFromKey(need<std::string>(j, "kind"));
    if (!kind)
        throw Damage("kind", "there is no such kind of run");
    r.kind = *kind;
    getOr(j, "title", r.title);
    getOr(j, "started_at", r.startedAt);
    getOr(j, "log_name", r.logName);
    getOr(j, "skipped_lines", r.skippedLines);
    getOr(j, "notes", r.notes);
    getOr(j, "settling", r.settling);
    readDetails(j, r);
    if (r.target)
        r.target->bank = need<Id>(j.at("target"), "bank");
    for (const Stretch& s : kStretches)
        get(j, s.key, r.*(s.piece));
    for (const json& t : list(j, "also")) {
        AlsoTrace also;
        also.point = path::pointFromName(need<std::string>(t, "point")).value_or(path::Point::BankOut);
        getOr(t, "by_display", also.byDisplay);
        getOr(t, "log_name", also.logName);
        get(t, "meter", also.meter);
        r.also.push_back(std::move(also));
    }
    get(j, "from_s", r.from);
    get(j, "to_s", r.to);
    get(j, "counter_wh", r.counterWattHours);
    get(j, "counter_ah", r.counterAmpHours);
    for (const json& m : list(j, "marks"))
        r.marks.push_back(markFromJson(m));
    for (const json& w : list(j, "log_warnings"))
        r.logWarnings.emplace_back(need<std::string>(w, "code"), need<std::string>(w, "text"));
    bringUpToDate(j, r);
    return r;
}

json toJson(const logs::Mapping& mapping) {
    json j{{"columns", json::object()}, {"units", json::object()}};
    for (const auto& [role, name] : mapping.columns)
        j["columns"][logs::roleKey(role)] = name;
    for (const auto& [role, unit] : mapping.units)
        j["units"][logs::roleKey(role)] = unit;
    return j;
}

std::optional<logs::Mapping> mappingFromJson(const json& j) try {
    logs::Mapping mapping;
    for (const auto& [key, name] : j.at("columns").items())
        mapping.columns[logs::roleFromKey(key).value()] = name.get<std::string>();
    for (const auto& [key, unit] : j.at("units").items())
        mapping.units[logs::roleFromKey(key).value()] = unit.get<std::string>();
    return mapping;
} catch (const std::exception&) {
    return std::nullopt;
}

} // namespace otterstone::book
