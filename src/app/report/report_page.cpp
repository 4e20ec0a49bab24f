#include "app/report/report_page.h"

#include <QAbstractTextDocumentLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QLabel>
#include <QPrintPreviewDialog>
#include <QPrinter>
#include <QPushButton>
#include <QScrollBar>
#include <QStandardPaths>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "app/report/paper.h"
#include "app/report/publish.h"
#include "app/theme.h"
#include "book/exchange/bundle.h"

namespace otterstone::app {

namespace {

constexpr int kSide = 224;

QString fileName(const report::Content& c) {
    QString name;
    for (const QChar ch : qs(c.title).toLower())
        name += ch.isLetterOrNumber() ? ch : QLatin1Char('-');
    return name.isEmpty() ? QStringLiteral("sheet") : name;
}

} // namespace

ReportPage::ReportPage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), what_(new QComboBox), bundle_(new QCheckBox(tr("the raw bundle beside it"))),
      publish_(new QCheckBox(tr("remember what it said"))), paper_(new QTextBrowser), last_(new QLabel) {
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid);
    all->setSpacing(3 * kGrid);
    auto* side = new QWidget;
    side->setFixedWidth(kSide);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    auto* title = new QLabel(tr("The sheet"));
    title->setFont(app::font(1.6, QFont::DemiBold));
    column->addWidget(title);
    what_->setAccessibleName(tr("Sheet of"));
    what_->addItems({tr("This bank"), tr("The comparison")});
    column->addWidget(what_);
    last_->setObjectName(QStringLiteral("faint"));
    last_->setWordWrap(true);
    column->addWidget(last_);
    column->addSpacing(kGrid);
    for (const auto& [words, ending] : {std::pair(tr("Write as &HTML…"), "html"),
                                        {tr("Write as &PDF…"), "pdf"},
                                        {tr("Write as &Markdown…"), "md"},
                                        {tr("Write as &CSV…"), "csv"},
                                        {tr("Write as &JSON…"), "json"}}) {
        auto* b = new QPushButton(words);
        connect(b, &QPushButton::clicked, this, [this, end = QString::fromLatin1(ending)] { chooseFile(end); });
        column->addWidget(b);
        buttons_.push_back(b);
    }
    auto* print = new QPushButton(tr("P&rint preview…"));
    connect(print, &QPushButton::clicked, this, &ReportPage::preview);
    column->addWidget(print);
    buttons_.push_back(print);
    column->addSpacing(kGrid);
    publish_->setChecked(true);
    publish_->setToolTip(tr("So that the next sheet can say what changed since"));
    column->addWidget(publish_);
    column->addWidget(bundle_);
    column->addStretch();
    all->addWidget(side);
    paper_->setAccessibleName(tr("Preview of the sheet"));
    paper_->setOpenLinks(false);
    paper_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    all->addWidget(paper_, 1);
    connect(what_, &QComboBox::activated, this, [this](int k) {
        comparison_ = k == 1;
        open();
    });
    connect(&session_, &BookSession::materialReady, this, &ReportPage::take);
    connect(&session_, &BookSession::materialFailed, this, &ReportPage::problem);
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible())
            open();
    });
    connect(&session_, &BookSession::opened, this, [this] { banks_.clear(); });
}

void ReportPage::showBank(records::Id bank) {
    bank_ = bank;
    comparison_ = false;
    open();
}

void ReportPage::showComparison(const std::vector<records::Id>& banks) {
    banks_ = banks;
    comparison_ = true;
    open();
}

void ReportPage::open() {
    if (!session_.isOpen())
        return;
    what_->setCurrentIndex(comparison_ ? 1 : 0);
    session_.gatherMaterial(comparison_ ? banks_ : std::vector<records::Id>{bank_});
}

void ReportPage::take(const report::Material& material, const report::Content& content) {
    material_ = material;
    content_ = content;
    pictures_ = drawPictures(session_.book(), material_, content_);
    const auto before = session_.book().publications(book::scopeOf(material_));
    last_->setText(before.empty() ? tr("Not published yet.")
                                  : tr("Last published %1.").arg(qs(before.front().at.substr(0, 10))));
    auto document = makeDocument(content_, pictures_, std::max(400, paper_->viewport()->width() - 76));
    document->setDocumentMargin(18);
    // Always on paper: a sheet looks as it will be read, whatever the window's theme.
    paper_->setStyleSheet(QStringLiteral("QTextBrowser { background: #ffffff; }"));
    const int at = paper_->verticalScrollBar()->value();
    document->setLayoutEnabled(true);
    paper_->setDocument(document.get()); // lays it out in steps, the top first
    document_ = std::move(document);
    if (at > 0) {
        (void)document_->documentLayout()->documentSize(); // whole: the place may be at its end
        paper_->verticalScrollBar()->setValue(at);
    }
    for (QWidget* b : buttons_)
        b->setEnabled(true);
}

void ReportPage::chooseFile(const QString& ending) {
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation);
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Write the sheet"), QDir(folder).filePath(fileName(content_) + QLatin1Char('.') + ending),
        tr("Sheets (*.%1)").arg(ending));
    if (!file.isEmpty())
        write(file.endsWith(QLatin1Char('.') + ending) ? file : file + QLatin1Char('.') + ending);
}

bool ReportPage::write(const QString& file) {
    if (material_.banks.empty())
        return false;
    const auto fail = [this](const Problem& p) {
        Q_EMIT problem(qs(p.sentence()));
        return false;
    };
    if (auto written = writeSheet(session_.book(), material_, content_, file); !written)
        return fail(written.error());
    QString said = tr("The sheet is in %1.").arg(file);
    if (bundle_->isChecked()) {
        if (auto exported = book::exportBundle(session_.book(), file + QStringLiteral(".bundle")); !exported)
            return fail(exported.error());
        said += tr(" The raw bundle is beside it.");
    }
    if (publish_->isChecked() && !session_.book().readOnly()) {
        if (auto kept = book::rememberPublished(session_.book(), material_, content_); !kept)
            return fail(kept.error());
    }
    Q_EMIT done(said);
    return true;
}

void ReportPage::preview() {
    QPrinter printer;
    printer.setPageSize(QPageSize(QPageSize::A4));
    printer.setResolution(QPicture().logicalDpiX());
    QPrintPreviewDialog dialog(&printer, this);
    dialog.setWindowTitle(tr("Print preview"));
    connect(&dialog, &QPrintPreviewDialog::paintRequested, this,
            [this](QPrinter* on) { printOn(*on, content_, pictures_); });
    dialog.exec();
}

} // namespace otterstone::app
