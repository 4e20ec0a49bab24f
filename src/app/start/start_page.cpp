#include "app/start/start_page.h"

#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "app/widgets/peel.h"

namespace otterstone::app {

namespace {

// The idea in one picture: energy comes in on the left, thins out along its path, and what is left arrives on the
// right.
class Emblem : public QWidget {
public:
    explicit Emblem(QWidget* parent) : QWidget(parent) { setFixedHeight(112); }

protected:
    void paintEvent(QPaintEvent*) override {
        const Theme& t = theme();
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const double w = width();
        const auto strip = [&](double from, double to, double thick, const QColor& colour) {
            p.fillRect(QRectF(from, 8, to - from, thick), colour);
        };
        strip(0, w * 0.42, 72, t.in);
        strip(w * 0.42, w * 0.74, 50, t.out);
        strip(w * 0.74, w, 42, t.out);
        paintPeel(p, w * 0.42, w * 0.50, 46, 58, 80, 112);
        paintPeel(p, w * 0.74, w * 0.80, 40, 50, 58, 112);
    }
};

} // namespace

StartPage::StartPage(QWidget* parent)
    : QWidget(parent), words_(new QLabel),
      saved_(
          new QLabel(tr("Everything you enter is in the book at once; there is nothing to save. Ctrl+Z takes back."))),
      next_(new QPushButton(tr("Put the first bank on the shelf"))),
      demo_(new QPushButton(tr("Look at the demo: Skerry Point"))), open_(new QPushButton) {
    auto* outer = new QVBoxLayout(this);
    outer->addStretch(2);
    auto* middle = new QHBoxLayout;
    auto* column = new QWidget;
    column->setFixedWidth(620);
    auto* all = new QVBoxLayout(column);
    all->setSpacing(2 * kGrid);
    auto* title = new QLabel(tr("How much of it really comes out?"));
    title->setFont(app::font(2.2, QFont::DemiBold));
    words_->setWordWrap(true);
    words_->setFont(app::font(1.15));
    next_->setObjectName(QStringLiteral("primary"));
    next_->setMinimumHeight(44);
    auto* others = new QHBoxLayout;
    others->addWidget(demo_);
    others->addWidget(open_);
    others->addStretch();
    saved_->setObjectName(QStringLiteral("faint"));
    saved_->setWordWrap(true);
    all->addWidget(new Emblem(column));
    all->addWidget(title);
    all->addWidget(words_);
    all->addWidget(next_, 0, Qt::AlignLeft);
    all->addLayout(others);
    all->addWidget(saved_);
    middle->addStretch();
    middle->addWidget(column);
    middle->addStretch();
    outer->addLayout(middle);
    outer->addStretch(3);
    setBookIsOpen(false);
    connect(next_, &QPushButton::clicked, this, &StartPage::newBankWanted);
    connect(demo_, &QPushButton::clicked, this, &StartPage::demoWanted);
    connect(open_, &QPushButton::clicked, this, &StartPage::bookWanted);
}

void StartPage::setBookIsOpen(bool open) {
    words_->setText(
        open
            ? tr("This book is empty. Put a bank on the shelf with what its label says; then drop a meter's log on this "
                 "window, and read how much of the label reached the port.")
            : tr("No book is open. Open one, begin a new one (in the menu Book), or look at the demo."));
    open_->setText(open ? tr("Open another book…") : tr("Open a book…"));
    next_->setVisible(open);
    saved_->setVisible(open);
    setFocusProxy(open ? next_ : demo_);
}

} // namespace otterstone::app
