#include "app/runs/run_list.h"

#include <algorithm>

#include <QLineEdit>
#include <QListWidget>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "app/runs/life_line.h"
#include "app/theme.h"
#include "app/widgets/row_frame.h"
#include "core/quantity/date.h"

namespace otterstone::app {

namespace {

enum Role { RunId = Qt::UserRole, SubLine, Kind, Asks };

// Its sign and name, and one line beneath: the day, and what it did to the charge.
class RunDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {180, 42}; }
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Theme& t = theme();
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        const QRect r = option.rect.adjusted(0, 1, -4, -1);
        paintRowFrame(p, r, option);
        const int x = r.left() + 24;
        const QPointF sign(r.left() + 14.0, r.top() + 13.0);
        const auto kind = static_cast<records::Kind>(index.data(Kind).toInt());
        p->setPen(Qt::NoPen);
        if (records::hasSheet(kind)) {
            p->setBrush(t.ink);
            p->drawPolygon(QPolygonF({{0, -5}, {5, 0}, {0, 5}, {-5, 0}}).translated(sign));
        } else {
            const bool drain = kind == records::Kind::Drain;
            p->setBrush(drain ? t.out : t.in);
            const double up = drain ? 1.0 : -1.0;
            p->drawPolygon(QPolygonF({{-5, -4 * up}, {5, -4 * up}, {0, 4 * up}}).translated(sign));
        }
        int room = r.width() - 30;
        p->setFont(app::font(0.85));
        if (index.data(Asks).toInt() > 0) {
            p->setPen(t.warn);
            p->drawText(QRect(x, r.top() + 2, room, 20), Qt::AlignVCenter | Qt::AlignRight, QObject::tr("asks"));
            room -= p->fontMetrics().horizontalAdvance(QObject::tr("asks")) + 6;
        }
        p->setPen(t.ink);
        p->setFont(app::font(0.98, QFont::Medium));
        p->drawText(QRect(x, r.top() + 2, room, 20), Qt::AlignVCenter,
                    p->fontMetrics().elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, room));
        p->setPen(t.faint);
        p->setFont(app::font(0.82));
        p->drawText(QRect(x, r.top() + 21, r.width() - 30, 16), Qt::AlignVCenter,
                    p->fontMetrics().elidedText(index.data(SubLine).toString(), Qt::ElideRight, r.width() - 30));
        p->restore();
    }
};

} // namespace

RunList::RunList(QWidget* parent) : QWidget(parent), find_(new QLineEdit), list_(new QListWidget) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    find_->setPlaceholderText(tr("Find a run"));
    find_->setAccessibleName(tr("Find a run"));
    find_->setClearButtonEnabled(true);
    all->addWidget(find_);
    list_->setObjectName(QStringLiteral("shelf"));
    list_->setAccessibleName(tr("Runs of the bank"));
    list_->setItemDelegate(new RunDelegate(list_));
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    all->addWidget(list_, 1);
    setFixedWidth(216);
    connect(find_, &QLineEdit::textChanged, this, &RunList::filter);
    connect(list_, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item)
            Q_EMIT runWanted(item->data(RunId).toLongLong());
    });
}

void RunList::show(const std::vector<records::Run>& runs, const life::Life& life, records::Id current) {
    const QSignalBlocker quiet(list_);
    std::vector<const records::Run*> order;
    const auto place = [&](const records::Run& r) {
        return std::find_if(life.passages.begin(), life.passages.end(),
                            [&](const life::Passage& p) { return p.run == r.id; });
    };
    order.reserve(runs.size());
    for (const records::Run& r : runs)
        order.push_back(&r);
    std::stable_sort(order.begin(), order.end(),
                     [&](const records::Run* a, const records::Run* b) { return place(*a) < place(*b); });
    while (list_->count() > static_cast<int>(order.size()))
        delete list_->takeItem(list_->count() - 1);
    while (list_->count() < static_cast<int>(order.size()))
        list_->addItem(new QListWidgetItem);
    for (std::size_t k = 0; k < order.size(); ++k) {
        const records::Run& r = *order[k];
        const auto at = place(r);
        QListWidgetItem* item = list_->item(static_cast<int>(k));
        item->setText(r.title.empty() ? tr("run %1").arg(r.id) : qs(r.title));
        item->setData(RunId, static_cast<qlonglong>(r.id));
        item->setData(Kind, static_cast<int>(r.kind));
        QStringList beneath;
        if (!r.startedAt.empty())
            beneath << qs(dayOf(r.startedAt).substr(5)); // the year stands at the line
        beneath << (at == life.passages.end() ? qs(records::kindWords(r.kind)) : passageWords(*at));
        item->setData(SubLine, beneath.join(QStringLiteral(" · ")));
        item->setData(Asks, at == life.passages.end() ? 0 : static_cast<int>(at->asks));
        item->setData(Qt::AccessibleTextRole, qs(records::kindKey(r.kind)) + QStringLiteral(", ") + item->text() +
                                                  QStringLiteral(", ") + item->data(SubLine).toString());
        item->setToolTip(item->text() + QLatin1Char('\n') + item->data(SubLine).toString());
        if (r.id == current)
            list_->setCurrentItem(item);
    }
    filter();
}

void RunList::filter() {
    const QString wanted = find_->text().trimmed();
    for (int k = 0; k < list_->count(); ++k) {
        QListWidgetItem* item = list_->item(k);
        const QString all = item->text() + QLatin1Char(' ') + item->data(SubLine).toString() + QLatin1Char(' ') +
                            qs(records::kindKey(static_cast<records::Kind>(item->data(Kind).toInt()))) +
                            (item->data(Asks).toInt() > 0 ? tr(" asks") : QString());
        bool found = true;
        for (const QString& word : wanted.split(QLatin1Char(' '), Qt::SkipEmptyParts))
            found = found && all.contains(word, Qt::CaseInsensitive);
        item->setHidden(!found);
    }
}

} // namespace otterstone::app
