#include "app/shelf/shelf.h"

#include <algorithm>
#include <map>
#include <utility>

#include <QApplication>
#include <QComboBox>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSettings>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "app/shelf/searched.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/row_frame.h"
#include "core/label/conflicts.h"
#include "core/label/rating.h"

namespace otterstone::app {

namespace {

enum Role { BankId = Qt::UserRole, SubLine, Conflicts, Recharges, Drains, Sheets, Flight, Questions, Searched };

constexpr int kFewBanks = 8; // they are seen at a glance

enum Order { AsKept, ByName, ByRated, ByNewest, ByQuestions, ByTag, ByModel };

// What banks are put in order by.
struct Standing {
    records::Bank bank;
    book::Tally had;
    double rated = 0.0;
    int questions = 0;
    QString group = {}; ///< its heading, where they stand in groups
};

// Banks of the same first tag, or pieces of one model, each under one heading; what is alone comes last.
void putInGroups(std::vector<Standing>& all, int order) {
    std::map<records::Id, int> pieces; // by the one that the others are like
    const auto model = [](const Standing& s) { return s.bank.past.specimenOf.value_or(s.bank.id); };
    for (const Standing& s : all)
        ++pieces[model(s)];
    for (Standing& s : all) {
        if (order == ByTag)
            s.group = s.bank.tags.empty() ? QString() : qs(s.bank.tags.front());
        else if (pieces[model(s)] > 1)
            for (const Standing& other : all)
                s.group = other.bank.id == model(s) ? QObject::tr("pieces of %1").arg(qs(other.bank.name)) : s.group;
    }
    std::stable_sort(all.begin(), all.end(), [](const Standing& a, const Standing& b) {
        if (a.group.isEmpty() != b.group.isEmpty())
            return b.group.isEmpty();
        const int apart = QString::localeAwareCompare(a.group.toCaseFolded(), b.group.toCaseFolded());
        return apart != 0 ? apart < 0 : QString::localeAwareCompare(qs(a.bank.name), qs(b.bank.name)) < 0;
    });
    for (Standing& s : all) {
        if (s.group.isEmpty())
            s.group = order == ByTag ? QObject::tr("no tag") : QObject::tr("one piece each");
    }
}

void putInOrder(std::vector<Standing>& all, int order) {
    if (order == ByTag || order == ByModel)
        return putInGroups(all, order);
    std::stable_sort(all.begin(), all.end(), [order](const Standing& a, const Standing& b) {
        switch (order) {
        case ByName: return QString::localeAwareCompare(qs(a.bank.name), qs(b.bank.name)) < 0;
        case ByRated: return a.rated > b.rated;
        case ByNewest: return a.had.newest > b.had.newest;
        case ByQuestions: return a.questions > b.questions;
        default: return false;
        }
    });
}

// Name, one line beneath, and the sign: label, recharge, drain, flight. Shapes and letters, not colour alone.
class SpineDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const override {
        return {200, isHeading(index) ? 30 : 76};
    }

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Theme& t = theme();
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        if (isHeading(index)) {
            p->setPen(t.faint);
            p->setFont(app::font(0.9, QFont::DemiBold));
            const QRect line = option.rect.adjusted(2 * kGrid, 6, -kGrid, -2);
            p->drawText(
                line, Qt::AlignVCenter,
                p->fontMetrics().elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, line.width()));
            p->restore();
            return;
        }
        const QRect r = option.rect.adjusted(kGrid, 2, -kGrid, -2);
        paintRowFrame(p, r, option);
        const int x = r.left() + 12;
        p->setPen(t.ink);
        p->setFont(app::font(1.05, QFont::DemiBold));
        p->drawText(QRect(x, r.top() + 6, r.width() - 20, 20), Qt::AlignVCenter,
                    index.data(Qt::DisplayRole).toString());
        p->setFont(app::font(0.88));
        if (const int asked = index.data(Questions).toInt(); asked > 0) {
            p->setPen(t.warn);
            p->drawText(QRect(x, r.top() + 6, r.width() - 22, 20), Qt::AlignVCenter | Qt::AlignRight,
                        QObject::tr("asks %1").arg(asked));
        }
        p->setPen(t.faint);
        p->drawText(QRect(x, r.top() + 26, r.width() - 20, 18), Qt::AlignVCenter, index.data(SubLine).toString());
        paintSign(p, x, r.top() + 50, index);
        p->restore();
    }

