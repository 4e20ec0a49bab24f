#include "app/widgets/copy_table.h"

#include <QApplication>
#include <QBuffer>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QMenu>
#include <QMimeData>
#include <QPainter>
#include <QPushButton>
#include <QSvgGenerator>
#include <QTableView>
#include <qcustomplot.h>

#include "app/theme.h"
#include "app/widgets/plot_look.h"
#include "report/writers.h"

namespace otterstone::app {

namespace {

constexpr int kSharper = 2; // of the PNG against the screen

template<class T>
T* holder(QWidget* widget) {
    for (QWidget* w = widget; w; w = w->parentWidget()) {
        if (auto* found = qobject_cast<T*>(w))
            return found;
    }
    return nullptr;
}

template<class T>
T* firstSeen(QWidget* page) {
    for (T* found : page->findChildren<T*>()) {
        if (found->isVisible())
            return found;
    }
    return nullptr;
}

std::string headerText(const QAbstractItemModel& model, int section, Qt::Orientation way) {
    return model.headerData(section, way).toString().toStdString();
}

} // namespace

report::Table tableShown(const QTableView& view) {
    const QAbstractItemModel& model = *view.model();
    report::Table t;
    const bool names = !view.verticalHeader()->isHidden();
    if (names)
        t.columns.push_back({"name", ""});
    for (int k = 0; k < model.columnCount(); ++k) {
        if (!view.isColumnHidden(k))
            t.columns.push_back({std::to_string(k), headerText(model, k, Qt::Horizontal),
                                 (model.index(0, k).data(Qt::TextAlignmentRole).toInt() & Qt::AlignRight) != 0});
    }
    for (int r = 0; r < model.rowCount(); ++r) {
        std::vector<report::Cell> row;
        if (names)
            row.push_back(report::Cell::words(headerText(model, r, Qt::Vertical)));
        for (int k = 0; k < model.columnCount(); ++k) {
            if (!view.isColumnHidden(k))
                row.push_back(report::Cell::words(model.index(r, k).data().toString().toStdString()));
        }
        t.rows.push_back(std::move(row));
    }
    return t;
}

void copyAsMarkdown(const QTableView& table) {
    QGuiApplication::clipboard()->setText(QString::fromStdString(report::toMarkdown(tableShown(table))));
}
void copyForSpreadsheet(const QTableView& table) {
    QGuiApplication::clipboard()->setText(QString::fromStdString(report::toTsv(tableShown(table))));
}

void addCopyButtons(QHBoxLayout* line, QTableView* table) {
    for (const auto& [words, copy] : {std::pair(QObject::tr("Copy as Markdown"), &copyAsMarkdown),
                                      {QObject::tr("Copy for a spreadsheet"), &copyForSpreadsheet}}) {
        auto* b = new QPushButton(words);
        b->setObjectName(QStringLiteral("quiet"));
        QObject::connect(b, &QPushButton::clicked, table, [table, how = copy] { how(*table); });
        line->addWidget(b);
    }
}

void copyPlot(QCustomPlot* plot) {
    const QSize size = plot->size();
    QByteArray bytes;
    QBuffer buffer(&bytes);
    QSvgGenerator svg;
    svg.setOutputDevice(&buffer);
    svg.setResolution(QPicture().logicalDpiX());
    svg.setSize(size);
    svg.setViewBox(QRectF(QPointF(), QSizeF(size)));
    QPainter onSvg(&svg);
    paintPlot(onSvg, plot, size);
    onSvg.end();
    QImage image(size * kSharper, QImage::Format_ARGB32);
    image.fill(theme().paper);
    QPainter onImage(&image);
    onImage.setRenderHint(QPainter::Antialiasing);
    onImage.scale(kSharper, kSharper);
    paintPlot(onImage, plot, size);
    onImage.end();
    auto* copied = new QMimeData;
    copied->setData(QStringLiteral("image/svg+xml"), bytes);
    copied->setImageData(image);
    QGuiApplication::clipboard()->setMimeData(copied);
}

CopyMenu::CopyMenu(QObject* parent) : QObject(parent) { qApp->installEventFilter(this); }

bool CopyMenu::copyFrom(QWidget* page) {
    QWidget* focus = QApplication::focusWidget();
    if (auto* table = holder<QTableView>(focus))
        return copyForSpreadsheet(*table), true;
    if (auto* plot = firstSeen<QCustomPlot>(page))
        return copyPlot(plot), true;
    if (auto* table = firstSeen<QTableView>(page))
        return copyForSpreadsheet(*table), true;
    return false;
}

bool CopyMenu::eventFilter(QObject* watched, QEvent* event) {
    auto* widget = event->type() == QEvent::ContextMenu ? qobject_cast<QWidget*>(watched) : nullptr;
    if (!widget)
        return false;
    auto* table = holder<QTableView>(widget);
    auto* plot = holder<QCustomPlot>(widget);
    if ((!table && !plot) || qobject_cast<QLineEdit*>(widget)) // a cell being typed in has a menu of its own
        return false;
    QMenu menu(widget); // which has it look as its window does
    if (table) {
        menu.addAction(tr("Copy as Markdown"), table, [table] { copyAsMarkdown(*table); });
        menu.addAction(tr("Copy for a spreadsheet"), table, [table] { copyForSpreadsheet(*table); });
    } else {
        menu.addAction(tr("Copy as SVG and PNG"), plot, [plot] { copyPlot(plot); });
    }
    menu.exec(static_cast<QContextMenuEvent*>(event)->globalPos());
    return true;
}

} // namespace otterstone::app
