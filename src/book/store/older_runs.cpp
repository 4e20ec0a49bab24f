#include "book/store/older_runs.h"

#include <array>

#include "book/store/json_put.h"
#include "core/kinds/rows.h"
#include "core/kinds/traced/hand.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::book {

namespace {

using records::Sheet;

// The columns of a notebook for those that readings by hand had, in their order.
constexpr std::array<const char*, kinds::kHandColumns> kOfHand = {"time", "v", "a", "w", "bank", "celsius", "note"};

void becomeNotebook(Run& r, Sheet sheet) {
    if (!sheet.rows.empty())
        sheet.rows.front()[kinds::columnAt(sheet, "way")] = r.kind == records::Kind::Recharge ? "in" : "out";
    r.kind = records::Kind::Notebook;
    r.sheet = std::move(sheet);
}

Sheet fromReadings(const json& hand, Run& r) {
    Sheet sheet{records::Kind::Notebook, {}};
    std::string between;
    getOr(hand, "between", between);
    sheet.held = between == "held";
    std::vector<kinds::HandRow> rows;
    for (const json& cells : list(hand, "rows")) {
        kinds::HandRow& row = rows.emplace_back();
        std::vector<std::pair<std::string_view, std::string>> noted;
        for (std::size_t k = 0; k < std::min(cells.is_array() ? cells.size() : 0, kinds::kHandColumns); ++k) {
            cell(row, k) = as<std::string>(cells[k], "hand: rows");
            noted.emplace_back(kOfHand[k], cell(row, k));
        }
        kinds::addRow(sheet, noted);
    }
    // Their percents and notes were kept as stamps besides.
    const auto written = kinds::readByHand(rows, sheet.held ? trace::Between::Held : trace::Between::Joined).marks;
    std::erase_if(r.marks, [&](const records::Mark& m) { return std::ranges::find(written, m) != written.end(); });
    return sheet;
}

Sheet fromCounters(const json& counters) {
    Sheet sheet{records::Kind::Notebook, {}};
    // They were of the run alone: set to zero when it began. Where its time was not kept, the
    // second row stands at the same moment.
    std::vector<std::pair<std::string_view, std::string>> began{{"time", "0"}}, ended;
    for (const auto& [key, column] : {std::pair("wh", "wh"), {"mah", "mah"}, {"mean_volts", "v"}}) {
        std::optional<double> value;
        get(counters, key, value);
        if (!value)
            continue;
        ended.emplace_back(column, showNumber(*value, 9));
        if (std::string_view(column) != "v")
            began.emplace_back(column, "0");
    }
    std::optional<double> seconds;
    get(counters, "seconds", seconds);
    ended.emplace_back("time", seconds ? showNumber(*seconds / 60.0, 9) + " min" : std::string("0"));
    kinds::addRow(sheet, began);
    kinds::addRow(sheet, ended);
    return sheet;
}

// Its times began anew with each way: by wire it is told to have been some time after the pad.
Sheet fromPad(const json& rows) {
    Sheet sheet{records::Kind::Notebook, {}, {"Device"}};
    double begins = 0.0, last = 0.0;
    for (const char* way : {"pad", "wire"}) {
        std::string above = "pad"; // an empty cell meant the one above
        bool first = true;
        for (const json& row : rows) {
            std::map<std::string, std::string> cells;
            for (const char* key : {"way", "time", "device", "bank", "celsius", "watts", "note"})
                getOr(row, key, cells[key]);
            above = cells["way"].empty() ? above : cells["way"];
            if (above != way)
                continue;
            std::string time = cells["time"];
            if (const auto at = parseDuration(time, {}, 60.0); at && std::string_view(way) == "wire") {
                last = begins + *at;
                time = showNumber(last / 60.0, 9) + " min";
                if (first && begins > 0.0)
                    cells["note"] += (cells["note"].empty() ? "" : "; ") + std::string("by wire, some time after");
            } else if (at) {
                last = *at;
            }
            first = false;
            kinds::addRow(sheet, {{"time", time},
                                  {kinds::deviceKey(0), cells["device"]},
                                  {"bank", cells["bank"]},
                                  {"celsius", cells["celsius"].empty() ? "" : "device " + cells["celsius"]},
                                  {"w", cells["watts"]},
                                  {"way", way},
                                  {"note", cells["note"]}});
        }
        begins = last + 3600.0;
    }
    return sheet;
}

} // namespace

void bringUpToDate(const json& details, Run& r) {
    if (has(details, "hand"))
        becomeNotebook(r, fromReadings(details.at("hand"), r));
    else if (has(details, "counters_only"))
        becomeNotebook(r, fromCounters(details.at("counters_only")));
    else if (has(details, "sheet") && r.kind == records::Kind::Notebook && details.at("sheet").is_array() &&
             std::ranges::any_of(details.at("sheet"),
                                 [](const json& row) { return row.contains("device") || row.contains("watts"); }))
        r.sheet = fromPad(details.at("sheet"));
}

} // namespace otterstone::book