private:
    [[nodiscard]] static bool isHeading(const QModelIndex& index) { return !index.data(BankId).isValid(); }

    static void paintSign(QPainter* p, int x, int y, const QModelIndex& index) {
        const Theme& t = theme();
        p->setFont(app::font(0.82));
        const auto shape = [&](const QPolygonF& polygon, const QColor& colour, int count, const QString& zero) {
            p->setPen(QPen(count > 0 ? colour : t.faint, 1.4));
            p->setBrush(count > 0 ? QBrush(colour) : QBrush(Qt::NoBrush));
            p->drawPolygon(polygon.translated(x, y));
            p->setPen(count > 0 ? t.ink : t.faint);
            const QString words = count > 0 ? QString::number(count) : zero;
            p->drawText(QRect(x + 15, y - 3, 40, 18), Qt::AlignVCenter, words);
            x += std::max(31, 15 + p->fontMetrics().horizontalAdvance(words) + 8);
        };
        shape({{0, 6}, {5, 0}, {10, 6}, {7, 6}, {7, 12}, {3, 12}, {3, 6}}, t.in, index.data(Recharges).toInt(),
              QStringLiteral("–"));
        shape({{3, 0}, {7, 0}, {7, 6}, {10, 6}, {5, 12}, {0, 6}, {3, 6}}, t.out, index.data(Drains).toInt(),
              QStringLiteral("–"));
        shape({{5, 0}, {10, 6}, {5, 12}, {0, 6}}, t.ink, index.data(Sheets).toInt(), QStringLiteral("–"));
        const int conflicts = index.data(Conflicts).toInt();
        p->setPen(conflicts > 0 ? t.warn : t.faint);
        const QString label = conflicts > 0 ? QObject::tr("label !%1").arg(conflicts) : QObject::tr("label ok");
        p->drawText(QRect(x, y - 3, 60, 18), Qt::AlignVCenter, label);
        x += 55;
        p->setPen(t.faint);
        p->drawText(QRect(x, y - 3, 70, 18), Qt::AlignVCenter, index.data(Flight).toString());
    }
};

QString flightWord(label::FlightClass c) {
    switch (c) {
    case label::FlightClass::CarryOn: return QObject::tr("flies");
    case label::FlightClass::AskCarrier: return QObject::tr("ask carrier");
    case label::FlightClass::NotOnBoard: return QObject::tr("no flight");
    case label::FlightClass::Unknown: return QObject::tr("flight ?");
    }
    return {};
}

} // namespace

