#include "app/behaviour/behaviour_view.h"

#include <QClipboard>
#include <QCompleter>
#include <QFileDialog>
#include <QGuiApplication>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPrintDialog>
#include <QPrinter>
#include <QPushButton>
#include <QSaveFile>
#include <QStackedWidget>
#include <QStyledItemDelegate>
#include <QTextDocument>

#include "app/behaviour/matrix_bar.h"
#include "app/behaviour/matrix_model.h"
#include "app/behaviour/notebook_bar.h"
#include "app/behaviour/pictures.h"
#include "app/behaviour/sheet_model.h"
#include "app/theme.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/kept_widths.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/side_panel.h"
#include "app/widgets/typing_grid.h"
#include "core/kinds/catalogue.h"
#include "logs/csv.h"

namespace otterstone::app {

namespace {

// The name under which the width of a matrix's column is kept: what stands over it.
QString matrixColumn(const QAbstractItemModel& matrix, int section) {
    return QStringLiteral("matrix/") + matrix.headerData(section, Qt::Horizontal).toString();
}

constexpr int kWidest = 190;             // of a column, for what stands in it
constexpr std::size_t kMostFigures = 12; // a survey has one for each tier; the picture shows them all

// Completes the words that a column takes.
class WordDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option,
                          const QModelIndex& index) const override {
        auto* editor = QStyledItemDelegate::createEditor(parent, option, index);
        const auto* model = qobject_cast<const SheetModel*>(index.model());
        auto* line = qobject_cast<QLineEdit*>(editor);
        if (!model || !line)
            return editor;
        const auto& choices = model->columns()[static_cast<std::size_t>(index.column())].choices;
        if (choices.empty())
            return editor;
        QStringList words;
        for (const std::string& w : choices)
            words << qs(w);
        auto* completer = new QCompleter(words, line);
        completer->setCaseSensitivity(Qt::CaseInsensitive);
        completer->setCompletionMode(QCompleter::InlineCompletion);
        line->setCompleter(completer);
        return editor;
    }
};

} // namespace

void BehaviourPicture::show(const records::Sheet& sheet, const setup::Facts& facts, const QString& words) {
    sheet_ = sheet;
    facts_ = facts;
    setFixedHeight(static_cast<int>(behaviourHeight(sheet, facts)));
    setAccessibleName(words);
    update();
}

void BehaviourPicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    paintBehaviour(painter, QRectF(rect()).adjusted(2, 2, -2, -2), sheet_, facts_);
}

BehaviourView::BehaviourView(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), sentence_(new QLabel), remarks_(new QLabel), hint_(new QLabel),
      picture_(new BehaviourPicture), figures_(new QWidget), model_(new SheetModel(this)),
      matrix_(new MatrixModel(this)), grid_(new TypingGrid(model_)), matrixGrid_(new TypingGrid(matrix_)),
      grids_(new QStackedWidget), notebook_(new NotebookBar(model_, grid_)),
      matrixBar_(new MatrixBar(matrix_, matrixGrid_)) {
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    auto* column = column_ = addScrollingColumn(outer);
    auto* head = new QHBoxLayout;
    sentence_->setFont(app::font(1.3));
    sentence_->setWordWrap(true);
    sentence_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    sentence_->setAccessibleName(tr("Finding"));
    head->addWidget(sentence_, 1);
    auto* copy = new QPushButton(tr("Copy"));
    auto* rows = new QPushButton(tr("CSV…"));
    rows->setToolTip(tr("The rows, for a spreadsheet"));
    auto* paper = new QPushButton(tr("Print…"));
    for (QPushButton* b : {copy, rows, paper}) {
        b->setObjectName(QStringLiteral("quiet"));
        head->addWidget(b, 0, Qt::AlignTop);
    }
    column->addLayout(head);
    column->addWidget(picture_);
    figureRow_ = new FlowLayout(figures_, kGrid);
    column->addWidget(figures_);
    column->addWidget(matrixBar_);
    column->addWidget(notebook_);
    matrixGrid_->horizontalHeader()->setStretchLastSection(false);
    grid_->setItemDelegate(new WordDelegate(grid_));
    grid_->setAccessibleName(tr("What was seen"));
    keepColumns(grid_->horizontalHeader(), [this](int section) { return columnName(section); });
    keepColumns(matrixGrid_->horizontalHeader(), [this](int section) { return matrixColumn(*matrix_, section); });
    matrixGrid_->setAccessibleName(tr("What comes with each"));
    grid_->paste = [this](const QModelIndex& at, const QString& text) { model_->paste(at, text); };
    matrixGrid_->paste = [this](const QModelIndex& at, const QString& text) { matrix_->paste(at, text); };
    grid_->removeRow = [this](int row) { model_->removeSheetRow(row); };
    grid_->beginRow = [this](int row) { goOnInRhythm(row); };
    grid_->setMinimumHeight(170);
    grids_->addWidget(grid_);
    grids_->addWidget(matrixGrid_);
    column->addWidget(grids_, 1);
    for (QLabel* l : {remarks_, hint_}) {
        l->setObjectName(QStringLiteral("faint"));
        l->setWordWrap(true);
        l->setTextInteractionFlags(Qt::TextSelectableByMouse);
        column->addWidget(l);
    }

    connect(copy, &QPushButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(sentence_->text()); });
    connect(paper, &QPushButton::clicked, this, &BehaviourView::askForPaper);
    connect(rows, &QPushButton::clicked, this, &BehaviourView::askForFile);
    connect(model_, &SheetModel::typed, this, [this] { keep(model_->sheet()); });
    connect(matrix_, &MatrixModel::typed, this, [this] { keep(matrix_->sheet()); });
    connect(notebook_, &NotebookBar::columnsChanged, this, &BehaviourView::widenColumns);
    connect(notebook_, &NotebookBar::readerChosen, this, &BehaviourView::readBy);
    connect(matrix_, &MatrixModel::wrong, this, &BehaviourView::problem);
    connect(matrix_, &MatrixModel::turned, this, &BehaviourView::widenMatrix);
}

