#include "book/store/material.h"

#include <algorithm>
#include <set>

#include <nlohmann/json.hpp>

#include "book/attached/attachments.h"
#include "book/store/choices.h"
#include "book/store/finding_store.h"
#include "book/store/plan_store.h"
#include "book/store/record_store.h"
#include "book/store/together.h"
#include "core/kinds/rows.h"
#include "core/path/cable.h"
#include "core/plan/own_devices.h"
#include "core/quantity/format.h"
#include "core/quantity/json_text.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::book {

using nlohmann::json;

namespace {

std::string stated(const Gear& g) {
    std::vector<std::string> parts;
    const auto figure = [&](const char* what, double value, const char* unit) {
        parts.push_back(std::string(what) + showNumber(value) + unit);
    };
    const auto with = [&](const Stated& s, const char* unit, double factor = 1.0) {
        return showNumber(s.value * factor) + (s.expanded ? " ± " + showNumber(*s.expanded * factor, 2) : "") + " " +
               unit;
    };
    if (const std::string accuracy = path::showMeter(g.meter); !accuracy.empty())
        parts.push_back(accuracy);
    if (g.clock.value != 1.0 || g.clock.expanded)
        parts.push_back(say("clock × {}", with(g.clock, "")));
    if (g.watts)
        figure("", *g.watts, " W");
    if (g.efficiency)
        parts.push_back(say("efficiency {}", with(*g.efficiency, "%", 100.0)));
    if (g.ohms)
        parts.push_back(say("loop {}", with(*g.ohms, "mΩ", 1000.0)));
    if (g.awg && g.metres)
        parts.push_back(say("{} m of AWG {}", showNumber(*g.metres), std::to_string(*g.awg)));
    if (g.ownDraw)
        parts.emplace_back(say("own draw known"));
    if (g.kelvin)
        figure("± ", *g.kelvin, " K");
    if (g.battery)
        parts.push_back(say("battery {}", with(*g.battery, "Wh")));
    std::string all;
    for (const std::string& p : parts)
        all += (all.empty() ? "" : ", ") + std::string(p.substr(0, p.find_last_not_of(' ') + 1));
    return all.empty() ? say("accuracy not stated") : all;
}

std::string pathOf(const Run& run, bool in, const Bank& bank, const std::vector<Gear>& gear) {
    std::vector<std::string> names;
    const auto add = [&](std::optional<Id> id) {
        for (const Gear& g : gear) {
            if (id && g.id == *id)
                names.push_back(g.name);
        }
    };
    if (in) {
        add(run.charger);
        add(run.farCable);
        add(run.meter);
        add(run.cable);
    }
    names.push_back(bank.name + (run.port.empty() ? "" : " " + run.port));
    if (!in) {
        add(run.cable);
        add(run.meter);
        add(run.farCable);
        add(run.load);
        add(run.device);
    }
    std::string all;
    for (const std::string& n : names)
        all += (all.empty() ? "" : " → ") + n;
    return all;
}

std::string whereOf(const Run& run) {
    std::string where = run.port.empty() ? "" : say("at {}", run.port);
    if (run.ambient)
        where += (where.empty() ? "in " : ", in ") + showNumber(*run.ambient, 3) + " °C";
    if (!run.conditions.empty())
        where += (where.empty() ? "" : ", ") + showConditions(run.conditions);
    return where;
}

// The run's own, then those of the rows of its sheet.
std::vector<std::string> notesOf(const Run& run) {
    std::vector<std::string> all;
    if (!run.notes.empty())
        all.push_back(run.notes);
    const auto add = [&all](std::size_t row, const std::string& note) {
        if (!trimmed(note).empty())
            all.push_back(say("row {}: {}", std::to_string(row + 1), trimmed(note)));
    };
    if (run.sheet) {
        const std::size_t column = kinds::columnAt(*run.sheet, "note");
        for (std::size_t k = 0; k < run.sheet->rows.size(); ++k) {
            if (column < run.sheet->rows[k].size())
                add(k, run.sheet->rows[k][column]);
        }
    }
    return all;
}

// A run of which nothing can be said is told all the same, with the reason.
kinds::Finding findingOf(FindingsOfBank& findings, const Run& run) {
    if (auto cached = findings.cached(run))
        return std::move(*cached);
    auto worked = findings.workOut(run);
    if (worked)
        return std::move(*worked);
    kinds::Finding none;
    none.kind = run.kind;
    none.sentence = say("Nothing can be said of this run yet: {}", worked.error().text);
    return none;
}

// Gear of the runs, and what of it read them: a load that only drew read nothing.
struct Used {
    std::set<Id> all, read;
};

report::BankMaterial bankMaterial(Connection& c, const Bank& bank, const evidence::Evidence& evidence,
                                  const Bench& bench, Used& used) {
    report::BankMaterial m;
    m.evidence = evidence;
    m.notes = bank.notes;
    m.past = bank.past;
    for (const records::Attachment& a : loadAttachments(c, bank.id)) {
        if (!a.onSheet || !a.isPicture())
            continue;
        const std::string words = a.caption.empty() ? a.name : a.caption;
        const auto run = a.run == kNew ? std::nullopt : loadRun(c, a.run);
        m.photos.push_back({a.id, run ? run->title + ": " + words : words});
    }
    FindingsOfBank findings(c, bank, bench);
    for (const Run& run : findings.runs()) {
        kinds::Finding finding = findingOf(findings, run);
        m.runs.push_back({run.id, run.title, run.startedAt, run.kind, run.settling,
                          pathOf(run, finding.kind == records::Kind::Recharge, bank, bench.gear), whereOf(run),
                          notesOf(run), std::move(finding)});
        for (const Stretch& s : kStretches) {
            if (const auto id = run.*(s.piece))
                used.all.insert(*id);
        }
        for (const auto& reader : {run.meter, run.thermometer})
            used.read.insert(reader.value_or(kNew));
        if (!run.meter && run.point == path::Point::Load)
            used.read.insert(run.load.value_or(kNew));
        for (const AlsoTrace& t : run.also) {
            if (t.meter) {
                used.all.insert(*t.meter);
                used.read.insert(*t.meter);
            }
        }
    }
    std::stable_sort(m.runs.begin(), m.runs.end(),
                     [](const auto& a, const auto& b) { return a.startedAt < b.startedAt; });
    return m;
}

} // namespace

