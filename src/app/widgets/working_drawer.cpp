#include "app/widgets/working_drawer.h"

#include <algorithm>

#include <QClipboard>
#include <QGuiApplication>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/help/figure_words.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/wrapped_label.h"
#include "core/kinds/traced/json.h"
#include "core/setup/schools.h"

namespace otterstone::app {

namespace {

// One source of doubt as a bar; its share of the squares is what it would save to be rid of it.
class BudgetBar : public QWidget {
public:
    BudgetBar(const QString& source, const QString& size, double share, QWidget* parent)
        : QWidget(parent), source_(source), size_(size), share_(share) {
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
        p.drawText(QRect(0, 0, room, half), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(source_, Qt::ElideMiddle, room));
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
    auto* label = new WrappedLabel(words);
    label->setFont(f);
    label->setTextFormat(Qt::PlainText);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    if (faint)
        label->setObjectName(QStringLiteral("faint"));
    return label;
}

} // namespace

WorkingDrawer::WorkingDrawer(QWidget* parent) : SidePanel(tr("Working"), parent) {
    setAccessibleName(tr("Working"));
    auto* copy = new QPushButton(tr("Copy as text"));
    copy->setObjectName(QStringLiteral("quiet"));
    head()->insertWidget(2, copy);
    body()->setSpacing(kGrid / 2);
    connect(copy, &QPushButton::clicked, this, [this] {
        QGuiApplication::clipboard()->setText(qs(kinds::asText(working_) + kinds::budgetText(working_)));
    });
}

void WorkingDrawer::open(const Working& working) {
    working_ = working;
    schools_.clear();
    if (!working.question.empty() && !working.others.empty()) {
        schools_.push_back(working);
        schools_.insert(schools_.end(), working.others.begin(), working.others.end());
    }
    unfold();
}

void WorkingDrawer::showSchool(const std::string& school) {
    for (const Working& w : schools_) {
        if (w.school == school)
            working_ = w;
    }
    unfold();
}

void WorkingDrawer::addSchools() {
    const setup::Question& q = setup::question(schools_.front().question);
    auto* holder = new QWidget;
    auto* column = new QVBoxLayout(holder);
    column->setContentsMargins(0, 0, 0, kGrid);
    column->setSpacing(2);
    column->addWidget(text(tr("Testers disagree: %1").arg(qs(q.words.substr(0, 1)).toLower() + qs(q.words.substr(1))),
                           app::font(0.92), true));
    for (const Working& w : schools_) {
        for (const setup::Answer& a : q.answers) {
            if (a.key != w.school)
                continue;
            const bool shown = w.school == working_.school;
            auto* button = new QPushButton((shown ? QStringLiteral("● ") : QStringLiteral("○ ")) + qs(a.words) +
                                           QStringLiteral("   ") + onScreen(w.shown()));
            button->setObjectName(QStringLiteral("quiet"));
            button->setProperty("reads", true);
            button->setAccessibleName(tr("%1: %2").arg(qs(a.words), onScreen(w.shown())));
            connect(button, &QPushButton::clicked, this, [this, school = w.school] { showSchool(school); });
            column->addWidget(button);
        }
    }
    if (working_.school != schools_.front().school) {
        auto* house = new QPushButton(tr("Make it the house's choice"));
        connect(house, &QPushButton::clicked, this,
                [this] { Q_EMIT houseChosen(qs(working_.question), qs(working_.school)); });
        column->addWidget(house, 0, Qt::AlignLeft);
    }
    body()->addWidget(holder);
}

void WorkingDrawer::unfold() {
    emptyLayout(body());
    if (!schools_.empty())
        addSchools();
    addStep(working_, 0);
    if (!working_.isText)
        addBudget(working_);
    body()->addStretch();
}

void WorkingDrawer::addStep(const Working& w, int depth) {
    auto* step = new QWidget;
    auto* column = new QVBoxLayout(step);
    column->setContentsMargins(depth * 2 * kGrid, depth == 0 ? 0 : kGrid / 2, 0, 0);
    column->setSpacing(2);
    if (w.isText) {
        column->addWidget(text(onScreen(w.label), app::font(0.95, QFont::DemiBold)));
        column->addWidget(text(onScreen(w.note), app::font(0.92), true));
    } else {
        column->addWidget(text(onScreen(w.label), app::font(0.95, QFont::DemiBold)));
        column->addWidget(text(onScreen(w.shown()), app::font(depth == 0 ? 1.6 : 1.1, QFont::DemiBold)));
        if (const QString words = depth == 0 ? figureWords(w.key) : QString(); !words.isEmpty())
            column->addWidget(text(words, app::font(0.92)));
        if (!w.formula.empty())
            column->addWidget(text(QStringLiteral("= ") + onScreen(w.formula), app::font(1.0)));
        if (!w.point.empty())
            column->addWidget(text(tr("at: %1").arg(qs(w.point)), app::font(0.92), true));
        if (!w.note.empty())
            column->addWidget(text(onScreen(w.note), app::font(0.92), true));
    }
    body()->addWidget(step);
    for (const Working& part : w.parts)
        addStep(part, depth + 1);
}

void WorkingDrawer::addBudget(const Working& w) {
    const Measured& m = w.value;
    const Unit unit = w.unit;
    const QString words = w.partialDoubt ? tr("No ± without the meter's accuracy; known so far")
                          : m.hasDoubt() ? tr("Where the ± comes from")
                                         : tr("No ± is known for this figure");
    auto* title = text(words, app::font(0.95, QFont::DemiBold));
    title->setContentsMargins(0, 2 * kGrid, 0, 0);
    body()->addWidget(title);
    if (!m.hasDoubt())
        return;
    body()->addWidget(text(
        m.degreesOfFreedom() < 30.0
            ? tr("Each bar is one source's share of the squared uncertainty; the ± of a source is two standard uncertainties. Repeats dominate, so the "
                 "figure's own ± is by Student's t with %1 degrees of freedom.")
                  .arg(onScreen(showNumber(m.degreesOfFreedom(), 2)))
            : tr("Each bar is one source's share of the squared uncertainty; ± is for about 95 % (k = 2)."),
        app::font(0.9), true));
    auto parts = m.budget();
    std::sort(parts.begin(), parts.end(), [](const auto& a, const auto& b) { return a.u > b.u; });
    const double total = m.u() * m.u();
    for (const Measured::BudgetLine& c : parts) {
        const double factor = unit == Unit::Share ? 200.0 : 2.0;
        const QString size = QStringLiteral("± %1 %2   %3 %")
                                 .arg(onScreen(showNumber(c.u * factor, 2)), qs(symbol(unit)),
                                      onScreen(showNumber(100.0 * c.u * c.u / total, 2)));
        body()->addWidget(new BudgetBar(qs(c.words), size, c.u * c.u / total, this));
    }
}

} // namespace otterstone::app
