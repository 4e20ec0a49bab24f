// Writes a live run into the book from a thread of its own, so that neither the window nor the instruments wait for a
// disk.
#pragma once

#include <memory>

#include <QObject>
#include <QTimer>

#include "book/store/capture.h"

namespace otterstone::bench {

class Recorder : public QObject {
    Q_OBJECT

public:
    explicit Recorder(QObject* parent = nullptr);
    ~Recorder() override;

    // All to be called through the recorder's own thread.
    void begin(const QString& book, const records::Run& run, const std::vector<book::LiveTrace>& traces);
    void resume(const QString& book, records::Id run);
    /// Written as soon as the disk is free; what cannot be written is kept and tried again every second.
    void append(const book::Batch& batch);
    void finish(const otterstone::book::Closing& closing);
    /// What could not be written goes into a file of its own (book/exchange/rescue.h). Returns through rescued().
    void giveUp(const QString& folder);

Q_SIGNALS:
    void begun(long long run, double lastTime);
    void failedToBegin(const QString& sentence);
    /// All up to here is safe, seconds of the run.
    void committed(double upTo);
    void stuck(const QString& sentence);
    void freed();
    void finished();
    void rescued(const QString& file);

private:
    void write();
    void opened(Result<std::unique_ptr<book::Capture>> capture);

    std::unique_ptr<book::Capture> capture_;
    book::Batch pending_;
    std::optional<book::Closing> finishing_;
    QTimer again_, soon_;
    bool stuck_ = false;
};

} // namespace otterstone::bench
