// What the commands that judge share; internal to this folder.
#pragma once

#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "book/store/together.h"
#include "cli/options.h"
#include "core/kinds/traced/json.h"

namespace otterstone::cli {

using nlohmann::json;

struct JudgementOptions {
    bool json = false, all = false, figures = false, bundle = false, publish = false, working = false;
    std::string book, out, purpose, show, days, labelBy;
    std::vector<std::string> banks, tags, needs;
    std::string bank;
};

template<class F>
int withBook(const JudgementOptions& o, const std::vector<std::string>& names, F f) {
    // Only what is to be remembered needs the book for itself; the rest is read beside a window that is open.
    auto opened = o.publish ? book::Book::open(QString::fromStdString(o.book))
                            : book::Book::openToRead(QString::fromStdString(o.book));
    if (!opened)
        return complain(opened.error());
    std::vector<records::Id> ids;
    for (const std::string& name : names) {
        const auto banks = (*opened)->banks();
        const auto at =
            std::find_if(banks.begin(), banks.end(), [&](const records::Bank& b) { return b.name == name; });
        if (at == banks.end())
            return complain({"no_bank", o.book, "there is no bank “" + name + "” in this book.",
                             "The findings subcommand lists them."});
        ids.push_back(at->id);
    }
    try {
        return f(**opened, ids);
    } catch (const Wrong& wrong) {
        return complain(wrong.problem, kUsage);
    }
}

inline json shown(const Working& w) {
    json j{{"label", w.label}, {"shown", w.isText ? w.note : w.shown()}, {"working", kinds::asText(w)}};
    if (!w.isText) {
        j["value"] = w.value.value();
        j["expanded_u"] = w.value.hasDoubt() && !w.partialDoubt ? json(w.value.expanded()) : json(nullptr);
        j["unit"] = w.unit == Unit::Share ? "fraction" : symbol(w.unit);
    }
    return j;
}

inline json maybe(const std::optional<Working>& w) { return w ? shown(*w) : json(nullptr); }

/// One bank's label against what its runs found.
int claims(const JudgementOptions& o);
/// What was seen of one bank, or of all.
int observations(const JudgementOptions& o);

} // namespace otterstone::cli
