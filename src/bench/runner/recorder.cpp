#include "bench/runner/recorder.h"

#include <QDateTime>
#include <QDir>
#include <QTemporaryDir>

#include "book/exchange/rescue.h"

namespace otterstone::bench {

namespace {

constexpr int kAgainMs = 1000;

} // namespace

Recorder::Recorder(QObject* parent) : QObject(parent), again_(this), soon_(this) {
    again_.setInterval(kAgainMs);
    connect(&again_, &QTimer::timeout, this, &Recorder::write);
    soon_.setSingleShot(true);
    soon_.setInterval(0); // behind all that came in meanwhile: a slow disk takes it in one go
    connect(&soon_, &QTimer::timeout, this, &Recorder::write);
}

Recorder::~Recorder() = default;

void Recorder::begin(const QString& book, const records::Run& run, const std::vector<book::LiveTrace>& traces) {
    opened(book::Capture::begin(book, run, traces));
}
void Recorder::resume(const QString& book, records::Id run) { opened(book::Capture::resume(book, run)); }

void Recorder::opened(Result<std::unique_ptr<book::Capture>> capture) {
    pending_ = {};
    finishing_.reset();
    stuck_ = false;
    soon_.stop();
    if (!capture) {
        Q_EMIT failedToBegin(QString::fromStdString(capture.error().sentence()));
        return;
    }
    capture_ = std::move(*capture);
    Q_EMIT begun(capture_->run(), capture_->lastTime());
}

void Recorder::append(const book::Batch& batch) {
    if (!capture_)
        return;
    pending_.samples.resize(std::max(pending_.samples.size(), batch.samples.size()));
    for (std::size_t k = 0; k < batch.samples.size(); ++k)
        pending_.samples[k].insert(pending_.samples[k].end(), batch.samples[k].begin(), batch.samples[k].end());
    pending_.marks.insert(pending_.marks.end(), batch.marks.begin(), batch.marks.end());
    if (!stuck_) // or it is tried again in a while
        soon_.start();
}

void Recorder::finish(const book::Closing& closing) {
    if (!capture_)
        return;
    finishing_ = closing;
    if (!stuck_)
        soon_.start();
}

void Recorder::write() {
    if (!capture_)
        return;
    auto done = pending_.empty() ? Result<void>{} : capture_->append(pending_);
    if (done) {
        pending_ = {};
        Q_EMIT committed(capture_->lastTime());
        if (finishing_)
            done = capture_->finish(*finishing_);
    }
    if (!done) {
        stuck_ = true;
        again_.start();
        Q_EMIT stuck(QString::fromStdString(done.error().sentence()));
        return;
    }
    if (std::exchange(stuck_, false)) {
        again_.stop();
        Q_EMIT freed();
    }
    if (finishing_) {
        capture_.reset();
        Q_EMIT finished();
    }
}

void Recorder::giveUp(const QString& folder) {
    if (!capture_)
        return;
    again_.stop();
    soon_.stop();
    const QString name = QStringLiteral("/rescued-run-%1-%2.json")
                             .arg(capture_->run())
                             .arg(QDateTime::currentDateTimeUtc().toString(QStringLiteral("yyyyMMdd-HHmmss")));
    const book::Rescue rest{capture_->run(), capture_->startedAt(), capture_->points(), pending_,
                            finishing_.value_or(book::Closing{})};
    // The folder may lie on the very disk that is full. In a folder that everybody writes to a name of ours would be
    // guessed: one of its own is made there.
    QString kept;
    QTemporaryDir among(QDir::tempPath() + QStringLiteral("/otterstone-rescued-XXXXXX"));
    for (const QString& place : {folder, QDir::homePath(), among.path()}) {
        QDir().mkpath(place);
        if (book::writeRescue(place + name, rest)) {
            kept = place + name;
            break;
        }
    }
    among.setAutoRemove(!kept.startsWith(among.path()));
    capture_.reset();
    pending_ = {};
    Q_EMIT rescued(kept);
    Q_EMIT finished();
}

} // namespace otterstone::bench
