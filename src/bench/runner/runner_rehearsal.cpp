// The runner in a rehearsal: what hands would do, and the stand-in's time, which passes at the runner's word.
#include <algorithm>
#include <cmath>

#include "bench/runner/runner.h"
#include "bench/runner/runner_source.h"

namespace otterstone::bench {

namespace {

// Of a rehearsal, bench seconds that pass at once.
constexpr double kMostAtOnce = 20.0, kLeastAtOnce = 1.0, kChunksPerStep = 10.0, kMostReadingsAtOnce = 200.0,
                 kShortest = 1e-3;
constexpr double kFastestWarming = 0.1; // K/s; a bank takes minutes for a few kelvin

} // namespace

void Runner::askControl(const QByteArray& line, std::function<void(const QByteArray&)> answered) {
    if (!control_ || control_->state() != QAbstractSocket::ConnectedState)
        return;
    controlAnswers_.push_back(std::move(answered));
    control_->write(line + '\n');
    control_->flush();
}

// What a person would do at a bench of plugs and buttons, said to the stand-in.
void Runner::sayToHands(const Step& s) {
    std::string command = handsCommand(*s.hands);
    if (s.hands == Hands::Load || s.hands == Hands::LoadOut)
        command += " " + std::to_string(s.load) + " " + (s.hands == Hands::Load ? s.port : "OUT");
    else if (s.hands == Hands::Source)
        command += " " + (s.source >= 0 && static_cast<std::size_t>(s.source) < plan_.sources.size()
                              ? plan_.sources[static_cast<std::size_t>(s.source)].details
                              : std::string("{}"));
    askControl(QByteArray::fromStdString(command));
}

double Runner::untilTooWarm() const {
    return state_.progress.celsius
               ? std::max(kLeastAtOnce, (state_.stops->limits().celsius - *state_.progress.celsius) / kFastestWarming)
               : HUGE_VAL;
}

// In step with the stand-in, whatever the speed: nothing happens between what is said to an instrument and its hearing
// it, and no reading is late. Chunks are short against the present step and hold few readings; the stand-in ends one
// where a reading jumps.
void Runner::letTimePass() {
    if (!state_.inStep || state_.advancing || !controlAnswers_.empty() || !control_ ||
        control_->state() != QAbstractSocket::ConnectedState)
        return;
    for (const ScpiDevice* device :
         {loads_[0], loads_[1], triggers_[0].get(), triggers_[1].get(), thermometer_.get()}) {
        if (device && device->waiting() > 0)
            return;
    }
    const qint64 now = real_.elapsed();
    double most = kMostAtOnce;
    if (!sources_.empty() && sources_.front()->readings > 1)
        most = std::min(most, kMostReadingsAtOnce * std::max(1e-3, sources_.front()->usualStep));
    const bool within = phase_ == Phase::Running && state_.step < plan_.recipe.steps.size();
    const Step* step = within ? &plan_.recipe.steps[state_.step] : nullptr;
    if (phase_ == Phase::Connecting || phase_ == Phase::Waiting ||
        (step && (step->what == Step::Do::Ask || step->what == Step::Do::Tell || step->off)))
        most = std::min(most, kLeastAtOnce);
    else if (step && step->seconds > 0.0)
        most = std::clamp(step->seconds / kChunksPerStep, kLeastAtOnce, std::max(kLeastAtOnce, most));
    most = std::min(most, untilTooWarm());
    // Not beyond the moment at which a load that is on wants to hear something: its watchdog would switch it off.
    if (loads_.anyOn())
        most = std::clamp(state_.polledAt + kLoadHearsWithin - clock_.now(), kShortest, most);
    const double seconds = std::min(most, static_cast<double>(now - state_.advancedAt) * 1e-3 * plan_.rehearsal->speed);
    if (seconds <= 0.0)
        return;
    state_.chunk = seconds;
    state_.advancedAt = now;
    state_.advancing = true;
    const auto heard = [this](const QByteArray& line) {
        const QList<QByteArray> answer = line.trimmed().split(' ');
        bool ok = false;
        if (const double t = answer.front().toDouble(&ok); ok)
            clock_.sync(t);
        for (const auto& s : sources_) {
            if (s->meter && answer.size() == 3)
                s->meter->takeIn(answer[s->role == role::inputMeter ? 2 : 1].toLongLong());
        }
        state_.advancing = false;
        QTimer::singleShot(0, this, [this] {
            if (phase_ != Phase::Finished && phase_ != Phase::Idle)
                tick();
        });
    };
    askControl("ADVance " + QByteArray::number(seconds, 'f', 6), heard);
}

} // namespace otterstone::bench
