#include "bench/runner/session.h"

#include "bench/runner/recorder.h"
#include "bench/runner/runner.h"

namespace otterstone::bench {

Session::Session(QObject* parent, SystemClocks clocks)
    : QObject(parent), runner_(new Runner(nullptr, clocks)), recorder_(new Recorder) {
    runnerThread_.setObjectName(QStringLiteral("bench"));
    recorderThread_.setObjectName(QStringLiteral("recorder"));
    runner_->moveToThread(&runnerThread_);
    recorder_->moveToThread(&recorderThread_);
    connect(&runnerThread_, &QThread::finished, runner_, &QObject::deleteLater);
    connect(&recorderThread_, &QThread::finished, recorder_, &QObject::deleteLater);

    connect(runner_, &Runner::beginRecording, recorder_, &Recorder::begin);
    connect(runner_, &Runner::resumeRecording, recorder_, &Recorder::resume);
    connect(runner_, &Runner::record, recorder_, &Recorder::append);
    connect(runner_, &Runner::finishRecording, recorder_, &Recorder::finish);
    connect(runner_, &Runner::giveUpRecording, recorder_, &Recorder::giveUp);
    connect(recorder_, &Recorder::begun, runner_, &Runner::recorderBegun);
    connect(recorder_, &Recorder::failedToBegin, runner_, &Runner::recorderFailed);
    connect(recorder_, &Recorder::committed, runner_, &Runner::recorderCommitted);
    connect(recorder_, &Recorder::stuck, runner_, &Runner::recorderStuck);
    connect(recorder_, &Recorder::freed, runner_, &Runner::recorderFreed);
    connect(recorder_, &Recorder::rescued, runner_, &Runner::recorderRescued);
    connect(recorder_, &Recorder::finished, runner_, &Runner::recorderFinished);

    connect(runner_, &Runner::progressed, this, [this](const Progress& progress) {
        progress_ = progress;
        Q_EMIT progressed(progress);
    });
    connect(runner_, &Runner::finished, this, [this](const Outcome& outcome) {
        running_ = false;
        Q_EMIT finished(outcome);
    });
    connect(this, &Session::startWanted, runner_, &Runner::start);
    connect(this, &Session::stopWanted, runner_, &Runner::stop);
    connect(this, &Session::goOnWanted, runner_, &Runner::goOn);
    connect(this, &Session::stampWanted, runner_, &Runner::stamp);
    connect(this, &Session::shutDownWanted, runner_, &Runner::shutDown, Qt::BlockingQueuedConnection);
    runnerThread_.start();
    recorderThread_.start();
}

Session::~Session() { end(); }

void Session::end() {
    if (!runnerThread_.isRunning())
        return;
    runner_->disconnect(this);
    // The loads go off and what is still held is handed over; the recorder ends when it has written that.
    Q_EMIT shutDownWanted({});
    disconnect(runner_); // it goes in its own thread, and looks back at nobody
    QMetaObject::invokeMethod(
        recorder_, [] {}, Qt::BlockingQueuedConnection);
    runnerThread_.quit();
    runnerThread_.wait();
    recorderThread_.quit();
    recorderThread_.wait();
}

void Session::start(const Plan& plan) {
    plan_ = plan;
    running_ = true;
    progress_ = {};
    progress_.phase = Phase::Connecting;
    Q_EMIT started();
    Q_EMIT startWanted(plan, {});
}

void Session::stop(const QString& why) { Q_EMIT stopWanted(why, {}); }

void Session::goOn() { Q_EMIT goOnWanted({}); }

void Session::stamp(const records::Mark& mark) { Q_EMIT stampWanted(mark, {}); }

} // namespace otterstone::bench
