#include "book/exchange/bundle.h"

#include <fstream>
#include <map>
#include <sstream>

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSaveFile>
#include <QTemporaryDir>

#include "book/exchange/attached_files.h"
#include "book/exchange/zip_folder.h"
#include "book/store/choices.h"
#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "core/kinds/traced/json.h"
#include "core/plan/campaign/wishes.h"
#include "core/quantity/say.h"
#include "core/quantity/version.h"
#include "core/setup/method.h"
#include "logs/csv.h"
#include "logs/log.h"

namespace otterstone::book {

namespace {

constexpr int kBundleVersion = 1;

tl::unexpected<Problem> cannotWrite(const QString& path) {
    return problem("cannot_write", path.toStdString(), "the file could not be written.",
                   "Check that the folder may be written and the disk has room.");
}

Result<void> writeText(const QString& path, const std::string& content) {
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(content.data(), static_cast<qint64>(content.size())) < 0 ||
        !file.commit())
        return cannotWrite(path);
    return {};
}

Result<void> writeTraceFile(const QString& path, const trace::Trace& trace) {
    std::ofstream out(QFile::encodeName(path).constData(), std::ofstream::binary);
    logs::writeTrace(out, trace);
    out.close();
    return out ? Result<void>{} : cannotWrite(path);
}

void findingRows(std::ostream& out, const Bank& bank, const Run& run, const kinds::Finding& f) {
    for (const Working& w : f.figures) {
        if (w.isText)
            continue;
        out << logs::textCell(bank.name) << ',' << run.id << ',' << records::kindKey(run.kind) << ','
            << logs::textCell(w.label) << ',' << logs::numberCell(w.value.value()) << ','
            << logs::numberCell(w.value.expanded()) << ',' << (w.unit == Unit::Share ? "fraction" : symbol(w.unit))
            << ',' << logs::textCell(w.point) << ',' << logs::textCell(w.shown()) << "\r\n";
    }
}

std::string traceName(Id run, const std::string& point) {
    std::string name = "traces/" + std::to_string(run) + "-";
    for (const char c : point) {
        if (c != '(' && c != ')')
            name += c == ' ' ? '-' : c;
    }
    return name + ".csv";
}

bool safeTraceName(const std::string& name) {
    return name.starts_with("traces/") && name.ends_with(".csv") && name.find("..") == std::string::npos &&
           name.find('/', 7) == std::string::npos && name.find('\\') == std::string::npos;
}

// The columns of a bundle's traces are known, so nothing is left to recognition.
logs::Mapping traceMapping(const std::string& header) {
    static const std::map<std::string, std::pair<logs::Role, const char*>> kKnown = {
        {"time_s", {logs::Role::Time, "s"}},
        {"volts_v", {logs::Role::Volts, "V"}},
        {"amps_a", {logs::Role::Amps, "A"}},
        {"watts_w", {logs::Role::Watts, "W"}},
        {"temperature_c", {logs::Role::Temperature, "C"}},
        {"percent", {logs::Role::Percent, "%"}}};
    logs::Mapping m;
    for (const std::string& name : logs::splitLine(header, ',')) {
        if (const auto at = kKnown.find(name); at != kKnown.end()) {
            m.columns[at->second.first] = name;
            m.units[at->second.first] = at->second.second;
        }
    }
    return m;
}

Result<trace::Trace> readTrace(const QString& folder, const json& entry) {
    const std::string name = need<std::string>(entry, "file");
    if (!safeTraceName(name))
        return problem("bad_bundle", "book.json", "the trace file “" + name + "” is not inside traces/.",
                       "Export the bundle anew.");
    const QString path = QDir(folder).filePath(QString::fromStdString(name));
    QFile file(path);
    if (!QFileInfo(file).isFile() || !file.open(QIODevice::ReadOnly))
        return problem("bad_bundle", name, "the trace is missing.", "Export the bundle anew, with all of its files.");
    auto log = logs::readLogFile(path.toStdString(), traceMapping(file.readLine().trimmed().toStdString()));
    if (!log)
        return tl::unexpected(log.error());
    if (log->skippedLines > 0)
        return problem("bad_bundle", name + ", line " + std::to_string(log->firstSkipped.front().line),
                       log->firstSkipped.front().reason + ".", "Mend the line, or export the bundle anew.");
    getOr(entry, "volts_step", log->trace.voltsStep);
    getOr(entry, "amps_step", log->trace.ampsStep);
    return std::move(log->trace);
}

// The bundle's ids of gear to the new book's.
bool translate(Run& r, const std::map<Id, Id>& ids) {
    const auto one = [&ids](std::optional<Id>& id) {
        if (!id)
            return true;
        const auto at = ids.find(*id);
        if (at == ids.end())
            return false;
        id = at->second;
        return true;
    };
    bool all = true;
    for (const Stretch& s : kStretches)
        all = one(r.*(s.piece)) && all;
    for (AlsoTrace& t : r.also)
        all = one(t.meter) && all;
    return all;
}

void readHouse(Book& book, const json& all, Result<void>& done) {
    if (!has(all, "house"))
        return;
    setup::Schools schools;
    const json& house = all.at("house");
    for (const setup::Question& q : setup::questions()) {
        std::string answer;
        getOr(house, q.key.c_str(), answer);
        setAnswer(schools, q.key, answer);
    }
    for (const setup::SchoolFigure& f : setup::kSchoolFigures) {
        double& figure = schools.*(f.figure);
        getOr(house, std::string(f.key).c_str(), figure);
        if (figure < f.least || figure > f.most)
            throw Damage(std::string(f.key), "no house means this");
    }
    done = book.setSchools(schools);
}

json houseJson(const setup::Schools& schools) {
    json j = json::object();
    for (const setup::SchoolFigure& f : setup::kSchoolFigures)
        j[std::string(f.key)] = schools.*(f.figure);
    for (const setup::Question& q : setup::questions())
        j[q.key] = answerOf(schools, q.key);
    return j;
}

// Runs to be made, published sheets and choices, by the bundle's own ids of banks.
void addPlans(const Book& book, json& all) {
    for (const PlannedRun& p : book.planned())
        all["plans"].push_back({{"bank", p.bank},
                                {"kind", records::kindKey(p.kind)},
                                {"recipe", p.recipe},
                                {"claim", p.claim},
                                {"words", p.words},
                                {"done", p.done}});
    std::vector<std::string> scopes{"comparison"};
    for (const Bank& b : book.banks())
        scopes.push_back(b.name);
    for (const std::string& scope : scopes) {
        auto published = book.publications(scope);
        for (auto at = published.rbegin(); at != published.rend(); ++at)
            all["published"].push_back(
                {{"scope", at->scope}, {"at", at->at}, {"method", at->method}, {"said", at->json}});
    }
    for (const ChoiceKind& kind : choiceKinds()) {
        if (const std::string text = book.choice(kind.key);
            !text.empty() && kind.check(text, sayAsItStands(kind.words)))
            all["choices"][kind.key] = text;
    }
}

Result<void> fillPlans(Book& book, const json& all, const std::map<Id, Id>& bankIds) {
    for (const json& j : list(all, "plans")) {
        const auto kind = records::kindFromKey(need<std::string>(j, "kind"));
        const auto bank = bankIds.find(need<Id>(j, "bank"));
        if (!kind || bank == bankIds.end())
            return problem("bad_bundle", "book.json, plans", "a planned run has no bank or kind that is known.",
                           "Export the bundle anew.");
        PlannedRun planned;
        planned.bank = bank->second;
        planned.kind = *kind;
        getOr(j, "recipe", planned.recipe);
        getOr(j, "claim", planned.claim);
        getOr(j, "words", planned.words);
        getOr(j, "done", planned.done);
        if (auto saved = book.save(planned); !saved)
            return tl::unexpected(saved.error());
    }
    for (const json& j : list(all, "published")) {
        if (auto saved = book.publish({kNew, need<std::string>(j, "scope"), need<std::string>(j, "at"),
                                       need<int>(j, "method"), need<std::string>(j, "said")});
            !saved)
            return tl::unexpected(saved.error());
    }
    for (const ChoiceKind& kind : choiceKinds()) {
        std::string text;
        if (has(all, "choices"))
            getOr(all.at("choices"), kind.key, text);
        if (text.empty())
            continue;
        const std::string place = std::string("book.json, choices.") + kind.key;
        if (auto readable = kind.check(text, place); !readable)
            return readable;
        if (kind.key == std::string_view(choice::campaign))
            text = wishesToText(plan::campaign::withBanks(*plan::campaign::wishesFromText(text, place), bankIds));
        if (auto saved = book.setChoice(kind.key, text); !saved)
            return saved;
    }
    return {};
}

// A record by its reader; what is wrong with it is told with its kind and id.
template<class F>
auto at(const char* kind, const json& j, F read) {
    try {
        return read(j);
    } catch (const Damage& damage) {
        Id id = kNew;
        if (has(j, "id") && j.at("id").is_number_integer())
            id = j.at("id").get<Id>();
        throw Damage(kind + (id == kNew ? std::string() : " " + std::to_string(id)), damage.what());
    }
}

Result<void> fill(Book& book, const QString& folder, const json& all) {
    std::map<Id, Id> bankIds;
    std::map<Id, Id> gearIds;
    std::map<Id, Id> runIds;
    Result<void> house;
    readHouse(book, all, house);
    if (!house)
        return house;
    for (const json& j : list(all, "banks")) {
        Bank b = at("bank", j, bankFromJson);
        const Id old = std::exchange(b.id, kNew);
        const auto id = book.save(b);
        if (!id)
            return tl::unexpected(id.error());
        bankIds[old] = *id;
    }
    for (const auto& [old, id] : bankIds) {
        Bank b = *book.bank(id);
        if (!b.past.specimenOf)
            continue;
        const auto other = bankIds.find(*b.past.specimenOf);
        b.past.specimenOf = other == bankIds.end() ? std::nullopt : std::optional(other->second);
        if (auto kept = book.save(b); !kept)
            return tl::unexpected(kept.error());
    }
    for (const json& j : list(all, "gear")) {
        Gear g = at("gear", j, gearFromJson);
        const Id old = std::exchange(g.id, kNew);
        const auto id = book.save(g);
        if (!id)
            return tl::unexpected(id.error());
        gearIds[old] = *id;
    }
    for (const json& j : list(all, "runs")) {
        Run r = at("run", j, runFromJson);
        const std::string place = "book.json, run " + std::to_string(r.id);
        const Id old = std::exchange(r.id, kNew);
        if (!bankIds.contains(r.bank))
            return problem("bad_bundle", place, "its bank is not in the bundle.", "Export the bundle anew.");
        r.bank = bankIds[r.bank];
        if (!translate(r, gearIds))
            return problem("bad_bundle", place, "a piece of its gear is not in the bundle.", "Export the bundle anew.");
        if (r.target && !bankIds.contains(r.target->bank))
            return problem("bad_bundle", place, "the bank it was poured into is not in the bundle.",
                           "Export the bundle anew.");
        if (r.target)
            r.target->bank = bankIds[r.target->bank];
        // What is written down by hand comes from its rows; older bundles hold samples of it as well.
        json traces = list(j, "traces");
        if (has(j, "hand") && traces.size() == r.also.size() + 1)
            traces.erase(0);
        if (traces.size() != r.also.size() + (r.hasTrace() ? 1 : 0))
            return problem("bad_bundle", place, "its traces are not all listed.", "Export the bundle anew.");
        std::vector<trace::Trace> samples;
        for (const json& entry : traces) {
            auto trace = readTrace(folder, entry);
            if (!trace)
                return tl::unexpected(trace.error());
            samples.push_back(std::move(*trace));
        }
        const std::size_t first = r.hasTrace() ? 1 : 0;
        const auto id = book.addRun(r, first == 1 ? samples.front() : trace::Trace{});
        if (!id)
            return tl::unexpected(id.error());
        runIds[old] = *id;
        for (std::size_t k = 0; k < r.also.size(); ++k) {
            if (auto added = book.addTrace(*id, r.also[k], samples[first + k]); !added)
                return added;
        }
    }
    if (auto attached = readAttached(book, folder, all, bankIds, runIds); !attached)
        return attached;
    return fillPlans(book, all, bankIds);
}

Result<json> readBookJson(const QString& folder, const std::string& place) {
    QFile file(QDir(folder).filePath(QStringLiteral("book.json")));
    if (!QFileInfo(file).isFile() || !file.open(QIODevice::ReadOnly))
        return problem("no_bundle", place, "there is no book.json in it.",
                       "Choose the folder or .zip that an export wrote.");
    const QByteArray text = file.readAll();
    auto parsed = parseJson({text.constData(), static_cast<std::size_t>(text.size())}, place + ", book.json");
    if (!parsed)
        return problem("bad_bundle", parsed.error().place, parsed.error().text,
                       "Mend the file, or export the bundle anew.");
    try {
        std::string format;
        getOr(*parsed, "format", format);
        if (format != "otterstone-bundle")
            return problem("no_bundle", place, "book.json is not that of a bundle.",
                           "Choose the folder or .zip that an export wrote.");
        if (need<int>(*parsed, "version") > kBundleVersion)
            return problem("newer_bundle", place, "the bundle was made by a newer Otterstone.", "Update Otterstone.");
        return parsed;
    } catch (const Damage& damage) {
        return problem("bad_bundle", place + ", book.json", damage.what() + std::string("."),
                       "Mend the file, or export the bundle anew.");
    }
}

} // namespace

