#include "core/plan/campaign/wishes.h"

#include <algorithm>

#include <nlohmann/json.hpp>

#include "core/judgement/purpose.h"
#include "core/plan/campaign/week.h"
#include "core/quantity/date.h"
#include "core/quantity/json_fields.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

using nlohmann::json;

constexpr const char* kFormat = "otterstone-campaign";
constexpr double kMostBank = 1e15;
constexpr double kMostWatts = 1e4;

json keyJson(const JobKey& key) {
    return {{"bank", key.bank}, {"kind", records::kindKey(key.kind)}, {"recipe", key.recipe}, {"variant", key.variant}};
}

JobKey keyFrom(Fields& f) {
    std::vector<std::string> kinds;
    kinds.reserve(std::size(records::kKinds));
    for (const records::KindName& name : records::kKinds)
        kinds.push_back(name.key);
    return {static_cast<long long>(f.number("bank", 0, kMostBank)),
            records::kindFromKey(f.word("kind", kinds)).value_or(records::Kind::Drain), f.text("recipe", ""),
            f.text("variant", "")};
}

// A moment, or nothing where that may be.
std::string momentFrom(Fields& f, const char* key, bool maybe) {
    std::string text = maybe ? f.text(key, "") : f.text(key);
    if (!text.empty() && !secondsOf(text))
        f.wrong(key, say("“{}” is not a moment.", text), "Write it like 2026-04-02T09:10:00.");
    return text;
}

} // namespace

std::string nameOf(const JobKey& key) {
    std::string name = "bank" + std::to_string(key.bank) + "-" + records::kindKey(key.kind) +
                       (key.recipe.empty() ? "" : "-" + key.recipe) + (key.variant.empty() ? "" : "-" + key.variant);
    std::replace(name.begin(), name.end(), ' ', '-');
    return name;
}

Result<Wishes> wishesFromText(const std::string& text, const std::string& place) {
    Wishes w;
    if (text.empty())
        return w;
    const auto all = parseObject(text, place, kFormat);
    if (!all)
        return tl::unexpected(all.error());
    std::optional<otterstone::Problem> problem;
    Fields f(*all, place + ": ", problem);
    (void)f.text("format");
    (void)f.number("version", 1, 1);
    w.from = momentFrom(f, "from", true);
    w.until = momentFrom(f, "until", true);
    w.untilWhat = f.text("until_what", "");
    w.hours = f.text("hours", "");
    if (!w.hours.empty()) {
        if (const auto week = parseWeek(w.hours, say("{}: hours", place)); !week && !problem)
            problem = week.error();
    }
    w.unattended =
        unattendedFromKey(f.word("unattended", {"never", "stop", "night"}, "never")).value_or(Unattended::Never);
    w.claims = !f.has("claims") || f.yes("claims");
    w.purpose = f.text("purpose", "");
    if (!w.purpose.empty() && !judgement::purposeNamed(w.purpose))
        f.wrong("purpose", say("“{}” is no purpose that is known here.", w.purpose));
    w.loads = static_cast<int>(f.number("loads", 0, Wishes::kMostLoads, 0));
    w.repeats = static_cast<int>(f.number("repeats", 1, Wishes::kMostRepeats, 1));
    for (const std::string& bank : f.texts("banks")) {
        const auto at = std::all_of(bank.begin(), bank.end(), [](char c) { return c >= '0' && c <= '9'; });
        if (!at || bank.empty() || bank.size() > 15)
            f.wrong("banks", say("“{}” is no bank's number.", bank));
        else
            w.banks.push_back(std::stoll(bank));
    }
    for (Fields& one : f.list("pins")) {
        w.pins.push_back({keyFrom(one), momentFrom(one, "at", false)});
        one.finish();
    }
    for (const auto& [key, into] :
         {std::pair{"out", &w.out}, {"first", &w.first}, {"own_day", &w.ownDay}, {"wired", &w.wired}}) {
        for (Fields& one : f.list(key)) {
            into->push_back(keyFrom(one));
            one.finish();
        }
    }
    Fields kept = f.part("kept");
    w.kept.at = momentFrom(kept, "at", true);
    for (Fields& one : kept.list("jobs")) {
        w.kept.jobs.push_back({keyFrom(one), one.text("words", ""), momentFrom(one, "from", false),
                               momentFrom(one, "to", false), momentFrom(one, "since", true),
                               one.maybeNumber("watts", 0.0, kMostWatts)});
        one.finish();
    }
    kept.finish();
    f.finish();
    if (problem)
        return tl::unexpected(*problem);
    return w;
}

std::string wishesToText(const Wishes& w) {
    json pins = json::array(), kept = json::array(), banks = json::array();
    const auto keys = [](const std::vector<JobKey>& all) {
        json list = json::array();
        for (const JobKey& key : all)
            list.push_back(keyJson(key));
        return list;
    };
    for (const Pin& pin : w.pins) {
        pins.push_back(keyJson(pin.job));
        pins.back()["at"] = pin.at;
    }
    for (const KeptJob& job : w.kept.jobs) {
        json j = keyJson(job.job);
        j.update({{"words", job.words}, {"from", job.from}, {"to", job.to}, {"since", job.since}});
        if (job.watts)
            j["watts"] = *job.watts;
        kept.push_back(std::move(j));
    }
    for (const long long bank : w.banks)
        banks.push_back(std::to_string(bank));
    return json{{"format", kFormat},
                {"version", 1},
                {"from", w.from},
                {"until", w.until},
                {"until_what", w.untilWhat},
                {"hours", w.hours},
                {"unattended", unattendedKey(w.unattended)},
                {"claims", w.claims},
                {"purpose", w.purpose},
                {"loads", w.loads},
                {"repeats", w.repeats},
                {"banks", banks},
                {"pins", pins},
                {"out", keys(w.out)},
                {"first", keys(w.first)},
                {"own_day", keys(w.ownDay)},
                {"wired", keys(w.wired)},
                {"kept", {{"at", w.kept.at}, {"jobs", kept}}}}
        .dump();
}

Wishes withBanks(Wishes w, const std::map<long long, long long>& becomes) {
    const auto move = [&](long long& bank) {
        const auto at = becomes.find(bank);
        if (at != becomes.end())
            bank = at->second;
        return at == becomes.end();
    };
    std::erase_if(w.banks, move);
    std::erase_if(w.pins, [&](Pin& pin) { return move(pin.job.bank); });
    for (std::vector<JobKey>* keys : {&w.out, &w.first, &w.ownDay, &w.wired})
        std::erase_if(*keys, [&](JobKey& key) { return move(key.bank); });
    std::erase_if(w.kept.jobs, [&](KeptJob& job) { return move(job.job.bank); });
    return w;
}

} // namespace otterstone::plan::campaign
