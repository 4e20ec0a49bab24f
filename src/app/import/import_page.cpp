#include "app/import/import_page.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QRadioButton>
#include <QTableWidget>
#include <QTimer>
#include <QVBoxLayout>
#include <QtConcurrent>

#include "app/import/mapping_editor.h"
#include "app/theme.h"
#include "app/widgets/ends_fields.h"
#include "app/widgets/on_screen.h"

namespace otterstone::app {

namespace {

QLabel* heading(const QString& words) {
    auto* label = new QLabel(words);
    label->setFont(app::font(1.05, QFont::DemiBold));
    return label;
}

QString isoTime(std::optional<double> secondsSince1970) {
    return secondsSince1970 ? QDateTime::fromMSecsSinceEpoch(static_cast<qint64>(*secondsSince1970 * 1000.0), Qt::UTC)
                                  .toString(Qt::ISODate)
                            : QString();
}

} // namespace

ImportPage::ImportPage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), title_(new QLabel), reasons_(new QLabel), problem_(new QLabel),
      mapping_(new MappingEditor), preview_(new QTableWidget), bank_(new QComboBox),
      drain_(new QRadioButton(tr("Drain: out of the bank"))),
      recharge_(new QRadioButton(tr("Recharge: into the bank"))), runTitle_(new QLineEdit), meter_(new QComboBox),
      point_(new QComboBox), ends_(new EndsFields(Qt::Vertical)), take_(new QPushButton(tr("Take it into the book"))),
      leave_(new QPushButton(tr("Leave it"))), bar_(new QProgressBar), tick_(new QTimer(this)) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(3 * kGrid, 2 * kGrid, 3 * kGrid, 2 * kGrid);
    all->setSpacing(kGrid);
    title_->setFont(app::font(1.6, QFont::DemiBold));
    all->addWidget(title_);
    reasons_->setObjectName(QStringLiteral("faint"));
    reasons_->setWordWrap(true);
    all->addWidget(reasons_);
    problem_->setObjectName(QStringLiteral("problem"));
    problem_->setWordWrap(true);
    all->addWidget(problem_);
    all->addWidget(heading(tr("What the columns are, and why")));
    all->addWidget(mapping_);
    all->addWidget(heading(tr("The first rows")));
    preview_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    preview_->setAccessibleName(tr("Preview of the log"));
    preview_->verticalHeader()->hide();
    preview_->setTabKeyNavigation(false);
    all->addWidget(preview_, 1);

    auto* sheet = new QFrame;
    sheet->setObjectName(QStringLiteral("sheet"));
    auto* row = new QHBoxLayout(sheet);
    row->setContentsMargins(2 * kGrid, kGrid, 2 * kGrid, kGrid);
    row->setSpacing(3 * kGrid);
    auto* target = new QFormLayout;
    target->addRow(tr("Bank"), bank_);
    target->addRow(tr("Read by meter"), meter_);
    target->addRow(tr("Read at"), point_);
    point_->setAccessibleName(tr("Point of the path"));
    target->addRow(tr("Title"), runTitle_);
    for (QWidget* w : {static_cast<QWidget*>(bank_), static_cast<QWidget*>(meter_), static_cast<QWidget*>(point_),
                       static_cast<QWidget*>(runTitle_)})
        w->setMinimumWidth(280);
    bank_->setAccessibleName(tr("Bank"));
    meter_->setAccessibleName(tr("Meter"));
    runTitle_->setAccessibleName(tr("Title"));
    row->addLayout(target);
    auto* kinds = new QVBoxLayout;
    kinds->addWidget(drain_);
    kinds->addWidget(recharge_);
    ends_->setMinimumWidth(260);
    kinds->addWidget(ends_);
    kinds->addStretch();
    drain_->setChecked(true);
    row->addLayout(kinds);
    row->addStretch();
    auto* buttons = new QVBoxLayout;
    take_->setObjectName(QStringLiteral("primary"));
    take_->setMinimumHeight(40);
    bar_->setRange(0, 1000);
    bar_->hide();
    buttons->addWidget(take_);
    buttons->addWidget(leave_);
    buttons->addWidget(bar_);
    buttons->addStretch();
    row->addLayout(buttons);
    all->addWidget(sheet);

    connect(mapping_, &MappingEditor::columnChosen, this, [this](logs::Role role, const QString& column) {
        if (column.isEmpty())
            hand_.columns.erase(role);
        else
            hand_.columns[role] = column.toStdString();
        recognise();
    });
    connect(mapping_, &MappingEditor::unitChosen, this, [this](logs::Role role, const QString& unit) {
        if (unit.isEmpty())
            hand_.units.erase(role);
        else
            hand_.units[role] = unit.toStdString();
        recognise();
    });
    for (QRadioButton* kind : {drain_, recharge_})
        connect(kind, &QRadioButton::toggled, this, &ImportPage::kindChosen);
    connect(take_, &QPushButton::clicked, this, &ImportPage::take);
    connect(leave_, &QPushButton::clicked, this, [this] {
        if (progress_)
            progress_->cancel = true;
        else
            Q_EMIT left();
    });
    connect(tick_, &QTimer::timeout, this, [this] {
        if (progress_)
            bar_->setValue(static_cast<int>(progress_->done.load() * 1000.0));
    });
    setFocusProxy(take_);
}