QString BehaviourView::sentence() const { return sentence_->text(); }

void BehaviourView::show(const records::Run& run) {
    const auto bank = session_.book().bank(run.bank);
    if (!bank)
        return;
    const bool another = run.id != run_.id || run.kind != run_.kind;
    run_ = run;
    facts_ = session_.book().factsFor(*bank, run);
    setup_ = session_.book().setupFor(*bank, run);
    const records::Sheet sheet = run.sheet.value_or(records::Sheet{run.kind, {}});
    // Where the picture tells every figure already they come last, and where it follows what is typed below it.
    const bool last = isMatrix() || run.kind == records::Kind::Survey || run.kind == records::Kind::Notebook;
    column_->removeWidget(figures_);
    column_->insertWidget(last ? column_->count() : 2, figures_);
    matrixBar_->setVisible(isMatrix());
    notebook_->setVisible(run.kind == records::Kind::Notebook);
    grids_->setCurrentIndex(isMatrix() ? 1 : 0);
    if (isMatrix()) {
        matrix_->show(sheet, facts_, session_.book().readOnly(), another);
    } else {
        model_->show(sheet, session_.book().readOnly());
        if (another)
            widenColumns();
    }
    if (run.kind == records::Kind::Notebook)
        notebook_->show(facts_, run, session_.book().gear(), another);
    hint_->setText(
        run.kind == records::Kind::Notebook
            ? tr("Return: next row · Tab: next cell · Ctrl+E: another device · Ctrl+K: more columns · Ctrl+V: cells from a spreadsheet · Shift+Del: remove the row. Times as you write them: 15 min, +15 min, 14:05; a display: 83, 2 of 4, full.")
        : isMatrix()
            ? tr("Write 18 W, 9 V 18 W, 9 V 2 A, nothing, or 18 W stopped after 5 h; an empty cell was not tried. Tab: next cell · Return: next row · Ctrl+PgDown: next layer · Ctrl+E: another row (twice: another column) · Ctrl+V: cells from a spreadsheet. Chargers, cables and devices come from the gear drawer (Alt+2).")
            : tr("Tab: next cell · Return: next row · Ctrl+V: cells from a spreadsheet · Shift+Del: remove the row. An empty cell was not tried; columns tell at their heading what they take."));
    judge();
}

// Among the settings: a sheet of the same kind has it as wide again.
QString BehaviourView::columnName(int section) const {
    const auto& columns = model_->columns();
    return static_cast<std::size_t>(section) < columns.size()
               ? qs(records::kindKey(model_->sheet().kind) + "/" + columns[static_cast<std::size_t>(section)].key)
               : QString();
}

void BehaviourView::widenColumns() {
    const auto& columns = model_->columns();
    for (std::size_t k = 0; k < columns.size(); ++k) {
        const int least = !columns[k].choices.empty() ? 132 : columns[k].number ? 78 : 92;
        const auto section = static_cast<int>(k);
        const int wanted = std::max({least, grid_->horizontalHeader()->sectionSizeHint(section),
                                     std::min(kWidest, grid_->contentsWidth(section))});
        grid_->setColumnWidth(section, keptWidth(columnName(section)).value_or(wanted));
    }
}

