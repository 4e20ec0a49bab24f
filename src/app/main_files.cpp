// What comes into the window and goes out of it as a file: books, logs, bundles, what is dropped or pasted.
#include "app/main_window.h"

#include <QClipboard>
#include <QDateTime>
#include <QDropEvent>
#include <QFileDialog>
#include <QFutureWatcher>
#include <QGuiApplication>
#include <QLabel>
#include <QMimeData>
#include <QMimeDatabase>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QtConcurrent>

#include "app/attached/attached_strip.h"
#include "app/import/import_page.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/theme.h"
#include "app/widgets/message_bar.h"
#include "book/demo/demo.h"
#include "book/exchange/bundle.h"
#include "book/exchange/rescue.h"
#include "pictures/shrink.h"

namespace otterstone::app {

// Another book would leave the run that goes without its window.
bool MainWindow::runGoes() {
    if (liveBench_.isRunning())
        say(tr("A run is being written into this book. Stop it first (Ctrl+.), or let it end."));
    return liveBench_.isRunning();
}

bool MainWindow::openBook(const QString& path) {
    if (runGoes())
        return false;
    if (auto opened = session_.open(path); !opened) {
        say(qs(opened.error().sentence()));
        return false;
    }
    message_->hide();
    return true;
}

void MainWindow::chooseBook() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Open a book"), {}, tr("Books (*.otterstone)"));
    if (!path.isEmpty())
        openBook(path);
}

void MainWindow::openHomeBook() {
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
    QDir().mkpath(folder);
    const QString path = QDir(folder).filePath(QStringLiteral("bench.otterstone"));
    const auto done = QFileInfo::exists(path) ? session_.open(path) : session_.create(path);
    if (!done)
        say(qs(done.error().sentence()));
}

void MainWindow::openDemo() {
    if (runGoes())
        return;
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
    QDir().mkpath(folder);
    const QString path = QDir(folder).filePath(QStringLiteral("skerry-point.otterstone"));
    if (QFileInfo::exists(path)) {
        openBook(path);
        return;
    }
    // Some seconds of sums: beside the window, which stands there and says so.
    const QString name = QStringLiteral("making the demo");
    if (findChild<QFutureWatcherBase*>(name))
        return;
    tell(tr("The demo is being made; it takes some seconds, once."));
    auto* watcher = new QFutureWatcher<Result<void>>(this);
    watcher->setObjectName(name);
    connect(watcher, &QFutureWatcherBase::finished, this,
            [this, watcher, path, before = session_.isOpen() ? session_.book().path() : QString()] {
                watcher->deleteLater();
                const Result<void> made = watcher->result();
                const QString now = session_.isOpen() ? session_.book().path() : QString();
                if (!made)
                    say(qs(made.error().sentence()));
                else if (now == before) // else another book was opened meanwhile
                    openBook(path);
            });
    watcher->setFuture(QtConcurrent::run([path]() -> Result<void> {
        auto book = book::makeDemo(path);
        return book ? Result<void>() : tl::unexpected(book.error());
    }));
}

void MainWindow::chooseLog() {
    const QString path = QFileDialog::getOpenFileName(
        this, tr("Bring in a log"), {},
        tr("Logs (*.csv *.tsv *.txt *.log *.dat *.gz);;Rests of runs (rescued-run-*.json);;All files (*)"));
    if (!path.isEmpty())
        bringIn(path);
}

void MainWindow::bringIn(const QString& path) {
    if (!session_.isOpen())
        return;
    if (!book::isRescue(path))
        return showLooked(import_->look(path, shelf_->selected()));
    const auto run = session_.bringInRest(path);
    if (!run)
        return say(qs(run.error().sentence()));
    showRuns(session_.book().run(*run)->bank, *run);
    tell(tr("What the book had not taken of this run stands in it again."));
}