ImportPage::~ImportPage() {
    if (progress_)
        progress_->cancel = true;
}

Result<void> ImportPage::look(const QString& path, records::Id bank) {
    return begin(logs::openFile(path.toStdString()), bank);
}

Result<void> ImportPage::lookAtText(const QString& text, records::Id bank) {
    return begin(logs::openText(text.toStdString(), tr("pasted text").toStdString()), bank);
}

Result<void> ImportPage::begin(Result<logs::OpenedLog> opened, records::Id bank) {
    if (progress_)
        return problem("busy", opened ? opened->name : "", "another log is being read.", "Wait for it, or stop it.");
    if (!opened)
        return tl::unexpected(opened.error());
    auto log = std::make_shared<logs::OpenedLog>(std::move(*opened));
    auto layout = logs::recogniseLayout(*log);
    if (!layout)
        return tl::unexpected(layout.error());
    log_ = log;
    layout_ = std::move(*layout);
    const auto remembered = session_.book().mapping(layout_.headerText);
    remembered_ = remembered.has_value();
    hand_ = remembered.value_or(logs::Mapping{});
    title_->setText(tr("Bring in %1").arg(qs(log_->name)));
    runTitle_->setText(QFileInfo(qs(log_->name)).completeBaseName());
    fillTargets(bank);
    const auto run = addTo_ == records::kNew ? std::nullopt : session_.book().run(addTo_);
    if (!run)
        addTo_ = records::kNew;
    else
        title_->setText(tr("Bring in %1 as one more trace of “%2”").arg(qs(log_->name), qs(run->title)));
    for (QWidget* w : {static_cast<QWidget*>(bank_), static_cast<QWidget*>(runTitle_), static_cast<QWidget*>(drain_),
                       static_cast<QWidget*>(recharge_)})
        w->setEnabled(!run);
    ends_->setVisible(!run);
    ends_->show(records::StatedEnds{});
    kindChosen();
    fillPreview(layout_);
    recognise();
    return {};
}

void ImportPage::fillTargets(records::Id bank) {
    bank_->clear();
    for (const records::Bank& b : session_.book().banks()) {
        bank_->addItem(qs(b.name), static_cast<qlonglong>(b.id));
        if (b.id == bank)
            bank_->setCurrentIndex(bank_->count() - 1);
    }
    if (bank_->count() == 0)
        bank_->addItem(tr("a new bank"), static_cast<qlonglong>(records::kNew));
    meter_->clear();
    meter_->addItem(tr("not stated"));
    for (const records::Gear& g : session_.book().gear()) {
        if (g.kind == records::GearKind::Meter)
            meter_->addItem(qs(g.name), static_cast<qlonglong>(g.id));
    }
}

// The usual is there to be seen, and to be changed.
void ImportPage::kindChosen() {
    ends_->setKind(drain_->isChecked() ? records::Kind::Drain : records::Kind::Recharge);
    ends_->sayTheUsual();
    fillPoints();
}

// A run of its own is read anywhere on its path; a further trace where none was read yet.
void ImportPage::fillPoints() {
    const auto run = addTo_ == records::kNew ? std::nullopt : session_.book().run(addTo_);
    const bool drain = run ? run->kind == records::Kind::Drain : drain_->isChecked();
    std::vector<path::Point> points = kinds::pointsAlong(drain);
    if (run)
        points.push_back(drain ? path::Point::BankIn : path::Point::BankOut); // input and output at once
    point_->clear();
    for (const path::Point p : points) {
        if (run &&
            (p == run->point || std::any_of(run->also.begin(), run->also.end(),
                                            [&](const records::AlsoTrace& t) { return t.point == p && !t.byDisplay; })))
            continue;
        point_->addItem(qs(path::pointWords(p)), static_cast<int>(p));
        if (!run && p == path::Point::Meter)
            point_->setCurrentIndex(point_->count() - 1);
    }
}

void ImportPage::fillPreview(const logs::Recognition& layout) {
    preview_->clear();
    preview_->setColumnCount(static_cast<int>(layout.names.size()));
    preview_->setRowCount(static_cast<int>(layout.preview.size()));
    QStringList names;
    for (const std::string& n : layout.names)
        names << qs(n);
    preview_->setHorizontalHeaderLabels(names);
    for (int r = 0; r < preview_->rowCount(); ++r) {
        const auto& cells = layout.preview[static_cast<std::size_t>(r)];
        for (int c = 0; c < preview_->columnCount() && c < static_cast<int>(cells.size()); ++c)
            preview_->setItem(r, c, new QTableWidgetItem(qs(cells[static_cast<std::size_t>(c)])));
    }
    preview_->resizeColumnsToContents();
    preview_->horizontalHeader()->setStretchLastSection(true);
}

