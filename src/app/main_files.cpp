// What comes into the window and goes out of it as a file: books, logs, bundles, what is dropped or pasted.
#include "app/main_window.h"

#include <QClipboard>
#include <QDropEvent>
#include <QFileDialog>
#include <QLabel>
#include <QMimeData>
#include <QStackedWidget>

#include "app/import/import_page.h"
#include "app/shelf/shelf.h"
#include "app/theme.h"
#include "book/demo/demo.h"
#include "book/exchange/bundle.h"

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
    QGuiApplication::setOverrideCursor(Qt::WaitCursor);
    auto book = book::makeDemo(path);
    QGuiApplication::restoreOverrideCursor();
    if (book)
        session_.adopt(std::move(*book));
    else
        say(qs(book.error().sentence()));
}

void MainWindow::chooseLog() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Bring in a log"), {},
                                                      tr("Logs (*.csv *.tsv *.txt *.log *.dat);;All files (*)"));
    if (!path.isEmpty())
        bringIn(path);
}

void MainWindow::bringIn(const QString& path) {
    if (session_.isOpen())
        showLooked(import_->look(path, shelf_->selected()));
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

void MainWindow::paste() { bringInText(QGuiApplication::clipboard()->text()); }

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
    if (event->mimeData()->hasUrls() || event->mimeData()->hasText())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    event->acceptProposedAction();
    if (!event->mimeData()->hasUrls())
        return bringInText(event->mimeData()->text());
    const QString path = event->mimeData()->urls().front().toLocalFile();
    if (path.endsWith(QStringLiteral(".otterstone")))
        openBook(path);
    else
        bringIn(path);
}

} // namespace otterstone::app
