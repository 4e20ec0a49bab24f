#include "book/store/finding_store.h"

#include <algorithm>

#include <QCryptographicHash>
#include <nlohmann/json.hpp>

#include "book/store/choices.h"
#include "book/store/json_records.h"
#include "book/store/plan_store.h"
#include "book/store/record_store.h"
#include "book/store/trace_store.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/traced/json.h"
#include "core/quantity/json_text.h"
#include "core/setup/method.h"
#include "core/together/bank_findings.h"

namespace otterstone::book {

using Also = kinds::AlsoRestsOn;

namespace {
setup::Prices loadPrices(Connection& c) {
    const auto kind = std::ranges::find(choiceKinds(), std::string_view(setup::kPricesKey), &ChoiceKind::key);
    return setup::pricesFromText(loadReadable(c, *kind), "").value_or(setup::Prices());
}
} // namespace

Bench loadBench(Connection& c) { return {loadGear(c), loadSchools(c), loadBanks(c), loadPrices(c)}; }

namespace {

std::string hashOf(const std::string& text) {
    return QCryptographicHash::hash(QByteArray::fromStdString(text), QCryptographicHash::Sha256).toHex().toStdString();
}

// Whether it may say how full the bank was before and after it.
bool tellsEnds(const Run& run) {
    const auto& sheet = kinds::of(run.kind).sheet;
    return !run.open && (!run.sheet || (sheet && sheet->tellsEnds));
}

// One of the bank's drains and recharges, which its neighbours help to settle.
bool isMeasured(const Run& run) { return !run.sheet || kinds::isMetered(*run.sheet); }

} // namespace

FindingsOfBank::FindingsOfBank(Connection& c, const Bank& bank, const Bench& bench)
    : c_(c), bank_(bank), bench_(bench), runs_(loadRuns(c, bank.id)) {
    std::vector<const Run*> dated;
    for (const Run& r : runs_) {
        if (!r.startedAt.empty())
            dated.push_back(&r);
    }
    std::stable_sort(dated.begin(), dated.end(),
                     [](const Run* a, const Run* b) { return a->startedAt < b->startedAt; });
    for (const Run* r : dated)
        life_.push_back(r->id);
    takeTexts();
}

FindingsOfBank::FindingsOfBank(const FindingsOfBank& before, const Bench& bench, Known known)
    : c_(before.c_), bank_(before.bank_), bench_(bench), runs_(before.runs_), life_(before.life_),
      known_(std::move(known)) {
    takeTexts();
    if (bankText_ != before.bankText_ || schoolsText_ != before.schoolsText_)
        return;
    // A key stands where nothing has changed of what it is put together from.
    std::vector<Id> changed;
    for (const Gear& g : bench_.gear) {
        const Gear* was = before.bench_.find(g.id);
        if (!was || !(*was == g))
            changed.push_back(g.id);
    }
    for (const Run& run : runs_) {
        const auto at = before.ownKeys_.find(run.id);
        const bool stands = kinds::of(run.kind).also == Also::Nothing && !run.target &&
                            std::none_of(changed.begin(), changed.end(), [&](Id id) { return uses(run, id); });
        if (stands && at != before.ownKeys_.end())
            ownKeys_.insert(*at);
    }
}

void FindingsOfBank::takeTexts() {
    nlohmann::json own = toJson(bank_), schools;
    for (const char* words : {"notes", "past"})
        own.erase(words);
    for (const setup::Question& q : setup::questions())
        schools[q.key] = answerOf(bench_.schools, q.key);
    schools["figures"] = {bench_.schools.otherCellVolts, bench_.schools.fullShare, bench_.schools.fullSeconds};
    bankText_ = jsonText(own);
    schoolsText_ = jsonText(schools);
}

std::pair<const Run*, const Run*> FindingsOfBank::neighbours(const Run& run) const {
    const auto at = !isMeasured(run) ? life_.end() : std::find(life_.begin(), life_.end(), run.id);
    if (at == life_.end())
        return {};
    const auto named = [&](Id id) {
        return &*std::find_if(runs_.begin(), runs_.end(), [&](const Run& r) { return r.id == id; });
    };
    return {at == life_.begin() ? nullptr : named(*std::prev(at)),
            std::next(at) == life_.end() ? nullptr : named(*std::next(at))};
}

// A pair of the bank's own runs, as the pass-through sum needs it. Sheets of its own say nothing about it.
std::optional<Measured> FindingsOfBank::roundTrip() {
    std::vector<kinds::RunEntry> entries;
    for (const Run& run : runs_) {
        if (!isMeasured(run))
            continue;
        if (auto finding = cachedOrWorkedOut(run))
            entries.push_back(entry(run, std::move(*finding)));
    }
    const auto together = together::judgeTogether(std::move(entries), std::nullopt, bench_.schools);
    return together.pairs.empty() ? std::nullopt : std::optional(together.pairs.front().roundTrip);
}

setup::Facts FindingsOfBank::facts(const Run& run) {
    return setup::factsOf(bank_, run, bench_,
                          kinds::of(run.kind).also == Also::BanksRoundTrip ? roundTrip() : std::nullopt);
}

kinds::RunEntry FindingsOfBank::entry(const Run& run, kinds::HeldFinding finding) const {
    const Gear* charger = bench_.find(run.charger);
    const Gear* cable = bench_.find(run.cable);
    const Gear* device = bench_.find(run.device);
    return {run.id,
            run.title,
            run.startedAt,
            run.settling,
            charger ? charger->name : std::string(),
            cable ? cable->name : std::string(),
            run.device || (run.sheet && !run.sheet->devices.empty()), // a notebook names them in its columns
            run.target.has_value(),
            std::move(finding),
            run.port,
            charger ? charger->watts : std::nullopt,
            device && device->battery ? std::optional(device->battery->value) : std::nullopt,
            device ? device->name : std::string(),
            run.conditions};
}

// The text of a JSON object with all that a finding rests on, put together from texts that are made once.
const std::string& FindingsOfBank::ownKey(const Run& run) {
    std::string& key = ownKeys_[run.id];
    if (!key.empty())
        return key;
    const Also also = kinds::of(run.kind).also;
    std::string gear, others;
    for (const Gear& g : bench_.gear) {
        const bool offered =
            also == Also::ChargersAndCables && (g.kind == GearKind::Charger || g.kind == GearKind::Cable);
        const bool told = also == Also::Devices && g.kind == GearKind::Device;
        if (!uses(run, g.id) && !offered && !told)
            continue;
        std::string& text = gearTexts_[g.id];
        if (text.empty())
            text = jsonText(toJson(g));
        gear += (gear.empty() ? "" : ",") + text;
    }
    if (also == Also::BanksRoundTrip) {
        for (const Run& other : runs_) {
            if (isMeasured(other))
                others += (others.empty() ? "\"" : ",\"") + ownKey(other) + '"';
        }
    }
    // Notes are no part of any sum, nor are conditions but where runs are held together, nor a title but in the
    // neighbours' words.
    nlohmann::json own = toJson(run);
    for (const char* words : {"title", "notes", "conditions"})
        own.erase(words);
    std::string all = "{\"bank\":" + bankText_;
    if (!gear.empty())
        all += ",\"gear\":[" + gear + "]";
    if (run.sheet && isMeasured(run))
        all += ",\"metered\":true"; // before 0.3.0 such a one was no drain
    all += ",\"method\":" + std::to_string(setup::kMethodVersion);
    if (!others.empty())
        all += ",\"others\":[" + others + "]";
    all += ",\"run\":" + jsonText(own) + ",\"schools\":" + schoolsText_;
    for (const Bank& b : bench_.banks) {
        if (run.target && b.id == run.target->bank)
            all += ",\"target\":" + jsonText(toJson(b));
    }
    return key = hashOf(all + "}");
}

std::string FindingsOfBank::key(const Run& run) {
    const auto [before, after] = neighbours(run);
    std::string around;
    for (const Run* r : {before, after})
        around += r ? ownKey(*r) + r->title : std::string("-");
    if (!before && bank_.past.cameAt)
        around += showCame(bank_.past);
    return ownKey(run) + "." + hashOf(around);
}

// Key and JSON, of all its runs at once.
const std::pair<std::string, std::string>* FindingsOfBank::storedText(Id run) {
    if (!texts_) {
        texts_.emplace();
        Answer q = c_.run(
            "SELECT run_id, key, json FROM finding WHERE run_id IN (SELECT id FROM run WHERE bank_id = ?)", bank_.id);
        while (q.next())
            texts_->emplace(q.value(0).whole(), std::pair(q.value(1).text(), q.value(2).text()));
    }
    const auto at = texts_->find(run);
    return at == texts_->end() ? nullptr : &at->second;
}

// What its finding is stored under, whatever its neighbours were then; null when the run itself has changed since.
const std::string* FindingsOfBank::storedKey(const Run& run) {
    const KeyedFinding* known = known_ ? known_(run.id) : nullptr;
    const auto* text = known_ ? nullptr : storedText(run.id);
    const std::string* key = known ? &known->key : text ? &text->first : nullptr;
    return key && key->starts_with(ownKey(run)) ? key : nullptr;
}

// Precondition: storedKey(run). Nothing when it cannot be read.
std::optional<kinds::HeldFinding> FindingsOfBank::read(const Run& run) {
    if (known_)
        return known_(run.id)->finding;
    return kinds::fromCache(storedText(run.id)->second);
}

std::optional<kinds::HeldFinding> FindingsOfBank::cached(const Run& run) {
    const std::string* under = storedKey(run);
    if (!under)
        return std::nullopt;
    if (*under == key(run))
        return read(run);
    if (!isMeasured(run))
        return std::nullopt;
    // A neighbour came, went or changed: it is settled anew, if that one's finding is at hand.
    const auto [before, after] = neighbours(run);
    for (const Run* r : {before, after}) {
        if (r && tellsEnds(*r) && !storedKey(*r))
            return std::nullopt;
    }
    const auto mine = read(run);
    return mine ? std::optional(heard(run, kinds::settled(**mine))) : std::nullopt;
}

Result<kinds::Finding> FindingsOfBank::workOutAlone(const Run& run) {
    setup::Setup setup = setup::setupOf(bank_, run, bench_);
    std::vector<trace::Trace> also;
    also.reserve(run.also.size()); // the setup points at them
    for (const AlsoTrace& t : run.also) {
        setup::Reading reading;
        reading.point = t.point;
        reading.byDisplay = t.byDisplay;
        reading.trace = &also.emplace_back(loadTrace(c_, run.id, t.key()));
        reading.meter.name = t.byDisplay ? "the bank's display" : "second meter";
        if (const Gear* meter = bench_.find(t.meter))
            setup::takeMeter(*meter, reading.meter, reading.clock);
        setup.also.push_back(std::move(reading));
    }
    if (run.sheet) {
        const setup::Facts heldAgainst = facts(run);
        auto said = kinds::judge(*run.sheet, heldAgainst);
        if (!said)
            return tl::unexpected(said.error());
        return kinds::findingOf(*run.sheet, std::move(*said), heldAgainst, setup);
    }
    auto finding = kinds::analyse(loadTrace(c_, run.id), run.kind, setup);
    if (finding) {
        std::vector<Warning> fromLog;
        for (const auto& [code, words] : run.logWarnings)
            fromLog.push_back({code, words});
        finding->warnings.insert(finding->warnings.begin(), fromLog.begin(), fromLog.end());
    }
    return finding;
}

// Nothing of its neighbours in it, so that each can be settled by the other's.
const kinds::HeldFinding* FindingsOfBank::alone(const Run& run) {
    if (const auto at = alone_.find(run.id); at != alone_.end())
        return at->second ? &*at->second : nullptr;
    std::optional<kinds::HeldFinding>& mine = alone_[run.id];
    if (storedKey(run)) {
        if (const auto known = read(run))
            mine = kinds::settled(**known);
    }
    if (!mine) {
        if (auto worked = workOutAlone(run))
            mine = std::move(*worked);
    }
    return mine ? &*mine : nullptr;
}

kinds::HeldFinding FindingsOfBank::heard(const Run& run, kinds::HeldFinding own) {
    std::vector<kinds::RunEntry> life{entry(run, std::move(own))};
    const auto [before, after] = neighbours(run);
    for (const Run* r : {before, after}) {
        if (!r)
            continue;
        const kinds::HeldFinding* of = tellsEnds(*r) ? alone(*r) : nullptr;
        kinds::Finding unknown; // whatever was done there, nothing is known beyond it
        unknown.kind = Kind::Survey;
        life.push_back(entry(*r, of ? *of : kinds::HeldFinding(std::move(unknown))));
    }
    return kinds::heardAmong(life, 0, bank_.past);
}

namespace {
// Not by tl::expected's own conversion, which makes a finding of nothing first and loses it.
Result<kinds::HeldFinding> held(Result<kinds::Finding> worked) {
    if (!worked)
        return tl::unexpected(std::move(worked.error()));
    return kinds::HeldFinding(std::move(*worked));
}
} // namespace

Result<kinds::HeldFinding> FindingsOfBank::workOut(const Run& run) {
    if (!isMeasured(run))
        return held(workOutAlone(run));
    const kinds::HeldFinding* own = alone(run);
    if (!own)
        return held(workOutAlone(run)); // which says why
    return heard(run, *own);
}

std::optional<kinds::HeldFinding> FindingsOfBank::cachedOrWorkedOut(const Run& run) {
    if (auto found = cached(run))
        return found;
    auto worked = workOut(run);
    return worked ? std::optional(std::move(*worked)) : std::nullopt;
}

void storeFinding(Connection& c, Id run, const std::string& key, const kinds::Finding& finding,
                  const std::string& text) {
    c.run(
        "INSERT INTO finding VALUES (?,?,?,?) ON CONFLICT (run_id) DO UPDATE SET key = excluded.key, json = excluded.json, "
        "asks = excluded.asks",
        run, key, text.empty() ? kinds::toCache(finding) : text, static_cast<Id>(finding.ends.questions.size()));
}

} // namespace otterstone::book