Result<void> exportBundle(Book& book, const QString& folder) {
    QDir dir(folder);
    if (QFileInfo::exists(folder) && (!QFileInfo(folder).isDir() || !dir.isEmpty()))
        return problem("folder_not_empty", folder.toStdString(), "the folder exists and is not empty.",
                       "Name a new or empty folder.");
    if (!dir.mkpath(QStringLiteral("traces")))
        return cannotWrite(folder);
    json all{{"format", "otterstone-bundle"}, {"version", kBundleVersion}, {"made_by", "otterstone " + version()},
             {"banks", json::array()},        {"gear", json::array()},     {"runs", json::array()},
             {"findings", json::array()}};
    all["house"] = houseJson(book.schools());
    addPlans(book, all);
    for (const Gear& g : book.gear())
        all["gear"].push_back(toJson(g));
    std::ostringstream table;
    table << "bank,run,kind,figure,value,expanded_uncertainty,unit,point,shown\r\n";
    for (const Bank& bank : book.banks()) {
        all["banks"].push_back(toJson(bank));
        for (const Run& run : book.runs(bank.id)) {
            json j = toJson(run);
            j["traces"] = json::array();
            const auto add = [&](const std::string& point, const std::string& key) -> Result<void> {
                const trace::Trace t = book.trace(run.id, key);
                const std::string name = traceName(run.id, point);
                j["traces"].push_back({{"point", point},
                                       {"file", name},
                                       {"samples", t.size()},
                                       {"volts_step", t.voltsStep},
                                       {"amps_step", t.ampsStep}});
                return writeTraceFile(dir.filePath(QString::fromStdString(name)), t);
            };
            if (run.hasTrace()) {
                if (auto written = add(AlsoTrace{run.point, run.byDisplay, {}, {}}.key(), {}); !written)
                    return written;
            }
            for (const AlsoTrace& t : run.also) {
                if (auto written = add(t.key(), t.key()); !written)
                    return written;
            }
            all["runs"].push_back(j);
            const auto finding = book.finding(run.id);
            json f = finding ? kinds::toContract(*finding) : json{{"problem", finding.error().sentence()}};
            f["run"] = run.id;
            f["method"] = setup::kMethodVersion;
            all["findings"].push_back(f);
            if (finding)
                findingRows(table, bank, run, *finding);
        }
    }
    if (auto written = writeText(dir.filePath(QStringLiteral("findings.csv")), table.str()); !written)
        return written;
    if (auto written = writeAttached(book, folder, all); !written)
        return written;
    // Last, so that a folder with a book.json is a whole bundle.
    return writeText(dir.filePath(QStringLiteral("book.json")), jsonText(all, 1) + "\n");
}

