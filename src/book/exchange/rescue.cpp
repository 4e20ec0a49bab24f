#include "book/exchange/rescue.h"

#include <cmath>

#include <QFile>
#include <QSaveFile>

#include "book/store/book.h"
#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "book/store/record_store.h"
#include "book/store/sql.h"

namespace otterstone::book {

namespace {

constexpr const char* kFormat = "otterstone-rescue";
constexpr qint64 kLargest = qint64{1} << 30;
constexpr qint64 kHead = 4096; // its format stands within

struct ColumnOf {
    const char* key;
    double LiveSample::*value;
};
constexpr ColumnOf kColumns[] = {{"time_s", &LiveSample::time},
                                 {"volts_v", &LiveSample::volts},
                                 {"amps_a", &LiveSample::amps},
                                 {"temperature_c", &LiveSample::celsius},
                                 {"percent", &LiveSample::percent}};

json columnsJson(const std::vector<LiveSample>& samples) {
    json all = json::object();
    for (const ColumnOf& c : kColumns) {
        const bool any =
            std::any_of(samples.begin(), samples.end(), [&](const LiveSample& s) { return !std::isnan(s.*c.value); });
        if (!any)
            continue;
        json& column = all[c.key] = json::array();
        for (const LiveSample& s : samples)
            column.push_back(std::isnan(s.*c.value) ? json() : json(s.*c.value));
    }
    return all;
}

std::vector<LiveSample> samplesFrom(const json& j) {
    std::vector<LiveSample> samples(list(j, kColumns[0].key).size());
    for (const ColumnOf& c : kColumns) {
        const json& column = list(j, c.key);
        if (column.empty() && c.value != &LiveSample::volts && c.value != &LiveSample::amps)
            continue;
        if (column.size() != samples.size())
            throw Damage(c.key, "it is not as long as the time beside it");
        for (std::size_t k = 0; k < samples.size(); ++k) {
            if (!column[k].is_null())
                samples[k].*c.value = as<double>(column[k], c.key);
        }
    }
    return samples;
}

} // namespace

Result<void> writeRescue(const QString& path, const Rescue& rescue) {
    Run rest; // stamps and sheet as a run has them
    rest.marks = rescue.batch.marks;
    rest.sheet = rescue.closing.sheet;
    rest.stopped = rescue.closing.stopped;
    json traces = json::array();
    for (std::size_t k = 0; k < rescue.batch.samples.size(); ++k) {
        traces.push_back(columnsJson(rescue.batch.samples[k]));
        traces.back()["point"] = k < rescue.points.size() ? rescue.points[k] : std::string();
    }
    const json j{{"format", kFormat}, {"version", 1},        {"run", rescue.run}, {"started_at", rescue.startedAt},
                 {"traces", traces},  {"rest", toJson(rest)}};
    const std::string text = j.dump(1);
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly) ||
        file.write(text.data(), static_cast<qint64>(text.size())) != static_cast<qint64>(text.size()) || !file.commit())
        return problem("cannot_write", path.toStdString(), "the file could not be written.");
    keepFromOthers(path);
    return {};
}

bool isRescue(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) && file.read(kHead).contains(kFormat);
}

Result<Rescue> readRescue(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly) || file.size() > kLargest)
        return problem("unreadable", path.toStdString(), "the file cannot be read.");
    if (!isRescue(path))
        return problem("bad_rescue", path.toStdString(), "this is no rest of a live run.",
                       "Choose the file that was named when the run ended: rescued-run-….json.");
    try {
        const json j = objectIn(file.readAll().toStdString(), "the file");
        if (need<std::string>(j, "format") != kFormat || need<int>(j, "version") != 1)
            throw Damage("format", "this is no rest of a run that this version reads");
        Rescue r;
        r.run = need<Id>(j, "run");
        r.startedAt = need<std::string>(j, "started_at");
        for (const json& t : list(j, "traces")) {
            r.points.push_back(need<std::string>(t, "point"));
            r.batch.samples.push_back(samplesFrom(t));
        }
        const Run rest = runFromJson(part(j, "rest"));
        r.batch.marks = rest.marks;
        r.closing = {rest.stopped, rest.sheet};
        return r;
    } catch (const Damage& damage) {
        std::string what = damage.what();
        if (!what.ends_with('.'))
            what += '.';
        return problem("bad_rescue", path.toStdString(), what,
                       "Take the file as it was written; what is in the book already is whole without it.");
    }
}

Result<Id> bringIn(const QString& book, const QString& path) {
    const auto rescue = readRescue(path);
    if (!rescue)
        return tl::unexpected(rescue.error());
    double begins = HUGE_VAL;
    for (const auto& samples : rescue->batch.samples)
        begins = samples.empty() ? begins : std::min(begins, samples.front().time);
    enum class Fits { Yes, NoRun, Already };
    const auto fits = guarded(book, [&] {
        Connection c(book, Connection::Mode::ReadWrite);
        Answer q = c.run("SELECT max(last_s) FROM run LEFT JOIN trace ON run_id = run.id LEFT JOIN chunk ON trace_id ="
                         " trace.id WHERE run.id = ? AND started_at = ? GROUP BY run.id",
                         rescue->run, rescue->startedAt);
        if (!q.next())
            return Fits::NoRun;
        if (Row(q).maybe(0).value_or(-1.0) >= begins)
            return Fits::Already;
        q.finish();
        // It may have been closed as it was meanwhile: what was missing is the same.
        c.run("UPDATE run SET open = 1 WHERE id = ?", rescue->run);
        return Fits::Yes;
    });
    if (!fits)
        return tl::unexpected(fits.error());
    if (*fits == Fits::NoRun)
        return problem("no_run", path.toStdString(), "this book does not hold the run that this is the rest of.",
                       "Open the book that the run was captured into, or a copy of it.");
    if (*fits == Fits::Already)
        return problem("already_in", path.toStdString(), "the run holds this already; nothing was changed.");
    auto capture = Capture::resume(book, rescue->run);
    if (!capture)
        return tl::unexpected(capture.error());
    if (auto done = (*capture)->append(rescue->batch); !done)
        return tl::unexpected(done.error());
    if (auto done = (*capture)->finish(rescue->closing); !done)
        return tl::unexpected(done.error());
    return rescue->run;
}

} // namespace otterstone::book
