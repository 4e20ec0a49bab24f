// `otterstone-cli live` on a fake bench, with its load on.
#pragma once

#include <QProcess>
#include <QTest>

#include <fcntl.h>
#include <unistd.h>

#include "bench_harness.h"
#include "fake_bench.h"
#include "where.h"

namespace otterstone::testing {

class LiveCommand {
public:
    FakeBench bench;
    OneBank one;
    QProcess process;
    enum class Words { Read, NobodyReads } words = Words::Read; ///< of what it prints
    ~LiveCommand() {
        process.disconnect(); // whoever listened may be gone
        process.kill();
        process.waitForFinished(5000);
        for (const int end : full_) {
            if (end >= 0)
                ::close(end);
        }
    }

    /// A profile as a file; `printing`: of a meter that sends by itself.
    QString profile(bench::Kind kind, bool printing = false) {
        return write(QString::fromStdString(bench::kindName(kind)) + ".json",
                     QByteArray::fromStdString(bench::toJson(FakeBench::profile(kind, printing))));
    }
    /// Begins a drain at 1 A that would take so many seconds; true when the load is on.
    [[nodiscard]] bool begin(int seconds = 3600) {
        one.book.reset();
        const QString recipe = write(
            "drain.json",
            R"({"format": "otterstone-recipe", "version": 1, "key": "drain", "name": "A drain", "kind": "drain", "needs": ["meter", "load"],
            "closing_s": 1, "steps": [{"do": "load", "amps": 1, "seconds": )" +
                QByteArray::number(seconds) + "}]}");
        QStringList command{where::cli()};
        command << QStringList{"live",      one.path,
                               "--bank",    "Pebble 5",
                               "--recipe",  recipe,
                               "--meter",   profile(bench::Kind::Meter, true) + "@" + bench.meter.address().text,
                               "--load",    profile(bench::Kind::Load) + "@" + bench.load.address().text,
                               "--checked", "--json"};
        if (words == Words::NobodyReads) { // a pipe that is full from the start, whose other end is open
            if (::pipe(full_) != 0)
                return false;
            ::fcntl(full_[1], F_SETFL, O_NONBLOCK);
            const char filling[4096] = {};
            while (::write(full_[1], filling, sizeof filling) > 0) {
            }
            ::fcntl(full_[1], F_SETFL, 0);
            const QString into = QString::number(full_[1]);
            command = QStringList{"/bin/sh", "-c", "exec \"$0\" \"$@\" >/proc/self/fd/" + into + " 2>&1"} + command;
        }
        process.start(command.first(), command.mid(1));
        return QTest::qWaitFor([this] { return bench.on.load(); }, 20000);
    }

private:
    QString write(const QString& name, const QByteArray& text) {
        QFile file(folder_.filePath(name));
        return file.open(QIODevice::WriteOnly) && file.write(text) == text.size() ? file.fileName() : QString();
    }
    QTemporaryDir folder_;
    int full_[2] = {-1, -1};
};

} // namespace otterstone::testing