std::string scopeOf(const report::Material& m) {
    return m.banks.size() == 1 ? m.banks.front().evidence.name : "comparison";
}

Result<report::Material> gatherMaterial(const QString& path, const std::vector<Id>& banks, const std::string& at) {
    const auto evidence = gatherEvidence(path, banks);
    if (!evidence)
        return tl::unexpected(evidence.error());
    if (evidence->empty())
        return problem("no_bank", path.toStdString(), "there is no bank to make a sheet of.",
                       "Write one down first, or check the name.");
    return guarded(path, [&] {
        Connection c(path, Connection::Mode::ReadOnly);
        const Bench bench = loadBench(c);
        report::Material m;
        m.at = at;
        m.schools = bench.schools;
        Used used;
        for (const evidence::Evidence& e : *evidence) {
            if (const auto bank = loadBank(c, e.bank))
                m.banks.push_back(bankMaterial(c, *bank, e, bench, used));
        }
        for (const Gear& g : bench.gear) {
            if (used.all.contains(g.id))
                m.gear.push_back({g.name, gearKey(g.kind), stated(g), used.read.contains(g.id)});
        }
        if (m.banks.size() > 1) {
            m.purpose = purposeOr(loadChoice(c, choice::purpose));
            const Needs needs = needsFromText(loadChoice(c, choice::needs), choice::needs).value_or(Needs{});
            m.days = needs.days;
            for (const std::string& typed : needs.lines) {
                if (auto need = plan::parseNeed(typed, choice::needs))
                    m.needs.push_back(std::move(*need));
            }
            m.needs = plan::withOwnDevices(std::move(m.needs), bench.gear);
        }
        if (const auto before = loadPublications(c, scopeOf(m)); !before.empty())
            m.before = report::fromJson(before.front().json, before.front().at, before.front().method);
        return m;
    });
}

Result<Id> rememberPublished(Book& book, const report::Material& m, const report::Content& content) {
    return book.publish({kNew, scopeOf(m), content.at, content.method, report::toJson(report::whatIsSaid(m, content))});
}

} // namespace otterstone::book
