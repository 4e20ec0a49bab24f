#include "app/widgets/working_drawer.h"

#include <algorithm>

#include <QClipboard>
#include <QGuiApplication>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QShortcut>
#include <QVBoxLayout>

#include "app/theme.h"
#include "core/findings/json.h"

namespace otterstone::app {

namespace {

// One source of doubt as a bar; its share of the squares is what it would save to be rid of it.
class BudgetBar : public QWidget {
public:
    BudgetBar(const QString& source, const QString& size, double share, QWidget* parent) : QWidget(parent), source_(source), size_(size), share_(share) {
        setMinimumHeight(38);
        setAccessibleName(QStringLiteral("%1: %2, %3 %").arg(source, size).arg(share * 100.0, 0, 'f', 0));
    }

protected:
    void paintEvent(QPaintEvent*) override {
        const Theme& t = theme();
        QPainter p(this);
        p.setFont(app::font(0.9));
        const int half = p.fontMetrics().height() + 2;
        p.setPen(t.ink);
        const int room = width() - p.fontMetrics().horizontalAdvance(size_) - kGrid;
        p.drawText(QRect(0, 0, room, half), Qt::AlignLeft | Qt::AlignVCenter, p.fontMetrics().elidedText(source_, Qt::ElideMiddle, room));
        p.setPen(t.faint);
        p.drawText(QRect(0, 0, width(), half), Qt::AlignRight | Qt::AlignVCenter, size_);
        p.setPen(Qt::NoPen);
        p.setBrush(t.line);
        p.drawRect(0, half + 2, width(), 6);
        p.setBrush(t.focus);
        p.drawRect(0, half + 2, std::max(2, static_cast<int>(width() * share_)), 6);
    }

private:
    QString source_;
    QString size_;
    double share_;
};

QLabel* text(const QString& words, const QFont& f, bool faint = false) {
    auto* label = new QLabel(words);
    label->setFont(f);
    label->setWordWrap(true);
    label->setTextFormat(Qt::PlainText);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    if (faint)
        label->setObjectName(QStringLiteral("faint"));
    return label;
}

} // namespace

WorkingDrawer::WorkingDrawer(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("sheet"));
    setAccessibleName(tr("Working"));
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(2 * kGrid, kGrid, kGrid, kGrid);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Working"));
    title->setFont(app::font(1.0, QFont::DemiBold));
    auto* copy = new QPushButton(tr("Copy as text"));
    copy->setObjectName(QStringLiteral("quiet"));
    auto* close = new QPushButton(tr("Close (Esc)"));
    close->setObjectName(QStringLiteral("quiet"));
    head->addWidget(title);
    head->addStretch();
    head->addWidget(copy);
    head->addWidget(close);
    all->addLayout(head);
    auto* scroll = new QScrollArea;
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inside = new QWidget;
    inside->setStyleSheet(QStringLiteral("background: transparent;"));
    scroll->setStyleSheet(QStringLiteral("QScrollArea { background: transparent; }"));
    body_ = new QVBoxLayout(inside);
    body_->setContentsMargins(0, 0, kGrid, 0);
    body_->setSpacing(kGrid / 2);
    scroll->setWidget(inside);
    all->addWidget(scroll);
    connect(copy, &QPushButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(qs(findings::asText(working_))); });
    connect(close, &QPushButton::clicked, this, &WorkingDrawer::closed);
    setMinimumWidth(340);
}

void WorkingDrawer::open(const Working& working) {
    working_ = working;
    while (QLayoutItem* item = body_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    addStep(working, 0);
    if (!working.isText)
        addBudget(working);
    body_->addStretch();
}

void WorkingDrawer::addStep(const Working& w, int depth) {
    auto* step = new QWidget;
    auto* column = new QVBoxLayout(step);
    column->setContentsMargins(depth * 2 * kGrid, depth == 0 ? 0 : kGrid / 2, 0, 0);
    column->setSpacing(2);
    if (w.isText) {
        column->addWidget(text(qs(w.label), app::font(0.95, QFont::DemiBold)));
        column->addWidget(text(qs(w.note), app::font(0.92), true));
    } else {
        column->addWidget(text(qs(w.label), app::font(0.95, QFont::DemiBold)));
        column->addWidget(text(qs(w.shown()), app::font(depth == 0 ? 1.6 : 1.1, QFont::DemiBold)));
        if (!w.formula.empty())
            column->addWidget(text(QStringLiteral("= ") + qs(w.formula), app::font(1.0)));
        if (!w.point.empty())
            column->addWidget(text(tr("at: %1").arg(qs(w.point)), app::font(0.92), true));
        if (!w.note.empty())
            column->addWidget(text(qs(w.note), app::font(0.92), true));
    }
    body_->addWidget(step);
    for (const Working& part : w.parts)
        addStep(part, depth + 1);
}

void WorkingDrawer::addBudget(const Working& w) {
    const Measured& m = w.value;
    const Unit unit = w.unit;
    const QString words = w.partialDoubt   ? tr("No ± without the meter's accuracy; known so far")
                          : m.hasDoubt() ? tr("Where the ± comes from")
                                         : tr("No ± is known for this figure");
    auto* title = text(words, app::font(0.95, QFont::DemiBold));
    title->setContentsMargins(0, 2 * kGrid, 0, 0);
    body_->addWidget(title);
    if (!m.hasDoubt())
        return;
    body_->addWidget(text(tr("Each bar is one source's share of the squared uncertainty; ± is for about 95 % (k = 2)."), app::font(0.9), true));
    std::vector<Contribution> parts = m.contributions();
    std::sort(parts.begin(), parts.end(), [](const Contribution& a, const Contribution& b) { return std::abs(a.u) > std::abs(b.u); });
    const double total = m.u() * m.u();
    for (const Contribution& c : parts) {
        const double factor = unit == Unit::Share ? 200.0 : 2.0;
        const QString size = QStringLiteral("± %1 %2").arg(qs(showNumber(std::abs(c.u) * factor, 2)), qs(symbol(unit)));
        body_->addWidget(new BudgetBar(qs(c.source), size, c.u * c.u / total, this));
    }
}

} // namespace otterstone::app