void MainWindow::bringInText(const QString& text) {
    if (session_.isOpen())
        showLooked(import_->lookAtText(text, shelf_->selected()));
}

void MainWindow::showLooked(const Result<void>& looked) {
    if (!looked)
        return say(qs(looked.error().sentence()));
    message_->hide();
    showStage(import_);
    import_->setFocus();
}

void MainWindow::paste() {
    const QMimeData* clip = QGuiApplication::clipboard()->mimeData();
    if (clip && clip->hasImage() && !clip->hasText())
        return attach({pictures::preparedPicture(
            tr("pasted %1.png").arg(QDateTime::currentDateTime().toString(QStringLiteral("yyyy-MM-dd HHmm"))),
            qvariant_cast<QImage>(clip->imageData()))});
    bringInText(QGuiApplication::clipboard()->text());
}

// To the run that is shown, else to the bank.
void MainWindow::attach(const std::vector<Result<book::Prepared>>& all) {
    if (!session_.isOpen() || session_.book().readOnly())
        return;
    const bool ofRun = shows(runs_) && runs_->run() != records::kNew;
    const records::Id bank = shelf_->selected();
    if (!ofRun && bank == records::kNew)
        return say(tr("Choose the bank first that this belongs to."));
    for (const auto& one : all) {
        if (auto done = attachTo(session_, bank, ofRun ? runs_->run() : records::kNew, one); !done)
            return say(qs(done.error().sentence()));
    }
    const auto owner = session_.book().bank(bank);
    tell(ofRun ? tr("Attached to this run: it is under About this run (Ctrl+T).")
               : tr("Attached to %1: it is on the intake page (Alt+1).").arg(owner ? qs(owner->name) : QString()));
}

void MainWindow::exportBundle() {
    const QString folder = QFileDialog::getSaveFileName(this, tr("Export as a bundle: name a new folder"));
    if (folder.isEmpty() || !session_.isOpen())
        return;
    const auto done = book::exportBundle(session_.book(), folder);
    done ? tell(tr("The bundle is in %1.").arg(folder)) : say(qs(done.error().sentence()));
}

void MainWindow::importBundle() {
    if (runGoes())
        return;
    const QString source = QFileDialog::getOpenFileName(this, tr("Import a bundle: its book.json or .zip"), {},
                                                        tr("Bundles (book.json *.zip)"));
    if (source.isEmpty())
        return;
    const QString path = QFileDialog::getSaveFileName(this, tr("Name the new book"), {}, tr("Books (*.otterstone)"));
    if (path.isEmpty())
        return;
    auto book =
        book::importBundle(source.endsWith(QStringLiteral(".zip")) ? source : QFileInfo(source).absolutePath(), path);
    if (book)
        session_.adopt(std::move(*book));
    else
        say(qs(book.error().sentence()));
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() || event->mimeData()->hasText() || event->mimeData()->hasImage())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    event->acceptProposedAction();
    if (!event->mimeData()->hasUrls() && event->mimeData()->hasImage())
        return attach(
            {pictures::preparedPicture(tr("dropped.png"), qvariant_cast<QImage>(event->mimeData()->imageData()))});
    if (!event->mimeData()->hasUrls())
        return bringInText(event->mimeData()->text());
    // Pictures and documents are attached; what may be a log is looked at.
    std::vector<Result<book::Prepared>> attached;
    for (const QUrl& url : event->mimeData()->urls()) {
        const QString type = QMimeDatabase().mimeTypeForFile(url.toLocalFile()).name();
        if (type.startsWith(QLatin1String("image/")) || type == QLatin1String("application/pdf"))
            attached.push_back(pictures::preparedFile(url.toLocalFile()));
    }
    if (!attached.empty())
        return attach(attached);
    const QString path = event->mimeData()->urls().front().toLocalFile();
    if (path.endsWith(QStringLiteral(".otterstone")))
        openBook(path);
    else
        bringIn(path);
}

} // namespace otterstone::app
