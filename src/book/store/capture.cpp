#include "book/store/capture.h"

#include <cmath>

#include <QDateTime>
#include <QFile>
#include <sys/stat.h>

#include "book/store/record_store.h"
#include "book/store/sql.h"
#include "book/store/trace_store.h"

namespace otterstone::book {

bool Batch::empty() const {
    return marks.empty() && std::all_of(samples.begin(), samples.end(), [](const auto& list) { return list.empty(); });
}

Capture::FileIdentity Capture::identityOf(const QString& path) {
    struct stat s {};
    if (::stat(QFile::encodeName(path).constData(), &s) != 0)
        return {};
    return {static_cast<unsigned long long>(s.st_dev), static_cast<unsigned long long>(s.st_ino)};
}

Capture::Capture(QString path, std::unique_ptr<Connection> connection)
    : path_(std::move(path)), identity_(identityOf(path_)), connection_(std::move(connection)) {}
Capture::~Capture() = default;

Result<std::unique_ptr<Capture>> Capture::begin(const QString& book, Run run, const std::vector<LiveTrace>& traces) {
    return guarded(book, [&] {
        std::unique_ptr<Capture> capture(
            new Capture(book, std::make_unique<Connection>(book, Connection::Mode::ReadWrite)));
        Connection& c = *capture->connection_;
        Transaction all(c);
        run.open = true;
        run.also.clear();
        capture->run_ = storeRun(c, run);
        capture->startedAt_ = run.startedAt;
        for (std::size_t k = 0; k < traces.size(); ++k) {
            const LiveTrace& t = traces[k];
            Stream s;
            s.celsius = t.celsius;
            s.percent = t.percent;
            s.point = t.at.key();
            s.trace = saveTrace(c, capture->run_, t.at.key(), trace::Trace{}, k == 0);
            c.run("UPDATE trace SET gear_id = ?, log_name = ? WHERE id = ?", t.at.meter, t.at.logName, s.trace);
            capture->streams_.push_back(std::move(s));
        }
        all.commit();
        return capture;
    });
}

Result<std::unique_ptr<Capture>> Capture::resume(const QString& book, Id run) {
    auto resumed = guarded(book, [&]() -> std::unique_ptr<Capture> {
        std::unique_ptr<Capture> capture(
            new Capture(book, std::make_unique<Connection>(book, Connection::Mode::ReadWrite)));
        Connection& c = *capture->connection_;
        capture->run_ = run;
        Answer q = c.run(
            "SELECT trace.id, trace.samples, trace.point, run.started_at FROM trace JOIN run ON run.id = run_id WHERE run_id = ? AND run.open = 1"
            " ORDER BY main DESC, trace.id",
            run);
        while (q.next()) {
            Stream s;
            s.trace = Row(q).whole(0);
            s.samples = Row(q).whole(1);
            s.point = Row(q).text(2);
            capture->startedAt_ = Row(q).text(3);
            const auto summaries = loadSummaries(c, s.trace);
            s.seq = summaries.empty() ? 0 : summaries.back().seq;
            s.hasBefore = s.seq > 0;
            // The chunk that was being filled, and one sample before it.
            s.tail = loadChunks(c, s.trace, s.seq, s.seq);
            if (s.hasBefore) {
                trace::Trace whole = loadChunks(c, s.trace, s.seq - 1, s.seq);
                if (whole.size() <= s.tail.size() || whole.volts.empty() || whole.amps.empty())
                    throw Damage("chunk", "a part of the trace is missing");
                const std::size_t first = whole.size() - s.tail.size() - 1;
                trace::Trace behind;
                behind.time.assign(whole.time.begin() + static_cast<std::ptrdiff_t>(first), whole.time.end());
                using trace::Trace;
                for (const auto column : {&Trace::volts, &Trace::amps, &Trace::temperature, &Trace::percent}) {
                    if (!(whole.*column).empty())
                        (behind.*column).append((whole.*column).part(first, whole.size() - first));
                }
                s.tail = std::move(behind);
            }
            s.celsius = !s.tail.temperature.empty();
            s.percent = !s.tail.percent.empty();
            s.fresh = s.tail.time.empty();
            capture->streams_.push_back(std::move(s));
        }
        return capture;
    });
    if (!resumed)
        return resumed;
    if ((*resumed)->streams_.empty())
        return problem("no_run", book.toStdString(), "there is no open run to go on with.");
    return resumed;
}

double Capture::lastTime() const {
    double last = 0.0;
    for (const Stream& s : streams_)
        last = std::max(last, s.tail.time.empty() ? 0.0 : s.tail.time.back());
    return last;
}

void Capture::writeChunk(const Stream& s) const {
    const std::size_t first = s.hasBefore ? 1 : 0;
    if (s.tail.size() > first)
        storeChunk(*connection_, s.trace, s.seq, s.tail, first, s.tail.size() - first);
}

std::vector<std::string> Capture::points() const {
    std::vector<std::string> all;
    for (const Stream& s : streams_)
        all.push_back(s.point);
    return all;
}

void Capture::write(Stream& s, const std::vector<LiveSample>& samples) {
    if (std::exchange(s.fresh, false)) {
        for (const LiveSample& x : samples) {
            s.celsius = s.celsius || !std::isnan(x.celsius);
            s.percent = s.percent || !std::isnan(x.percent);
        }
    }
    for (const LiveSample& x : samples) {
        if (s.tail.size() - (s.hasBefore ? 1 : 0) >= kChunkRows) {
            writeChunk(s);
            trace::Trace next;
            next.time.push_back(s.tail.time.back());
            next.volts.push_back(s.tail.volts.back());
            next.amps.push_back(s.tail.amps.back());
            if (s.celsius)
                next.temperature.push_back(s.tail.temperature.back());
            if (s.percent)
                next.percent.push_back(s.tail.percent.back());
            s.tail = std::move(next);
            s.hasBefore = true;
            ++s.seq;
        }
        s.tail.time.push_back(x.time);
        s.tail.volts.push_back(x.volts);
        s.tail.amps.push_back(x.amps);
        if (s.celsius)
            s.tail.temperature.push_back(x.celsius);
        if (s.percent)
            s.tail.percent.push_back(x.percent);
    }
    s.samples += static_cast<long long>(samples.size());
    writeChunk(s);
    connection_->run("UPDATE trace SET samples = ? WHERE id = ?", s.samples, s.trace);
}

Result<void> Capture::append(const Batch& batch) {
    // Writing on into a file that was deleted or replaced would succeed, and lose everything.
    if (identityOf(path_) != identity_ || identity_.inode == 0)
        return problem("book_gone", path_.toStdString(), "the book's file is no longer there.",
                       "Put the disk, or the file, back in its place; what was measured is kept until then.");
    const std::vector<Stream> before = streams_;
    auto done = guarded(path_, [&] {
        Transaction all(*connection_);
        for (std::size_t k = 0; k < batch.samples.size() && k < streams_.size(); ++k) {
            if (!batch.samples[k].empty())
                write(streams_[k], batch.samples[k]);
        }
        for (const records::Mark& m : batch.marks)
            connection_->run(
                "INSERT INTO mark SELECT ?, coalesce(max(position), -1) + 1, ?, ?, ?, ? FROM mark WHERE run_id = ?",
                run_, m.at, records::markKey(m.what), m.number, m.text, run_);
        connection_->run("UPDATE run SET captured_at = ? WHERE id = ?",
                         QDateTime::currentDateTimeUtc().toString(Qt::ISODateWithMs), run_);
        all.commit();
    });
    if (!done)
        streams_ = before;
    return done;
}

Result<void> Capture::finish(const Closing& closing) {
    if (identityOf(path_) != identity_)
        return append({});
    return guarded(path_, [&] {
        Transaction all(*connection_);
        for (const Stream& s : streams_) {
            const trace::Trace first = loadChunks(*connection_, s.trace, 0, 0);
            connection_->run("UPDATE trace SET volts_step = ?, amps_step = ? WHERE id = ?",
                             trace::resolutionOf(first.volts), trace::resolutionOf(first.amps), s.trace);
        }
        const auto run = loadRun(*connection_, run_);
        if (run) {
            Run closed = *run;
            closed.open = false;
            closed.stopped = closing.stopped;
            closed.sheet = closing.sheet;
            (void)storeRun(*connection_, closed);
        }
        all.commit();
    });
}

} // namespace otterstone::book
