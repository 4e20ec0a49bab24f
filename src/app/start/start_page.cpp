#include "app/start/start_page.h"

#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"

namespace otterstone::app {

namespace {

// The idea in one picture: energy comes in on the left, thins out along its path, and what is left arrives on the right.
class Emblem : public QWidget {
public:
    explicit Emblem(QWidget* parent) : QWidget(parent) { setFixedHeight(112); }

protected:
    void paintEvent(QPaintEvent*) override {
        const Theme& t = theme();
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const double w = width();
        QPainterPath band;
        band.moveTo(0, 12);
        band.lineTo(w, 12);
        band.lineTo(w, 50);
        band.cubicTo(w * 0.86, 50, w * 0.84, 62, w * 0.72, 62);
        band.lineTo(w * 0.62, 62);
        band.cubicTo(w * 0.5, 62, w * 0.48, 92, w * 0.36, 92);
        band.lineTo(0, 92);
        QLinearGradient flow(0, 0, w, 0);
        flow.setColorAt(0.0, t.in);
        flow.setColorAt(0.45, t.in);
        flow.setColorAt(0.55, t.out);
        flow.setColorAt(1.0, t.out);
        p.fillPath(band, flow);
        const auto peel = [&](double x, double y, double height) {
            QPainterPath loss;
            loss.moveTo(x - 60, y);
            loss.cubicTo(x, y, x, y, x, 112);
            loss.lineTo(x - height, 112);
            loss.cubicTo(x - height, y + height, x - 60, y + height, x - 60, y + height);
            p.fillPath(loss, hatching(t.loss, true));
        };
        peel(w * 0.47, 62, 30);
        peel(w * 0.83, 50, 12);
    }
};

} // namespace

StartPage::StartPage(QWidget* parent) : QWidget(parent) {
    auto* outer = new QVBoxLayout(this);
    outer->addStretch(2);
    auto* middle = new QHBoxLayout;
    auto* column = new QWidget;
    column->setFixedWidth(620);
    auto* all = new QVBoxLayout(column);
    all->setSpacing(2 * kGrid);
    auto* title = new QLabel(tr("How much of it really comes out?"));
    title->setFont(app::font(2.2, QFont::DemiBold));
    auto* words = new QLabel(tr("This book is empty. Put a bank on the shelf with what its label says; then drop a meter's log on this "
                                "window, and read how much of the label reached the port."));
    words->setWordWrap(true);
    words->setFont(app::font(1.15));
    auto* next = new QPushButton(tr("Put the first bank on the shelf"));
    next->setObjectName(QStringLiteral("primary"));
    next->setMinimumHeight(44);
    auto* others = new QHBoxLayout;
    auto* demo = new QPushButton(tr("Look at the demo: Skerry Point"));
    auto* open = new QPushButton(tr("Open another book…"));
    others->addWidget(demo);
    others->addWidget(open);
    others->addStretch();
    auto* saved = new QLabel(tr("Everything you enter is in the book at once; there is nothing to save. Ctrl+Z takes back."));
    saved->setObjectName(QStringLiteral("faint"));
    saved->setWordWrap(true);
    all->addWidget(new Emblem(column));
    all->addWidget(title);
    all->addWidget(words);
    all->addWidget(next, 0, Qt::AlignLeft);
    all->addLayout(others);
    all->addWidget(saved);
    middle->addStretch();
    middle->addWidget(column);
    middle->addStretch();
    outer->addLayout(middle);
    outer->addStretch(3);
    setFocusProxy(next);
    connect(next, &QPushButton::clicked, this, &StartPage::newBankWanted);
    connect(demo, &QPushButton::clicked, this, &StartPage::demoWanted);
    connect(open, &QPushButton::clicked, this, &StartPage::bookWanted);
}

} // namespace otterstone::app
