#include "app/choose/use_view.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QScrollArea>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/choose/use_bands.h"
#include "app/findings/claims_table.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/wrapped_label.h"
#include "book/store/choices.h"
#include "core/plan/own_devices.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

namespace {

enum Column { kBank, kLasts, kEmpty, kRecharge, kCharges, kColumns };

QLabel* words(bool faint) {
    auto* l = new WrappedLabel;
    l->setTextFormat(Qt::PlainText);
    l->setTextInteractionFlags(Qt::TextSelectableByMouse);
    if (faint)
        l->setObjectName(QStringLiteral("faint"));
    return l;
}

QString whenToRecharge(const plan::BankUse& b) {
    if (!b.cannot.empty())
        return onScreen(b.cannot.front());
    if (!(b.recharges > 0.0))
        return b.suffices == judgement::Verdict::NotTested ? QString() : QObject::tr("not needed");
    QString text = QObject::tr("after %1 d").arg(onScreen(showNumber(b.rechargeOnDay.front(), 2)));
    if (b.recharges > 1.0)
        text += QObject::tr(", %1 ×").arg(onScreen(showNumber(b.recharges, 6)));
    return text + QLatin1Char('\n') +
           onScreen(plan::rechargeWords(b)).replace(QStringLiteral(", "), QStringLiteral("\n"));
}

} // namespace

UseView::UseView(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), needs_(new QPlainTextEdit), days_(new QLineEdit), wrong_(words(false)),
      sentence_(words(false)), inUse_(words(true)), bands_(new UseBands), picture_(new QScrollArea),
      table_(new QTableWidget) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    auto* ask = new QHBoxLayout;
    auto* left = new QVBoxLayout;
    auto* label = new QLabel(tr(
        "What is to be kept going, a line each: watts and hours a day, or a battery and charges a day; “empty” if it starts so"));
    label->setObjectName(QStringLiteral("faint"));
    label->setWordWrap(true);
    label->setBuddy(needs_);
    left->addWidget(label);
    needs_->setAccessibleName(tr("What is to be kept going"));
    needs_->setPlaceholderText(tr("Camera 2 W 8 h\nTablet 26.4 Wh 1x"));
    needs_->setTabChangesFocus(true);
    needs_->setFixedHeight(76);
    left->addWidget(needs_);
    ask->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    auto* drawer = new QComboBox;
    drawer->setAccessibleName(tr("Add a device of the gear drawer"));
    connect(drawer, &QComboBox::activated, this, [this, drawer](int k) {
        if (k > 0)
            needs_->appendPlainText(drawer->itemData(k).toString());
        drawer->setCurrentIndex(0);
    });
    right->addWidget(drawer);
    auto* span = new QHBoxLayout;
    auto* daysLabel = new QLabel(tr("&Days it is to last"));
    daysLabel->setBuddy(days_);
    days_->setFixedWidth(70);
    days_->setAccessibleName(tr("Days it is to last"));
    days_->setPlaceholderText(tr("any"));
    span->addWidget(daysLabel);
    span->addWidget(days_);
    right->addLayout(span);
    right->addStretch();
    ask->addLayout(right);
    all->addLayout(ask);
    wrong_->setObjectName(QStringLiteral("problem"));
    wrong_->hide();
    all->addWidget(wrong_);
    sentence_->setFont(app::font(1.2));
    all->addWidget(sentence_);
    picture_->setWidget(bands_);
    picture_->setWidgetResizable(true);
    picture_->setFrameShape(QFrame::NoFrame);
    picture_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    picture_->setFocusPolicy(Qt::NoFocus);
    all->addWidget(picture_);
    table_->setColumnCount(kColumns);
    table_->setHorizontalHeaderLabels(
        {tr("Bank"), tr("Lasts"), tr("Devices empty at first"), tr("Recharge"), tr("Full charges")});
    table_->setObjectName(QStringLiteral("roomy"));
    table_->setWordWrap(true);
    table_->setAccessibleName(tr("How long each bank lasts"));
    table_->setEditTriggers(QTableWidget::NoEditTriggers);
    table_->setSelectionBehavior(QTableWidget::SelectRows);
    table_->setTabKeyNavigation(false);
    table_->setShowGrid(false);
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(kCharges, QHeaderView::Stretch);
    for (int k = 0; k < kColumns; ++k)
        table_->horizontalHeaderItem(k)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    all->addWidget(table_, 1);
    all->addWidget(inUse_);
    auto* caution = words(true);
    caution->setText(onScreen(plan::planUse({}, {}, 0.0).warnings.front().text));
    all->addWidget(caution);
    connect(table_, &QTableWidget::cellActivated, this, [this](int row, int) {
        if (plan_.banks[static_cast<std::size_t>(row)].days)
            Q_EMIT workingWanted(*plan_.banks[static_cast<std::size_t>(row)].days);
    });
    connect(table_, &QTableWidget::cellClicked, table_, &QTableWidget::cellActivated);
    connect(bands_, &UseBands::bankWanted, this, [this](int row) {
        table_->setCurrentCell(row, kBank);
        Q_EMIT table_->cellActivated(row, kBank);
    });
    connect(needs_, &QPlainTextEdit::textChanged, this, &UseView::work);
    connect(days_, &QLineEdit::textChanged, this, &UseView::work);
    connect(days_, &QLineEdit::editingFinished, this, &UseView::keep);
    const auto takeBook = [this, drawer] {
        const book::Needs kept = book::needsFromText(session_.book().choice(book::choice::needs), book::choice::needs)
                                     .value_or(book::Needs{});
        QStringList lines;
        for (const std::string& n : kept.lines)
            lines << qs(n);
        const QSignalBlocker a(needs_), b(days_);
        needs_->setPlainText(lines.join(QLatin1Char('\n')));
        days_->setText(kept.days > 0.0 ? qs(showNumber(kept.days)) : QString());
        drawer->clear();
        drawer->addItem(tr("or my …"));
        for (const records::Gear& g : session_.book().gear()) {
            if (g.kind != records::GearKind::Device || !(g.watts || g.battery))
                continue;
            plan::Need n{g.name,
                         g.watts,
                         g.watts ? std::optional(2.0) : std::nullopt,
                         g.battery,
                         g.watts ? std::nullopt : std::optional(1.0),
                         {},
                         true};
            drawer->addItem(qs(g.name), qs(plan::showNeed(n)));
        }
    };
    connect(&session_, &BookSession::opened, this, takeBook);
    if (session_.isOpen())
        takeBook();
}

