#include "app/attached/attached_strip.h"

#include <QDateTime>
#include <QDialog>
#include <QFileDialog>
#include <QFileInfo>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QSaveFile>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/theme.h"
#include "pictures/shrink.h"

namespace otterstone::app {

namespace {

using records::Attachment;
using records::kNew;

constexpr QSize kIcon(96, 72);
constexpr int kInARow = 3;

QString wordsOf(const Attachment& a) { return qs(a.caption.empty() ? a.name : a.caption); }

QString sizeOf(const Attachment& a) {
    const QString bytes = QLocale::c().formattedDataSize(a.size, 1, QLocale::DataSizeTraditionalFormat);
    return a.isPicture() ? QObject::tr("%1 × %2, %3").arg(a.width).arg(a.height).arg(bytes) : bytes;
}

// A file has no small picture: a sheet of paper with its ending.
QIcon iconOf(const Attachment& a, const QByteArray& thumbnail) {
    QPixmap pixmap(kIcon * 2);
    pixmap.setDevicePixelRatio(2.0);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const QImage image = a.isPicture() ? pictures::shown(thumbnail, pictures::kThumbnailSide) : QImage();
    if (!image.isNull()) {
        const QSize fit = image.size().scaled(kIcon, Qt::KeepAspectRatio);
        painter.drawImage(QRect(QPoint((kIcon.width() - fit.width()) / 2, (kIcon.height() - fit.height()) / 2), fit),
                          image);
    } else {
        const QRect page(30, 8, 36, 56);
        painter.setPen(theme().faint);
        painter.setBrush(theme().paper);
        painter.drawRect(page);
        painter.setFont(app::font(0.8, QFont::DemiBold));
        painter.drawText(page, Qt::AlignCenter, QFileInfo(qs(a.name)).suffix().left(4));
    }
    QIcon icon(pixmap);
    icon.addPixmap(pixmap, QIcon::Selected); // as it is: the colours of a heat picture mean something
    return icon;
}

} // namespace

Result<void> attachTo(BookSession& session, records::Id bank, records::Id run, Result<book::Prepared> prepared) {
    if (!prepared)
        return tl::unexpected(prepared.error());
    prepared->attachment.bank = run == kNew ? bank : kNew;
    prepared->attachment.run = run;
    prepared->attachment.addedAt = QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString();
    // What it holds is in the book after the first time; undo and redo only hide and show it.
    auto id = std::make_shared<records::Id>(kNew);
    const auto name = qs(prepared->attachment.name);
    auto whole = std::make_shared<book::Prepared>(std::move(*prepared));
    return session.history().perform(
        {QObject::tr("attach %1").arg(name),
         [&session, id, whole]() -> Result<void> {
             if (*id != kNew)
                 return book::setAttachmentRemoved(session.book(), *id, false);
             const auto made = book::attach(session.book(), *whole);
             if (!made)
                 return tl::unexpected(made.error());
             *id = *made;
             *whole = {};
             return {};
         },
         [&session, id] { return book::setAttachmentRemoved(session.book(), *id, true); }});
}

AttachedStrip::AttachedStrip(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), none_(new QLabel), list_(new QListWidget), add_(new QPushButton(tr("Add…"))) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(kGrid / 2);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Photographs and files"));
    title->setFont(app::font(1.0, QFont::DemiBold));
    head->addWidget(title);
    head->addStretch();
    add_->setObjectName(QStringLiteral("quiet"));
    add_->setAccessibleName(tr("Add a photograph or a file"));
    head->addWidget(add_);
    column->addLayout(head);
    none_->setText(tr("Label, box, set-up, heat picture, manual: drop or paste them anywhere, or add them here."));
    none_->setObjectName(QStringLiteral("faint"));
    none_->setWordWrap(true);
    column->addWidget(none_);
    list_->setViewMode(QListView::IconMode);
    list_->setIconSize(kIcon);
    list_->setGridSize(QSize(kIcon.width() + 12, kIcon.height() + 34));
    list_->setResizeMode(QListView::Adjust);
    list_->setMovement(QListView::Static);
    list_->setWordWrap(false);
    list_->setTextElideMode(Qt::ElideMiddle);
    list_->setUniformItemSizes(true);
    list_->setEditTriggers(QAbstractItemView::EditKeyPressed);
    list_->setAccessibleName(tr("Photographs and files"));
    list_->setToolTip(
        tr("Return: look at it · F2: write what it shows · Space: on the sheet, or not · Delete: take it away"));
    list_->installEventFilter(this);
    column->addWidget(list_);
    connect(add_, &QPushButton::clicked, this, &AttachedStrip::chooseFiles);
    connect(list_, &QListWidget::itemChanged, this, &AttachedStrip::change);
    connect(list_, &QListWidget::itemDoubleClicked, this, &AttachedStrip::look);
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible())
            fill();
    });
}

void AttachedStrip::showBank(records::Id bank) {
    bank_ = bank;
    run_ = kNew;
    fill();
}

void AttachedStrip::showRun(records::Id run) {
    run_ = run;
    bank_ = kNew;
    fill();
}

std::vector<Attachment> AttachedStrip::those() const {
    if (!session_.isOpen() || (bank_ == kNew && run_ == kNew))
        return {};
    return run_ != kNew ? book::attachmentsOfRun(session_.book(), run_)
                        : book::attachmentsOfBank(session_.book(), bank_);
}

