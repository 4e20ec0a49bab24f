#include "bench/instruments/scpi_device.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "bench/instruments/off_watcher.h"
#include "core/quantity/format.h"

namespace otterstone::bench {

namespace {

constexpr int kCheckMs = 250;
constexpr long kPatience = 8;      // checks: 2 s
constexpr long kStatePatience = 4; // a load that knows the question answers at once; one that doesn't, never
constexpr long kSayOffEvery = 2;
constexpr long kWatchedEvery = 4;
constexpr int kDrewTwice = 2; // one reading beside the others is noise
constexpr int kBabble = 10;   // lines within a check that nobody asked for

// Whether an instrument of this profile can have said this.
bool plausible(const Profile& p, const std::string& action, double value) {
    if (!std::isfinite(value))
        return false;
    const double size = std::fabs(value);
    return action == "volts"         ? size <= p.most.volts
           : action == "amps"        ? size <= p.most.amps
           : action == "temperature" ? value >= p.most.leastCelsius && value <= p.most.mostCelsius
                                     : true;
}

// "0", "OFF", "1", "ON".
std::optional<bool> offIn(const QByteArray& text) {
    const QByteArray word = text.trimmed().toUpper();
    if (word == "0" || word == "OFF")
        return true;
    return word == "1" || word == "ON" ? std::optional(false) : std::nullopt;
}

} // namespace

ScpiDevice::ScpiDevice(const Profile& profile, Address address, QObject* parent)
    : QObject(parent), profile_(profile), link_(profile, std::move(address), this), late_(this),
      saysState_(!profile.command("state").empty()) {
    connect(&link_, &Link::up, this, &ScpiDevice::cameUp);
    connect(&link_, &Link::down, this, [this] {
        if (isGuarded() && off_ != Off::Confirmed)
            guard(profile_, link_.address(), -1);
        giveUpQuestions();
    });
    connect(&link_, &Link::line, this, &ScpiDevice::answered);
    connect(&late_, &QTimer::timeout, this, &ScpiDevice::checkLate);
    late_.start(kCheckMs);
    heard_.start();
}

void ScpiDevice::cameUp() {
    if (profile_.kind == Kind::Load) {
        // Lost with its load on, or never known: off, before anything else is said.
        if (off_ != Off::Confirmed || refusesOff_)
            switchOff();
    }
    const std::string identify = profile_.command("identify");
    if (!identify.empty() && link_.send(QByteArray::fromStdString(identify)))
        questions_.push_back({{},
                              [this](const QByteArray& text) { identity_ = QString::fromUtf8(text.left(200)); },
                              checks_,
                              "identify"});
}

void ScpiDevice::set(const std::string& action, std::optional<double> value) {
    const std::string command = profile_.command(action, value);
    if (command.empty())
        return;
    if (action == "on") {
        off_ = Off::On; // should it be lost meanwhile, it is switched off first thing
        if (isGuarded())
            guard(profile_, link_.address(), link_.descriptor());
    }
    link_.send(QByteArray::fromStdString(command));
}

void ScpiDevice::ask(const std::string& action, Got got) { put(action, std::move(got), false); }

void ScpiDevice::put(const std::string& action, Got got, bool ofOff) {
    const std::string command = profile_.command(action);
    if (command.empty() || !link_.send(QByteArray::fromStdString(command))) {
        got(std::nullopt);
        return;
    }
    questions_.push_back({std::move(got), {}, checks_, action, ofOff});
}

void ScpiDevice::switchOff() {
    if (off_ != Off::Told) {
        toldOff_.start();
        ++telling_;
        said_ = before_ = {};
    }
    off_ = Off::Told;
    refusesOff_ = false;
    sayOff();
    if (isGuarded())
        guard(profile_, link_.address(), link_.descriptor());
}

void ScpiDevice::sayOff() {
    if (!link_.send(QByteArray::fromStdString(profile_.command("off"))))
        return;
    // It is slow: what it still owes of itself comes first. Other questions in the line are no reason to wait: one
    // that is read all the time would never be asked.
    if (std::any_of(questions_.begin(), questions_.end(), [](const Question& q) { return q.ofOff; }))
        return;
    before_ = lastSaid(); // it is told again twice a second: between two answers it is not silent
    said_ = {};
    errorsHeard_ = profile_.command("error").empty();
    checkErrors();
    askBack();
}

// What it says of itself, now that it was told. An answer to a question from before it was told says nothing of it: the
// load may have been on in between.
void ScpiDevice::askBack() {
    const int telling = telling_;
    if (saysState_ && link_.send(QByteArray::fromStdString(profile_.command("state"))))
        questions_.push_back({{},
                              [this, telling](const QByteArray& text) {
                                  if (telling != telling_)
                                      return;
                                  said_.inputOff = offIn(text);
                                  if (!said_.inputOff)
                                      saysState_ = false; // it does not know the question
                                  concludeOff();
                              },
                              checks_,
                              "state",
                              true});
    put(
        "amps",
        [this, telling](std::optional<double> amps) {
            if (telling != telling_)
                return;
            said_.amps = amps;
            concludeOff();
        },
        true);
}

void ScpiDevice::concludeOff() {
    seemsOff_ = false;
    if (off_ != Off::Told || !link_.isUp() || babbles_)
        return;
    const bool saysAmps = !profile_.command("amps").empty();
    const bool stateSaysOff = !saysState_ || said_.inputOff.value_or(false);
    const bool idle = !saysAmps || (said_.amps && std::fabs(*said_.amps) <= profile_.idleAmps);
    const bool silent = !saysState_ && !saysAmps; // what it complains of is all that is heard of it
    if (!stateSaysOff || !idle || (silent && (!errorsHeard_ || !said_.complaint.isEmpty())))
        return;
    seemsOff_ = true;
}

void ScpiDevice::confirmOff() {
    off_ = Off::Confirmed;
    drewWhileOff_ = 0;
    if (isGuarded())
        release(profile_, link_.address());
    Q_EMIT switchedOff();
}

void ScpiDevice::look() {
    if (!saysState_ || off_ != Off::Confirmed || !link_.send(QByteArray::fromStdString(profile_.command("state"))))
        return;
    questions_.push_back({{},
                          [this](const QByteArray& text) {
                              if (off_ == Off::Confirmed && offIn(text) == false)
                                  findOn();
                          },
                          checks_,
                          "look"});
}

void ScpiDevice::readsWhileOff(double amps) {
    drewWhileOff_ = std::fabs(amps) > profile_.idleAmps ? drewWhileOff_ + 1 : 0;
    if (drewWhileOff_ >= kDrewTwice)
        findOn();
}

void ScpiDevice::findOn() {
    off_ = Off::FoundOn;
    if (isGuarded())
        guard(profile_, link_.address(), link_.descriptor());
}

ScpiDevice::Said ScpiDevice::lastSaid() const {
    return {said_.inputOff ? said_.inputOff : before_.inputOff, said_.amps ? said_.amps : before_.amps,
            errorsHeard_ ? said_.complaint : before_.complaint};
}

bool ScpiDevice::saysOn() const {
    const Said said = lastSaid();
    return off_ != Off::Confirmed &&
           (said.inputOff == false || (said.amps && std::fabs(*said.amps) > profile_.idleAmps));
}

QString ScpiDevice::whyNotOff() const {
    if (off_ == Off::Confirmed)
        return {};
    if (!link_.isUp())
        return tr("it cannot be reached: %1").arg(link_.trouble());
    if (foundOn())
        return tr("somebody else switched it on");
    if (babbles_)
        return tr("it talks without a pause, and so answers nothing");
    const Said said = lastSaid();
    if (saysState_ && said.inputOff == false)
        return said.complaint.isEmpty() ? tr("it says that its input is on") : tr("it refuses: %1").arg(said.complaint);
    if (said.amps && std::fabs(*said.amps) > profile_.idleAmps)
        return tr("it still draws %1 A").arg(QString::fromStdString(showNumber(std::fabs(*said.amps), 3)));
    return said.complaint.isEmpty() ? tr("it does not answer") : tr("it refuses: %1").arg(said.complaint);
}

void ScpiDevice::checkErrors() {
    const std::string error = profile_.command("error");
    if (error.empty() || !link_.send(QByteArray::fromStdString(error)))
        return;
    questions_.push_back({{},
                          [this, off = off_ == Off::Told](const QByteArray& text) {
                              const bool complains = !text.startsWith("0") && !text.startsWith("+0");
                              errorsHeard_ = true;
                              if (off && complains)
                                  said_.complaint = QString::fromUtf8(text.left(200));
                              // One that refuses to be off is told again twice a second: once is enough to be said.
                              if (complains && (!off || !std::exchange(refusesOff_, true)))
                                  Q_EMIT refused(QString::fromUtf8(text.left(200)));
                              if (off)
                                  concludeOff();
                          },
                          checks_,
                          "error",
                          off_ == Off::Told});
}

void ScpiDevice::answered(const QByteArray& line) {
    if (questions_.empty()) {
        ++unasked_;
        return;
    }
    const Question q = questions_.front();
    questions_.pop_front();
    bool ok = false;
    const double value = line.trimmed().toDouble(&ok);
    ok = q.text || (ok && plausible(profile_, q.action, value));
    if (ok && !babbles_)
        heard_.restart();
    if (ok && q.action == "amps" && profile_.kind == Kind::Load && off_ == Off::Confirmed)
        readsWhileOff(value);
    if (q.text)
        q.text(line);
    if (q.got)
        q.got(ok ? std::optional(value) : std::nullopt);
}

void ScpiDevice::giveUpQuestions() {
    const auto lost = std::exchange(questions_, {});
    for (const Question& q : lost) {
        if (q.got)
            q.got(std::nullopt);
    }
}

void ScpiDevice::checkLate() {
    ++checks_;
    const int unasked = std::exchange(unasked_, 0);
    babbles_ = unasked >= kBabble;
    if (std::exchange(seemsOff_, false) && off_ == Off::Told && link_.isUp() && unasked == 0)
        confirmOff();
    if (babbles_ && profile_.kind == Kind::Load && off_ == Off::Confirmed)
        switchOff(); // what was taken for its word was none
    if (isGuarded() && off_ != Off::Confirmed && checks_ % kWatchedEvery == 0)
        watched(profile_, link_.address());
    if (!questions_.empty() &&
        checks_ - questions_.front().since > (questions_.front().action == "state" ? kStatePatience : kPatience)) {
        // After one answer failed to come nobody knows which question the next one belongs to: all are given up, and
        // the line is begun anew.
        if (questions_.front().action == "state")
            saysState_ = false;
        giveUpQuestions();
        link_.close();
        link_.open();
        return;
    }
    if (off_ == Off::Told && checks_ % kSayOffEvery == 0)
        sayOff();
}

} // namespace otterstone::bench
