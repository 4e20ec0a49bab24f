// CSV and JSON: the same cells with the numbers behind them.
#include <nlohmann/json.hpp>

#include "core/quantity/json_text.h"
#include "core/quantity/version.h"
#include "logs/csv.h"
#include "report/writers.h"

namespace otterstone::report {

using nlohmann::json;

namespace {

template<class F>
void eachTable(const Content& c, F f) {
    for (const Section& s : c.sections) {
        for (const Block& b : s.blocks) {
            if (const auto* table = std::get_if<Table>(&b))
                f(s, *table);
        }
    }
}

json cellJson(const Cell& cell) {
    json j{{"shown", cell.text}};
    if (cell.value) {
        j["value"] = *cell.value;
        j["expanded_u"] = cell.expanded ? json(*cell.expanded) : json(nullptr);
        j["unit"] = cell.unit;
    }
    if (!cell.code.empty())
        j["code"] = cell.code;
    if (cell.marked)
        j["marked"] = true;
    return j;
}

} // namespace

std::string toCsv(const Content& c) {
    std::string out = "section,table,row,column,text,value,expanded_uncertainty,unit,code\r\n";
    const auto number = [](const std::optional<double>& v) { return v ? logs::numberCell(*v) : std::string(); };
    eachTable(c, [&](const Section& s, const Table& t) {
        for (const auto& row : t.rows) {
            for (std::size_t k = 1; k < row.size(); ++k) {
                const Cell& cell = row[k];
                if (cell.text.empty())
                    continue;
                out += logs::textCell(s.heading) + ',' + logs::textCell(t.key) + ',' +
                       logs::textCell(row.front().text) + ',' + logs::textCell(t.columns[k].heading) + ',' +
                       logs::textCell(cell.text) + ',' + number(cell.value) + ',' + number(cell.expanded) + ',' +
                       logs::textCell(cell.unit) + ',' + logs::textCell(cell.code) + "\r\n";
            }
        }
    });
    return out;
}

std::string toJson(const Content& c) {
    json all{{"format", "otterstone-sheet"},
             {"version", 1},
             {"title", c.title},
             {"sentence", c.sentence},
             {"at", c.at},
             {"method", c.method},
             {"made_by", "otterstone " + version()}};
    all["sections"] = json::array();
    for (const Section& s : c.sections) {
        json section{{"key", s.key}, {"heading", s.heading}, {"sentences", json::array()}, {"tables", json::array()}};
        for (const Block& b : s.blocks) {
            if (const auto* p = std::get_if<Paragraph>(&b))
                section["sentences"].push_back(p->text);
            else if (const auto* points = std::get_if<Points>(&b))
                for (const std::string& item : points->items)
                    section["sentences"].push_back(item);
            else if (const auto* t = std::get_if<Table>(&b)) {
                json table{{"key", t->key}, {"rows", json::array()}};
                for (const auto& row : t->rows) {
                    json cells = json::object();
                    for (std::size_t k = 0; k < row.size(); ++k)
                        cells[t->columns[k].key] = cellJson(row[k]);
                    table["rows"].push_back(std::move(cells));
                }
                if (t->key == "figures" || t->key == "contributions") { // their columns are banks
                    for (const Column& column : t->columns)
                        table["columns"][column.key] = column.heading;
                }
                section["tables"].push_back(std::move(table));
            }
        }
        all["sections"].push_back(std::move(section));
    }
    return jsonText(all, 1) + "\n";
}

} // namespace otterstone::report
