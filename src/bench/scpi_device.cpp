#include "bench/scpi_device.h"

namespace otterstone::bench {

namespace {

constexpr int kCheckMs = 250;
constexpr long kPatience = 8; // checks: 2 s

} // namespace

ScpiDevice::ScpiDevice(const Profile& profile, Address address, QObject* parent) : QObject(parent), profile_(profile), link_(profile, std::move(address), this), late_(this) {
    connect(&link_, &Link::up, this, &ScpiDevice::cameUp);
    connect(&link_, &Link::down, this, [this] {
        const auto lost = std::exchange(questions_, {});
        for (const Question& q : lost) {
            if (q.got)
                q.got(std::nullopt);
        }
    });
    connect(&link_, &Link::line, this, &ScpiDevice::answered);
    connect(&late_, &QTimer::timeout, this, &ScpiDevice::checkLate);
    late_.start(kCheckMs);
}

void ScpiDevice::cameUp() {
    if (profile_.kind == Kind::Load && offOwed_)
        switchOff();
    link_.send(QByteArray::fromStdString(profile_.command("identify")));
    questions_.push_back({{}, [this](const QByteArray& text) { identity_ = QString::fromUtf8(text); }, checks_});
}

void ScpiDevice::set(const std::string& action, std::optional<double> value) {
    const std::string command = profile_.command(action, value);
    if (command.empty())
        return;
    if (action == "on")
        offOwed_ = true; // should it be lost meanwhile, it is switched off first thing
    link_.send(QByteArray::fromStdString(command));
}

void ScpiDevice::ask(const std::string& action, std::function<void(std::optional<double>)> got) {
    const std::string command = profile_.command(action);
    if (command.empty() || !link_.send(QByteArray::fromStdString(command))) {
        got(std::nullopt);
        return;
    }
    questions_.push_back({std::move(got), {}, checks_});
}

void ScpiDevice::switchOff() {
    offOwed_ = !link_.send(QByteArray::fromStdString(profile_.command("off")));
    if (!offOwed_) {
        checkErrors();
        Q_EMIT switchedOff();
    }
}

void ScpiDevice::checkErrors() {
    const std::string error = profile_.command("error");
    if (error.empty() || !link_.send(QByteArray::fromStdString(error)))
        return;
    questions_.push_back({{}, [this](const QByteArray& text) {
                              if (!text.startsWith("0") && !text.startsWith("+0"))
                                  Q_EMIT refused(QString::fromUtf8(text));
                          },
                          checks_});
}

void ScpiDevice::answered(const QByteArray& line) {
    if (questions_.empty())
        return;
    const Question q = questions_.front();
    questions_.pop_front();
    if (q.text)
        q.text(line);
    if (q.got) {
        bool ok = false;
        const double value = line.trimmed().toDouble(&ok);
        q.got(ok ? std::optional(value) : std::nullopt);
    }
}

void ScpiDevice::checkLate() {
    // After one answer failed to come nobody knows which question the next one belongs to: all are given up, and the line is begun anew.
    if (++checks_; questions_.empty() || checks_ - questions_.front().since <= kPatience)
        return;
    const auto lost = std::exchange(questions_, {});
    for (const Question& q : lost) {
        if (q.got)
            q.got(std::nullopt);
    }
    link_.close();
    link_.open();
}

} // namespace otterstone::bench