Result<std::unique_ptr<Book>> importBundle(const QString& folderOrZip, const QString& bookPath) {
    const std::string place = folderOrZip.toStdString();
    if (QFileInfo::exists(bookPath))
        return problem("book_exists", bookPath.toStdString(), "there is a file of this name already.",
                       "Choose another name.");
    if (!QFileInfo::exists(folderOrZip))
        return problem("no_bundle", place, "there is no such folder or file.", "Check the name.");
    QTemporaryDir unpacked;
    QString folder = folderOrZip;
    if (QFileInfo(folderOrZip).isFile()) {
        if (!unpacked.isValid()) // its path would be the working folder
            return problem(
                "cannot_write", place,
                "there is no temporary folder to unpack it in: " + unpacked.errorString().toStdString() + ".",
                "Make room in " + QDir::tempPath().toStdString() + ", or unpack it by hand and import the folder.");
        folder = unpacked.path();
        if (auto done = unzip(folderOrZip, folder); !done)
            return tl::unexpected(done.error());
        // A zip of a folder holds that folder; a zip of its content does not.
        const QStringList inside = QDir(folder).entryList(QDir::Dirs | QDir::NoDotAndDotDot);
        if (!QFileInfo::exists(QDir(folder).filePath(QStringLiteral("book.json"))) && inside.size() == 1)
            folder = QDir(folder).filePath(inside.front());
    }
    const auto all = readBookJson(folder, place);
    if (!all)
        return tl::unexpected(all.error());

    return Book::createFilled(bookPath, [&](Book& book) -> Result<void> {
        try {
            return fill(book, folder, *all);
        } catch (const Damage& damage) {
            return problem("bad_bundle", place + ", book.json", damage.what() + std::string("."),
                           "Mend the file, or export the bundle anew.");
        }
    });
}

} // namespace otterstone::book
