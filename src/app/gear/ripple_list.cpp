#include "app/gear/ripple_list.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "app/widgets/side_panel.h"

namespace otterstone::app {

namespace {

constexpr int kAtOnce = 40; // more would be laid out for longer than they are read

QLabel* words(const QString& text, double scale, bool faint) {
    auto* label = new QLabel(text);
    label->setWordWrap(true);
    label->setTextFormat(Qt::PlainText);
    label->setFont(app::font(scale));
    if (faint)
        label->setObjectName(QStringLiteral("faint"));
    return label;
}

} // namespace

RippleList::RippleList(QWidget* parent)
    : QWidget(parent), title_(words(tr("What changed"), 1.0, false)), count_(words({}, 0.92, true)),
      rows_(new QVBoxLayout), rest_(new QPushButton) {
    title_->setFont(app::font(1.0, QFont::DemiBold));
    title_->setContentsMargins(0, kGrid, 0, 0);
    rest_->setObjectName(QStringLiteral("quiet"));
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    rows_->setSpacing(kGrid / 2);
    all->addWidget(title_);
    all->addWidget(count_);
    all->addLayout(rows_);
    all->addWidget(rest_);
    connect(rest_, &QPushButton::clicked, this, &RippleList::drawRest);
    clear();
}

void RippleList::clear() {
    emptyLayout(rows_);
    folded_.clear();
    runs_ = changed_ = 0;
    for (QWidget* w : std::initializer_list<QWidget*>{title_, count_, rest_})
        w->hide();
}

void RippleList::begin() {
    clear();
    count_->setText(tr("Looking at what that changes…"));
    title_->show();
    count_->show();
}

void RippleList::add(const std::vector<book::Ripple>& ripples) {
    for (const book::Ripple& r : ripples) {
        runs_ += r.run != records::kNew ? 1 : 0;
        changed_ += r.run != records::kNew && !r.figures.empty() ? 1 : 0;
        if (rows_->count() < 2 * kAtOnce)
            draw(r);
        else
            folded_.push_back(r);
    }
    tell(false);
}

void RippleList::finish() { tell(true); }

void RippleList::tell(bool all) {
    const std::size_t same = runs_ - changed_; // listed because they use it
    const QString others = changed_ == 1  ? tr("One run says something else now.")
                           : changed_ > 1 ? tr("%1 runs say something else now.").arg(changed_)
                           : same == 0    ? tr("No run uses it, so nothing changes.")
                                          : QString();
    const QString these = same == 0   ? QString()
                          : same == 1 ? tr("One run that uses it says what it said.")
                                      : tr("%1 runs that use it say what they said.").arg(same);
    count_->setText(!all ? (runs_ == 1 ? tr("One run looked at so far…") : tr("%1 runs looked at so far…").arg(runs_))
                         : (others + QLatin1Char(' ') + these).trimmed());
    rest_->setVisible(all && !folded_.empty());
    rest_->setText(folded_.size() == 1 ? tr("Show the other row") : tr("Show the other %1 rows").arg(folded_.size()));
}

void RippleList::draw(const book::Ripple& r) {
    QLabel* name = words(qs(r.bank) + QStringLiteral(", ") + qs(r.title), 0.95, false);
    name->setContentsMargins(0, kGrid / 2, 0, 0);
    rows_->addWidget(name);
    QStringList lines;
    for (const together::FigureChange& f : r.figures)
        lines << qs(f.label) + QStringLiteral("  ") + qs(f.before) + QStringLiteral(" → ") + qs(f.after);
    if (lines.isEmpty())
        lines << tr("nothing that is shown changes");
    rows_->addWidget(words(lines.join(QLatin1Char('\n')), 0.92, true));
}

void RippleList::drawRest() {
    for (const book::Ripple& r : std::exchange(folded_, {}))
        draw(r);
    rest_->hide();
}

} // namespace otterstone::app
