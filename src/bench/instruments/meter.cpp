#include "bench/instruments/meter.h"

namespace otterstone::bench {

Meter::Meter(const Profile& profile, Address address, int askEveryMs, QObject* parent)
    : QObject(parent), profile_(profile), ask_(this) {
    if (profile_.lines) {
        lines_ = logs::LiveLines::make(*profile_.lines, profile_.key).value(); // checked when the profile was read
        printing_ = std::make_unique<Link>(profile_, std::move(address), this);
        connect(printing_.get(), &Link::line, this, [this](const QByteArray& line) {
            if (line.isEmpty())
                return;
            const auto read = lines_->read({line.constData(), static_cast<std::size_t>(line.size())});
            if (read)
                Q_EMIT reading(*read);
            else // a page's reader says itself what is wrong
                Q_EMIT spoiled(profile_.page ? QString::fromUtf8(line) : QString::fromStdString(read.error()));
        });
        connect(printing_.get(), &Link::up, this, [this] {
            if (!profile_.start.empty())
                printing_->send(QByteArray::fromStdString(profile_.start));
        });
    } else {
        asked_ = std::make_unique<ScpiDevice>(profile_, std::move(address), this);
        ask_.setInterval(askEveryMs);
        connect(&ask_, &QTimer::timeout, this, [this] {
            if (asked_->waiting() > 0)
                return;
            auto volts = std::make_shared<std::optional<double>>();
            asked_->ask("volts", [volts](std::optional<double> v) { *volts = v; });
            asked_->ask("amps", [this, volts](std::optional<double> amps) {
                if (*volts && amps)
                    Q_EMIT reading({std::nullopt, **volts, *amps, {}, {}});
                else if (isUp())
                    Q_EMIT spoiled(tr("no answer in numbers"));
            });
        });
    }
    connect(&link(), &Link::up, this, &Meter::up);
    connect(&link(), &Link::down, this, &Meter::down);
}

Link& Meter::link() const { return printing_ ? *printing_ : asked_->link(); }

void Meter::open() {
    link().open();
    if (asked_)
        ask_.start();
}

void Meter::close() {
    ask_.stop();
    link().close();
}

void Meter::takeRest() { link().takeRest(); }
void Meter::takeIn(qsizetype bytes) { link().takeIn(bytes); }

bool Meter::isUp() const { return link().isUp(); }
QString Meter::trouble() const { return link().trouble(); }

} // namespace otterstone::bench
