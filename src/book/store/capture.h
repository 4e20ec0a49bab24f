// A run on its way into the book. Samples come in batches; what was appended survives kill -9 and a power cut.
//
// Invariants, cited by number in tests:
//  1. An append that returns a problem has changed nothing and may be tried again with the same samples.
//  2. After an append that returned, an opened book shows the run up to its last sample, whether it was finished or
//  not.
//  3. Samples are never written to a file that is no longer the one the capture began with.
#pragma once

#include <limits>
#include <memory>
#include <vector>

#include <QString>

#include "book/names.h"
#include "core/records/run.h"
#include "core/trace/trace.h"

namespace otterstone::book {

class Connection;

/// One moment of one trace.
struct LiveSample {
    double time = 0.0; ///< seconds, never before the one that went before
    double volts = 0.0;
    double amps = 0.0;
    double celsius = std::numeric_limits<double>::quiet_NaN();
    double percent = std::numeric_limits<double>::quiet_NaN();
};

/// A trace that is captured: the first is the run's main one.
struct LiveTrace {
    AlsoTrace at;
    bool celsius = false, percent = false; ///< columns it has; fixed for the whole run
};

struct Batch {
    std::vector<std::vector<LiveSample>> samples; ///< one list per trace
    std::vector<records::Mark> marks;
    [[nodiscard]] bool empty() const;
};

/// What a run ends with.
struct Closing {
    std::string stopped;                 ///< why
    std::optional<records::Sheet> sheet; ///< what its steps showed, for the kinds that have one
};

class Capture {
public:
    /// Makes the run, open, and its traces. The book may be open elsewhere in this process.
    [[nodiscard]] static Result<std::unique_ptr<Capture>> begin(const QString& book, Run run,
                                                                const std::vector<LiveTrace>& traces);
    /// Goes on with a run that was left open. Problems: no_run.
    [[nodiscard]] static Result<std::unique_ptr<Capture>> resume(const QString& book, Id run);
    ~Capture();

    [[nodiscard]] Id run() const { return run_; }
    /// What tells this run from another book's of the same number.
    [[nodiscard]] const std::string& startedAt() const { return startedAt_; }
    /// Of its traces, the main one first.
    [[nodiscard]] std::vector<std::string> points() const;
    /// Of the last sample of any trace; 0 without one.
    [[nodiscard]] double lastTime() const;
    /// Problems: book_gone, book_failed.
    [[nodiscard]] Result<void> append(const Batch& batch);
    /// No more samples: the run is closed, with why.
    [[nodiscard]] Result<void> finish(const Closing& closing);

private:
    struct Stream {
        Id trace = kNew;
        std::string point;
        bool celsius = false, percent = false;
        bool fresh = false; ///< gone on with before its first sample: which columns it has, that one says
        int seq = 0;        ///< of the chunk that is being filled
        bool hasBefore = false;
        trace::Trace tail; ///< that chunk, behind the last sample of the one before
        long long samples = 0;
    };
    struct FileIdentity {
        unsigned long long device = 0, inode = 0;
        bool operator==(const FileIdentity&) const = default;
    };
    Capture(QString path, std::unique_ptr<Connection> connection);
    [[nodiscard]] static FileIdentity identityOf(const QString& path);
    void write(Stream& stream, const std::vector<LiveSample>& samples);
    void writeChunk(const Stream& stream) const;

    QString path_;
    FileIdentity identity_;
    std::unique_ptr<Connection> connection_;
    Id run_ = kNew;
    std::string startedAt_;
    std::vector<Stream> streams_;
};

} // namespace otterstone::book