void BehaviourView::widenMatrix() {
    matrixGrid_->setMinimumHeight(40 + 30 * std::min(8, matrix_->rowCount()));
    for (int k = 0; k < matrix_->columnCount(); ++k)
        matrixGrid_->setColumnWidth(k, keptWidth(matrixColumn(*matrix_, k))
                                           .value_or(std::max({128, matrixGrid_->horizontalHeader()->sectionSizeHint(k),
                                                               matrixGrid_->contentsWidth(k)})));
}

// What was measured is one of the bank's drains and recharges: its neighbours are heard as soon as they are known.
void BehaviourView::judge() {
    const records::Sheet& sheet = isMatrix() ? matrix_->sheet() : model_->sheet();
    auto said = kinds::judge(sheet, facts_);
    finding_ = {};
    finding_.kind = sheet.kind;
    unread_.clear();
    cannot_.clear();
    if (said) {
        for (const kinds::Remark& r : said->remarks)
            unread_ << QStringLiteral("!  ") + qs(r.problem.sentence());
        model_->setRemarks(said->remarks);
        finding_ = kinds::findingOf(sheet, std::move(*said), facts_, setup_);
        if (const auto heard = finding_.drain || finding_.recharge ? session_.finding(run_.id) : std::nullopt)
            finding_ = *heard;
    } else {
        cannot_ = said.error().code == "nothing_yet"
                      ? tr("%1: nothing is written down yet.").arg(qs(records::kindWords(sheet.kind)))
                      : qs(said.error().sentence());
    }
    fillFigures(finding_.figures);
    const Told words = told();
    sentence_->setText(words.sentence);
    remarks_->setText(words.remarks.join(QLatin1Char('\n')));
    remarks_->setVisible(!words.remarks.isEmpty());
    picture_->show(sheet, facts_, words.sentence);
    Q_EMIT judged(run_, finding_);
}

BehaviourView::Told BehaviourView::told() const {
    Told words{cannot_.isEmpty() ? onScreen(finding_.sentence) : cannot_, unread_};
    for (const Warning& w : finding_.warnings) {
        if (w.code != "taken") // the line above says so, with what to do about it
            words.remarks << QStringLiteral("·  ") + onScreen(w.text);
    }
    return words;
}

void BehaviourView::fillFigures(const std::vector<Working>& figures) {
    QString open;
    for (auto* button : figures_->findChildren<FigureButton*>()) {
        if (button->isChecked())
            open = qs(button->working().key);
    }
    while (QLayoutItem* item = figureRow_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    for (std::size_t k = 0; k < std::min(figures.size(), kMostFigures); ++k) {
        auto* button = new FigureButton(figures[k]);
        figureRow_->addWidget(button);
        connect(button, &FigureButton::clicked, this, [this, button] {
            const Working opened = button->working();
            uncheckFigures();
            button->setChecked(true);
            Q_EMIT workingWanted(opened);
        });
        button->setChecked(!open.isEmpty() && qs(figures[k].key) == open);
    }
    figures_->updateGeometry();
}

void BehaviourView::uncheckFigures() {
    for (auto* button : figures_->findChildren<FigureButton*>())
        button->setChecked(false);
}

void BehaviourView::keep(const records::Sheet& sheet) {
    run_.sheet = sheet;
    if (auto done = session_.changeRun(run_, tr("what was seen")); !done)
        Q_EMIT problem(qs(done.error().sentence()));
    judge();
}

void BehaviourView::readBy(records::Id meter, bool byDisplay) {
    records::Run run = run_;
    run.meter = meter == records::kNew ? std::nullopt : std::optional(meter);
    run.byDisplay = byDisplay;
    if (auto done = session_.changeRun(run, tr("what the readings were read off")); !done)
        Q_EMIT problem(qs(done.error().sentence()));
}

// A row after "+15 min" begins with "+15 min".
void BehaviourView::goOnInRhythm(int row) {
    const QString last = row > 0 ? model_->index(row - 1, 0).data().toString() : QString();
    if (run_.kind == records::Kind::Notebook && row == model_->rowCount() - 1 && last.startsWith(QLatin1Char('+')))
        model_->setData(model_->index(row, 0), last, Qt::EditRole);
}

void BehaviourView::startTyping() {
    if (isMatrix()) {
        matrixGrid_->setCurrentIndex(matrix_->index(0, 0));
        matrixGrid_->setFocus();
        return;
    }
    // The first cell that nobody has filled, in the first row that has one.
    const auto& columns = model_->columns();
    for (int row = 0; row < model_->rowCount(); ++row) {
        for (int k = 0; k < model_->columnCount(); ++k) {
            if (!grid_->isColumnHidden(k) && model_->index(row, k).data().toString().isEmpty() &&
                columns[static_cast<std::size_t>(k)].key != "note") {
                grid_->setCurrentIndex(model_->index(row, k));
                grid_->setFocus();
                return;
            }
        }
    }
    grid_->startTyping();
}

void BehaviourView::askForFile() {
    const QString path = QFileDialog::getSaveFileName(this, tr("The rows as CSV"),
                                                      qs(run_.title) + QStringLiteral(".csv"), tr("CSV (*.csv)"));
    if (!path.isEmpty())
        saveRows(path);
}

void BehaviourView::saveRows(const QString& path) {
    const std::string text = logs::sheetCsv(isMatrix() ? matrix_->sheet() : model_->sheet());
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(text.data(), static_cast<qint64>(text.size())) < 0 ||
        !file.commit())
        Q_EMIT problem(tr("%1 could not be written: %2. Check that the folder may be written and the disk has room.")
                           .arg(path, file.errorString()));
}

