#include "bench/instruments/listener.h"

namespace otterstone::bench {

namespace {

constexpr std::size_t kEnoughLines = 40;
constexpr std::size_t kShownLines = 6;

} // namespace

void Listener::listen(const Profile& as, const Address& address, int milliseconds) {
    stop();
    as_ = as;
    lines_.clear();
    link_ = std::make_unique<Link>(as, address);
    connect(link_.get(), &Link::line, this, [this](const QByteArray& line) {
        if (line.trimmed().isEmpty())
            return;
        lines_.push_back(line.toStdString());
        if (lines_.size() == kEnoughLines)
            done_.start(0); // not within the link's own signal
    });
    done_.setSingleShot(true);
    done_.disconnect(this);
    connect(&done_, &QTimer::timeout, this, &Listener::conclude);
    done_.start(milliseconds);
    link_->open();
}

void Listener::stop() {
    done_.stop();
    link_.reset();
}

void Listener::conclude() {
    if (!link_)
        return;
    const QString trouble = link_->isUp() ? QString() : link_->trouble();
    stop();
    if (!trouble.isEmpty()) {
        Q_EMIT failed(tr("It cannot be opened: %1.").arg(trouble));
        return;
    }
    if (lines_.empty()) {
        Q_EMIT failed(tr("Nothing was heard. Check the port and the baud rate, and that the meter is printing."));
        return;
    }
    // The first may have begun before anyone listened.
    if (lines_.size() > 4)
        lines_.erase(lines_.begin());
    const auto guessed = logs::guessFormat(lines_, "what was heard");
    if (!guessed) {
        Q_EMIT failed(QString::fromStdString(guessed.error().sentence()) +
                      tr(" The first line: “%1”").arg(QString::fromStdString(lines_.front()).left(60)));
        return;
    }
    Heard h;
    h.profile = as_;
    h.profile.kind = Kind::Meter;
    h.profile.lines = guessed->format;
    h.profile.scpi.clear();
    h.reasons = guessed->reasons;
    h.lines.assign(lines_.begin(), lines_.begin() + static_cast<std::ptrdiff_t>(std::min(kShownLines, lines_.size())));
    Q_EMIT heard(h);
}

} // namespace otterstone::bench