Shelf::Shelf(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), tools_(new QWidget), find_(new QLineEdit), order_(new QComboBox),
      list_(new QListWidget) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, kGrid, 1, kGrid); // the border's pixel at the right
    auto* head = new QHBoxLayout;
    head->setContentsMargins(2 * kGrid, 0, kGrid, 0);
    auto* title = new QLabel(tr("Shelf"));
    title->setFont(app::font(1.2, QFont::DemiBold));
    auto* add = new QPushButton(tr("Add a bank"));
    add->setObjectName(QStringLiteral("quiet"));
    add->setToolTip(tr("Put a new bank on the shelf (Ctrl+N)"));
    head->addWidget(title);
    head->addStretch();
    head->addWidget(add);
    all->addLayout(head);
    auto* tools = new QHBoxLayout(tools_);
    tools->setContentsMargins(kGrid, 0, kGrid, 0);
    find_->setPlaceholderText(tr("Find (Ctrl+F)"));
    find_->setAccessibleName(tr("Find a bank"));
    find_->setToolTip(
        tr("Words of its name, tags, maker's model, markings or notes; Enter goes to the first, Esc shows all"));
    find_->installEventFilter(this);
    order_->addItems(
        {tr("as kept"), tr("by name"), tr("by Wh"), tr("newest run"), tr("asks most"), tr("by tag"), tr("by model")});
    order_->setAccessibleName(tr("Order of the shelf"));
    order_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    order_->setMinimumContentsLength(7);
    order_->setCurrentIndex(QSettings().value(QStringLiteral("shelfOrder"), 0).toInt());
    tools->addWidget(find_, 1);
    tools->addWidget(order_);
    all->addWidget(tools_);
    tools_->hide();
    connect(find_, &QLineEdit::textChanged, this, &Shelf::filter);
    connect(order_, &QComboBox::activated, this, [this](int order) {
        QSettings().setValue(QStringLiteral("shelfOrder"), order);
        refresh();
    });
    list_->setObjectName(QStringLiteral("shelf"));
    list_->setAccessibleName(tr("Shelf of banks"));
    list_->setItemDelegate(new SpineDelegate(list_));
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    all->addWidget(list_);
    setFixedWidth(252);
    setObjectName(QStringLiteral("shelfSide"));
    setAttribute(Qt::WA_StyledBackground);
    connect(add, &QPushButton::clicked, this, &Shelf::newBankWanted);
    connect(list_, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item)
            Q_EMIT chosen(item->data(BankId).toLongLong());
    });
    connect(&session_, &BookSession::changed, this, &Shelf::refresh);
    // What a run asks is known when its finding is.
    connect(&session_, &BookSession::findingReady, this, &Shelf::refresh);
}

records::Id Shelf::selected() const {
    const QListWidgetItem* item = list_->currentItem();
    return item ? item->data(BankId).toLongLong() : records::kNew;
}

void Shelf::select(records::Id bank) {
    const QSignalBlocker quiet(list_); // whoever selects by program shows the bank as well
    for (int row = 0; row < list_->count(); ++row) {
        if (list_->item(row)->data(BankId).toLongLong() == bank)
            list_->setCurrentRow(row);
    }
}

void Shelf::takeKeyboard() { list_->setFocus(); }

void Shelf::find() {
    tools_->show();
    find_->setFocus();
    find_->selectAll();
}

// Each word that is typed stands somewhere in what is known of the bank.
void Shelf::filter() {
    const QStringList words = find_->text().toCaseFolded().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    int heading = -1;
    for (int row = 0; row < list_->count(); ++row) {
        const QListWidgetItem* item = list_->item(row);
        if (!item->data(BankId).isValid()) { // shown with the first bank of its group
            heading = row;
            list_->setRowHidden(row, true);
            continue;
        }
        const QString text = item->data(Searched).toString();
        const bool found =
            std::all_of(words.begin(), words.end(), [&](const QString& word) { return text.contains(word); });
        list_->setRowHidden(row, !found);
        if (found && heading >= 0)
            list_->setRowHidden(std::exchange(heading, -1), false);
    }
}

