#include "app/gear/ripple_list.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/wrapped_label.h"

namespace otterstone::app {

namespace {

constexpr std::size_t kAtOnce = 12; // more would be laid out for longer than they are read

QLabel* words(const QString& text, double scale, bool faint) {
    auto* label = new WrappedLabel(text);
    label->setTextFormat(Qt::PlainText);
    label->setFont(app::font(scale));
    if (faint)
        label->setObjectName(QStringLiteral("faint"));
    return label;
}

} // namespace

RippleList::RippleList(QWidget* parent)
    : QWidget(parent), title_(words(tr("What changed"), 1.0, false)), count_(words({}, 0.92, true)),
      rows_(words({}, 0.92, false)), rest_(new QPushButton) {
    title_->setFont(app::font(1.0, QFont::DemiBold));
    title_->setContentsMargins(0, kGrid, 0, 0);
    rest_->setObjectName(QStringLiteral("quiet"));
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    rows_->setTextFormat(Qt::RichText);
    all->addWidget(title_);
    all->addWidget(count_);
    all->addWidget(rows_);
    all->addWidget(rest_);
    connect(rest_, &QPushButton::clicked, this, &RippleList::drawRest);
    clear();
}

void RippleList::clear() {
    text_.clear();
    folded_.clear();
    runs_ = changed_ = drawn_ = 0;
    for (QWidget* w : std::initializer_list<QWidget*>{title_, count_, rows_, rest_})
        w->hide();
}

void RippleList::begin() {
    clear();
    count_->setText(tr("Looking at what that changes…"));
    title_->show();
    count_->show();
}

void RippleList::add(const std::vector<book::Ripple>& ripples) {
    std::vector<book::Ripple> now;
    for (const book::Ripple& r : ripples) {
        runs_ += r.run != records::kNew ? 1 : 0;
        changed_ += r.run != records::kNew && !r.figures.empty() ? 1 : 0;
        (drawn_ + now.size() < kAtOnce ? now : folded_).push_back(r);
    }
    drawn_ += now.size();
    if (!now.empty())
        draw(now);
    tell(false);
}

void RippleList::finish() { tell(true); }

void RippleList::tell(bool all) {
    const std::size_t same = runs_ - changed_; // listed because they use it
    const QString others = changed_ == 1  ? tr("One run says something else now.")
                           : changed_ > 1 ? tr("%1 runs say something else now.").arg(changed_)
                           : same == 0    ? tr("No run uses it.")
                                          : QString();
    const QString these = same == 0   ? QString()
                          : same == 1 ? tr("One run that uses it says what it said.")
                                      : tr("%1 runs that use it say what they said.").arg(same);
    count_->setText(!all ? (runs_ == 1 ? tr("One run looked at so far…") : tr("%1 runs looked at so far…").arg(runs_))
                         : (others + QLatin1Char(' ') + these).trimmed());
    rest_->setVisible(all && !folded_.empty());
    rest_->setText(folded_.size() == 1 ? tr("Show the other row") : tr("Show the other %1 rows").arg(folded_.size()));
}

// As one text: labels of their own would each be laid out with all the others as it comes.
void RippleList::draw(const std::vector<book::Ripple>& ripples) {
    for (const book::Ripple& r : ripples) {
        QStringList lines;
        for (const together::FigureChange& f : r.figures)
            lines << (onScreen(f.label) + QStringLiteral(" \u00a0") + onScreen(f.before) + QStringLiteral(" → ") +
                      onScreen(f.after))
                         .toHtmlEscaped();
        if (lines.isEmpty())
            lines << tr("nothing that is shown changes");
        text_ += QStringLiteral("<p style='margin-top:%1px; margin-bottom:0px'><b>%2</b><br>%3</p>")
                     .arg(kGrid)
                     .arg((qs(r.bank) + QStringLiteral(", ") + qs(r.title)).toHtmlEscaped(),
                          lines.join(QStringLiteral("<br>")));
    }
    rows_->setText(text_);
    rows_->show();
}

void RippleList::drawRest() {
    draw(std::exchange(folded_, {}));
    rest_->hide();
}

} // namespace otterstone::app