void UseView::show(SharedEvidence banks) {
    banks_ = std::move(banks);
    work();
}

void UseView::work() {
    std::vector<plan::Need> needs;
    QString wrong;
    int row = 0;
    for (const QString& line : needs_->toPlainText().split(QLatin1Char('\n'))) {
        ++row;
        if (line.trimmed().isEmpty())
            continue;
        auto need = plan::parseNeed(line.toStdString(), tr("row %1").arg(row).toStdString());
        if (need)
            needs.push_back(std::move(*need));
        else if (wrong.isEmpty())
            wrong = qs(need.error().sentence());
    }
    double days = 0.0;
    if (!days_->text().trimmed().isEmpty()) {
        const auto read = parseNumber(days_->text().toStdString(), "days");
        if (read && *read > 0.0)
            days = *read;
        else
            wrong = tr("Days are a number above 0.");
    }
    wrong_->setText(wrong);
    wrong_->setVisible(!wrong.isEmpty());
    if (session_.isOpen())
        needs = plan::withOwnDevices(std::move(needs), session_.book().gear());
    plan_ = plan::planUse(*banks_, needs, days);
    fill(needs, days);
}

void UseView::keep() {
    std::vector<std::string> lines;
    for (const QString& line : needs_->toPlainText().split(QLatin1Char('\n'))) {
        if (!line.trimmed().isEmpty())
            lines.push_back(line.trimmed().toStdString());
    }
    if (!session_.isOpen() || session_.book().readOnly())
        return;
    if (auto done = session_.changeChoice(
            book::choice::needs, book::needsToText({lines, parseNumber(days_->text().toStdString()).value_or(0.0)}),
            tr("change what is to be kept going"));
        !done)
        Q_EMIT problem(qs(done.error().sentence()));
}

void UseView::fill(const std::vector<plan::Need>& needs, double days) {
    constexpr int kTallest = 300; // more is scrolled
    bands_->show(plan_, needs, days);
    picture_->setFixedHeight(std::min(kTallest, bands_->height()));
    picture_->setVisible(!plan_.banks.empty());
    sentence_->setText(onScreen(plan_.sentence));
    table_->setRowCount(static_cast<int>(plan_.banks.size()));
    QStringList inUse;
    for (int r = 0; r < table_->rowCount(); ++r) {
        const plan::BankUse& b = plan_.banks[static_cast<std::size_t>(r)];
        QStringList charges;
        for (const Working& w : b.charges)
            charges << QStringLiteral("%1 %2").arg(qs(w.key).section(QLatin1Char(':'), 1), onScreen(w.shown()));
        const bool asked = b.suffices != judgement::Verdict::NotTested;
        const QString sign = asked ? verdictSign(b.suffices) + QStringLiteral("  ") : QString();
        const QString cells[] = {qs(b.bank),
                                 b.days             ? sign + onScreen(b.days->shown())
                                 : b.cannot.empty() ? tr("not known")
                                                    : tr("does not run it"),
                                 b.daysEmpty ? onScreen(b.daysEmpty->shown()) : QString(), whenToRecharge(b),
                                 charges.join(QLatin1Char('\n'))};
        for (int k = 0; k < kColumns; ++k) {
            auto* item = new QTableWidgetItem(cells[k]);
            item->setForeground(k == kLasts && asked ? verdictColour(b.suffices) : theme().ink);
            item->setToolTip(onScreen(b.sentence));
            table_->setItem(r, k, item);
        }
        for (const plan::Balance& x : b.inUse)
            inUse << QStringLiteral("%1 (%2)").arg(onScreen(x.balance.working.label),
                                                   onScreen(x.balance.working.shown()));
    }
    table_->resizeRowsToContents();
    inUse_->setText(inUse.join(QStringLiteral("; ")));
    inUse_->setVisible(!inUse.isEmpty());
}

} // namespace otterstone::app