void AttachedStrip::fill() {
    const auto all = those();
    add_->setEnabled(session_.isOpen() && !session_.book().readOnly());
    none_->setVisible(all.empty());
    list_->setVisible(!all.empty());
    if (all == shown_)
        return;
    const int row = list_->currentRow();
    const QSignalBlocker quiet(list_);
    list_->clear();
    shown_ = all;
    for (const Attachment& a : all) {
        auto* item = new QListWidgetItem(iconOf(a, book::thumbnailOf(session_.book(), a.id)), wordsOf(a), list_);
        item->setToolTip(QStringLiteral("%1\n%2").arg(qs(a.name), sizeOf(a)));
        Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
        if (!session_.book().readOnly())
            flags |= Qt::ItemIsEditable | (a.isPicture() ? Qt::ItemIsUserCheckable : Qt::NoItemFlags);
        item->setFlags(flags);
        if (a.isPicture()) {
            item->setCheckState(a.onSheet ? Qt::Checked : Qt::Unchecked);
            item->setData(Qt::AccessibleTextRole, a.onSheet ? tr("%1, on the sheet").arg(wordsOf(a)) : wordsOf(a));
        }
    }
    // One row, or two and a bar to the rest.
    list_->setFixedHeight((list_->count() > kInARow ? 2 : 1) * list_->gridSize().height() + 8);
    if (list_->count() > 0)
        list_->setCurrentRow(std::clamp(row, 0, list_->count() - 1));
}

void AttachedStrip::say(const Result<void>& done) {
    if (!done)
        Q_EMIT problem(qs(done.error().sentence()));
    fill();
}

void AttachedStrip::chooseFiles() {
    const QStringList paths = QFileDialog::getOpenFileNames(this, tr("Add photographs or files"));
    for (const QString& path : paths)
        say(attachTo(session_, bank_, run_, pictures::preparedFile(path)));
}

// Its words, or whether it is on the sheet.
void AttachedStrip::change(QListWidgetItem* item) {
    const auto row = static_cast<std::size_t>(list_->row(item));
    if (row >= shown_.size())
        return;
    const Attachment before = shown_[row];
    Attachment after = before;
    const std::string words = item->text().trimmed().toStdString();
    after.caption = words == before.name ? std::string() : words;
    after.onSheet = item->checkState() == Qt::Checked;
    if (after == before)
        return;
    const auto to = [this](const Attachment& a) { return book::change(session_.book(), a); };
    say(session_.history().perform({tr("what %1 shows").arg(qs(before.name)), [to, after] { return to(after); },
                                    [to, before] { return to(before); }}));
}

void AttachedStrip::takeAway() {
    const auto row = static_cast<std::size_t>(std::max(0, list_->currentRow()));
    if (row >= shown_.size() || session_.book().readOnly())
        return;
    const auto set = [this, id = shown_[row].id](bool removed) {
        return book::setAttachmentRemoved(session_.book(), id, removed);
    };
    say(session_.history().perform({tr("take away %1").arg(qs(shown_[row].name)), [set] { return set(true); },
                                    [set] { return set(false); }, tr("%1 is taken away.").arg(qs(shown_[row].name))}));
}

void AttachedStrip::look(const QListWidgetItem* item) {
    const auto row = static_cast<std::size_t>(list_->row(item));
    if (row >= shown_.size())
        return;
    const Attachment& a = shown_[row];
    const auto bytes = book::bytesOf(session_.book(), a.id);
    if (!bytes)
        return say(tl::unexpected(bytes.error()));
    const auto save = [this, bytes = *bytes, name = qs(a.name)] {
        const QString path = QFileDialog::getSaveFileName(this, tr("Save as"), name);
        QSaveFile file(path);
        if (!path.isEmpty() &&
            (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size() || !file.commit()))
            Q_EMIT problem(tr("%1 could not be written.").arg(path));
    };
    const QImage image = a.isPicture() ? pictures::shown(bytes.value()) : QImage();
    if (image.isNull()) // nothing of a stranger's file is opened by other programs from here
        return save();
    auto* dialog = new QDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setObjectName(QStringLiteral("picture"));
    dialog->setWindowTitle(wordsOf(a));
    auto* column = new QVBoxLayout(dialog);
    auto* scroll = new QScrollArea;
    auto* label = new QLabel;
    const QSize room = window()->size() * 0.85;
    label->setPixmap(
        QPixmap::fromImage(image.scaled(image.size().scaled(room, Qt::KeepAspectRatio).boundedTo(image.size()),
                                        Qt::KeepAspectRatio, Qt::SmoothTransformation)));
    label->setAccessibleName(wordsOf(a));
    scroll->setWidget(label);
    scroll->setAlignment(Qt::AlignCenter);
    column->addWidget(scroll, 1);
    auto* foot = new QHBoxLayout;
    foot->addWidget(new QLabel(QStringLiteral("%1 · %2").arg(qs(a.name), sizeOf(a))));
    foot->addStretch();
    auto* keep = new QPushButton(tr("Save as…"));
    foot->addWidget(keep);
    column->addLayout(foot);
    connect(keep, &QPushButton::clicked, this, save);
    dialog->resize(label->sizeHint() + QSize(40, 80));
    dialog->show();
}

bool AttachedStrip::eventFilter(QObject* watched, QEvent* event) {
    // Keys that an editor lets pass are none for the list.
    if (watched == list_ && event->type() == QEvent::KeyPress && list_->hasFocus()) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Delete) {
            takeAway();
            return true;
        }
        if ((key == Qt::Key_Return || key == Qt::Key_Enter) && list_->currentItem()) {
            look(list_->currentItem());
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace otterstone::app