void ImportPage::recognise() {
    const auto found = logs::recognise(*log_, hand_);
    mapping_->show(layout_.names, found ? &*found : nullptr, hand_);
    QStringList reasons;
    for (const std::string& r : layout_.reasons)
        reasons << qs(r);
    if (remembered_)
        reasons << tr("A mapping set by hand for this header was remembered.");
    reasons_->setText(reasons.join(QLatin1Char(' ')));
    QStringList remarks;
    if (!found)
        remarks << qs(found.error().sentence());
    else
        for (const Warning& w : found->warnings)
            remarks << onScreen(w.text);
    problem_->setText(remarks.join(QLatin1Char('\n')));
    problem_->setVisible(!remarks.isEmpty());
    take_->setEnabled(found.has_value());
}

void ImportPage::setBusy(bool busy) {
    take_->setEnabled(!busy);
    mapping_->setEnabled(!busy);
    leave_->setText(busy ? tr("Stop reading") : tr("Leave it"));
    bar_->setVisible(busy);
    if (busy)
        tick_->start(100);
    else
        tick_->stop();
}

void ImportPage::addTrace(const logs::Log& log) {
    records::AlsoTrace also;
    also.point = static_cast<path::Point>(point_->currentData().toInt());
    also.logName = log.name;
    if (meter_->currentData().isValid())
        also.meter = meter_->currentData().toLongLong();
    const records::Id run = std::exchange(addTo_, records::kNew);
    if (auto done = session_.addTrace(run, also, log.trace); !done) {
        problem_->setText(qs(done.error().sentence()));
        problem_->show();
        return;
    }
    Q_EMIT taken(run);
}

void ImportPage::take() {
    if (addTo_ != records::kNew) {
        progress_ = std::make_shared<logs::Progress>();
        setBusy(true);
        auto* watcher = new QFutureWatcher<Result<logs::Log>>(this);
        connect(watcher, &QFutureWatcherBase::finished, this, [this, watcher] {
            const Result<logs::Log> result = watcher->result();
            watcher->deleteLater();
            progress_.reset();
            setBusy(false);
            if (result)
                return addTrace(*result);
            problem_->setText(qs(result.error().sentence()));
            problem_->show();
        });
        watcher->setFuture(QtConcurrent::run(
            [log = log_, hand = hand_, progress = progress_] { return logs::readLog(*log, hand, progress.get()); }));
        return;
    }
    records::Run run;
    run.bank = bank_->currentData().toLongLong();
    if (run.bank == records::kNew) {
        records::Bank bank;
        bank.name = tr("New bank").toStdString();
        const auto id = session_.addBank(bank);
        if (!id) {
            problem_->setText(qs(id.error().sentence()));
            problem_->show();
            return;
        }
        run.bank = *id;
    }
    run.kind = recharge_->isChecked() ? records::Kind::Recharge : records::Kind::Drain;
    const auto said = ends_->said();
    if (!said) {
        problem_->setText(qs(said.error().sentence()));
        problem_->show();
        return;
    }
    run.ends = *said;
    run.title = runTitle_->text().trimmed().toStdString();
    run.point = static_cast<path::Point>(point_->currentData().toInt());
    if (meter_->currentData().isValid())
        run.meter = meter_->currentData().toLongLong();
    if (!hand_.empty())
        (void)session_.book().rememberMapping(layout_.headerText, hand_);
    progress_ = std::make_shared<logs::Progress>();
    setBusy(true);
    auto* watcher = new QFutureWatcher<Result<records::Id>>(this);
    connect(watcher, &QFutureWatcherBase::finished, this, [this, watcher, title = runTitle_->text()] {
        const Result<records::Id> result = watcher->result();
        watcher->deleteLater();
        progress_.reset();
        setBusy(false);
        if (result) {
            session_.noteAddedRun(*result, title);
            Q_EMIT taken(*result);
        } else {
            problem_->setText(qs(result.error().sentence()));
            problem_->show();
        }
    });
    watcher->setFuture(QtConcurrent::run([log = log_, hand = hand_, progress = progress_, run,
                                          path = session_.book().path()]() mutable -> Result<records::Id> {
        auto read = logs::readLog(*log, hand, progress.get());
        if (!read)
            return tl::unexpected(read.error());
        run.logName = read->name;
        run.skippedLines = read->skippedLines;
        run.counterWattHours = read->counterWattHours;
        run.counterAmpHours = read->counterAmpHours;
        run.startedAt = isoTime(read->startedAt).toStdString();
        for (const Warning& w : read->warnings)
            run.logWarnings.emplace_back(w.code, w.text);
        return book::Book::addRunElsewhere(path, run, read->trace);
    }));
}

} // namespace otterstone::app