void BehaviourView::askForPaper() {
    QPrinter printer(QPrinter::HighResolution);
    QPrintDialog dialog(&printer, this);
    dialog.setWindowTitle(tr("Print what was seen"));
    if (dialog.exec() == QDialog::Accepted)
        print(printer);
}

void BehaviourView::print(QPagedPaintDevice& paper) const {
    const PaperScope onPaper;
    QPainter painter(&paper);
    // Drawn as on a screen 900 pixels wide.
    const double scale = paper.width() / 900.0;
    painter.scale(scale, scale);
    const records::Sheet& sheet = isMatrix() ? matrix_->sheet() : model_->sheet();
    QTextDocument words;
    words.setDefaultFont(app::font(1.0));
    words.setTextWidth(900.0);
    const auto bank = session_.book().bank(run_.bank);
    const Told said = told();
    words.setHtml(QStringLiteral("<h2>%1</h2><p>%2</p><p>%3</p>")
                      .arg((bank ? qs(bank->name) + QStringLiteral(" · ") : QString()).toHtmlEscaped() +
                               qs(run_.title).toHtmlEscaped(),
                           said.sentence.toHtmlEscaped(),
                           said.remarks.join(QLatin1Char('\n'))
                               .toHtmlEscaped()
                               .replace(QLatin1Char('\n'), QStringLiteral("<br>"))));
    words.drawContents(&painter);
    const double top = words.size().height() + 16.0, tall = behaviourHeight(sheet, facts_);
    paintBehaviour(painter, QRectF(0.0, top, 900.0, tall), sheet, facts_);
    // The rows, without columns nobody used.
    const auto columns = kinds::columnsOf(sheet);
    QString table = QStringLiteral("<table cellpadding='3' border='0'><tr>");
    std::vector<std::size_t> used;
    for (std::size_t k = 0; k < columns.size(); ++k) {
        if (std::any_of(sheet.rows.begin(), sheet.rows.end(),
                        [k](const auto& row) { return k < row.size() && !row[k].empty(); })) {
            used.push_back(k);
            table += QStringLiteral("<th align='left'>%1</th>").arg(qs(columns[k].words).toHtmlEscaped());
        }
    }
    table += QStringLiteral("</tr>");
    for (const auto& row : sheet.rows) {
        table += QStringLiteral("<tr>");
        for (const std::size_t k : used)
            table += QStringLiteral("<td>%1</td>").arg(qs(row[k]).toHtmlEscaped());
        table += QStringLiteral("</tr>");
    }
    QTextDocument rows;
    rows.setDefaultFont(app::font(0.9));
    rows.setTextWidth(900.0);
    rows.setHtml(table + QStringLiteral("</table>"));
    // As many pages as the rows need.
    const double page = paper.height() / scale;
    double from = 0.0, at = top + tall + 20.0;
    while (from < rows.size().height()) {
        const double room = page - at;
        painter.save();
        painter.translate(0.0, at - from);
        rows.drawContents(&painter, QRectF(0.0, from, 900.0, room));
        painter.restore();
        from += room;
        at = 0.0;
        if (from < rows.size().height())
            paper.newPage();
    }
}

} // namespace otterstone::app