bool Shelf::eventFilter(QObject* watched, QEvent* event) {
    const bool override = event->type() == QEvent::ShortcutOverride; // Esc would close the panel at the side
    if (watched != find_ || (!override && event->type() != QEvent::KeyPress))
        return QWidget::eventFilter(watched, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (override) {
        if (key == Qt::Key_Escape)
            event->accept();
        return key == Qt::Key_Escape;
    }
    if (key == Qt::Key_Escape) {
        find_->clear();
        tools_->setVisible(list_->count() > kFewBanks || order_->currentIndex() != AsKept);
        list_->setFocus();
        return true;
    }
    if (key == Qt::Key_Return || key == Qt::Key_Enter || key == Qt::Key_Down) {
        for (int row = 0; row < list_->count(); ++row) {
            if (!list_->isRowHidden(row) && list_->item(row)->data(BankId).isValid()) {
                list_->setCurrentRow(row);
                break;
            }
        }
        list_->setFocus();
        return true;
    }
    return QWidget::eventFilter(watched, event);
}

void Shelf::refresh() {
    const records::Id before = selected();
    const QSignalBlocker quiet(list_);
    list_->clear();
    const auto asked = session_.book().asked();
    const auto tallies = session_.book().tallies();
    std::vector<Standing> all;
    for (records::Bank& bank : session_.book().banks()) {
        Standing s{std::move(bank), {}, 0.0, 0};
        if (const auto had = tallies.find(s.bank.id); had != tallies.end())
            s.had = had->second;
        if (const auto rating = label::ratedEnergy(s.bank.label))
            s.rated = rating->energy.value;
        const auto asks = asked.find(s.bank.id);
        s.questions = asks == asked.end() ? 0 : asks->second;
        all.push_back(std::move(s));
    }
    // Few banks need neither, unless somebody uses them: what is worked out meanwhile does not take them away.
    const bool used = !find_->text().isEmpty() || order_->currentIndex() != AsKept ||
                      tools_->isAncestorOf(QApplication::focusWidget());
    tools_->setVisible(all.size() > kFewBanks || used);
    putInOrder(all, order_->currentIndex());
    QString group;
    for (const Standing& s : all) {
        const records::Bank& bank = s.bank;
        if (s.group != group) {
            group = s.group;
            auto* heading = new QListWidgetItem(group, list_);
            heading->setFlags(Qt::NoItemFlags); // none that the keys stop at
        }
        const auto& [recharges, drains, sheets, newest] = s.had;
        const auto rating = label::ratedEnergy(bank.label);
        const auto rated = rating ? std::optional(rating->energy) : std::nullopt;
        const auto conflicts = label::conflicts(bank.label);
        auto* item = new QListWidgetItem(qs(bank.name), list_);
        item->setData(BankId, static_cast<qlonglong>(bank.id));
        QString sub = rated ? tr("%1 Wh rated").arg(onScreen(showNumber(rated->value))) : tr("energy not known yet");
        if (bank.label.capacity)
            sub += tr(" · %1 mAh").arg(onScreen(showNumber(bank.label.capacity->value * 1000.0, 7)));
        item->setData(SubLine, sub);
        item->setData(Conflicts, static_cast<int>(conflicts.size()));
        item->setData(Recharges, recharges);
        item->setData(Drains, drains);
        item->setData(Sheets, sheets);
        const int questions = s.questions;
        item->setData(Questions, questions);
        item->setData(Searched, QString(searchedIn(bank) + QLatin1Char(' ') + sub.toCaseFolded()));
        item->setData(Flight, flightWord(label::flightClass(rated)));
        item->setData(Qt::AccessibleTextRole,
                      tr("%1, %2, %n recharge(s), ", nullptr, recharges).arg(qs(bank.name), sub) +
                          tr("%n drain(s), ", nullptr, drains) + tr("%n sheet(s) of behaviour, ", nullptr, sheets) +
                          tr("%n question(s), ", nullptr, questions) +
                          tr("%n contradiction(s) on the label, ", nullptr, static_cast<int>(conflicts.size())) +
                          flightWord(label::flightClass(rated)));
        item->setToolTip(tr(
            "Arrow up: recharges. Arrow down: drains. Diamond: how it behaves. Then what its runs ask, the label's contradictions, and whether it may fly."));
    }
    filter();
    select(before);
    if (list_->currentRow() < 0 && list_->count() > 0)
        select(all.front().bank.id);
    const records::Id now = selected();
    if (now != before)
        Q_EMIT chosen(now);
}

} // namespace otterstone::app
