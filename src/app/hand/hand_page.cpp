#include "app/hand/hand_page.h"

#include <algorithm>

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QShortcut>
#include <QSplitter>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <qcustomplot.h>

#include "app/hand/hand_grid.h"
#include "app/hand/hand_model.h"
#include "app/theme.h"
#include "app/widgets/ends_fields.h"
#include "app/widgets/plot_look.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

namespace {

constexpr qlonglong kByDisplay = -1; // in the list of meters

QLabel* faint() {
    auto* label = new QLabel;
    label->setObjectName(QStringLiteral("faint"));
    label->setWordWrap(true);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return label;
}

} // namespace

HandPage::HandPage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), title_(new QLabel), kind_(new QComboBox), meter_(new QComboBox),
      between_(new QComboBox), what_(new QComboBox), name_(new QLineEdit), ends_(new EndsFields),
      ways_(new QStackedWidget), model_(new HandModel(this)), wattHours_(new QLineEdit), milliampHours_(new QLineEdit),
      meanVolts_(new QLineEdit), time_(new QLineEdit), plot_(makePlot()), sentence_(new QLabel), doubt_(faint()),
      remarks_(new QLabel), keep_(new QPushButton(tr("Keep this run"))) {
    grid_ = new HandGrid(model_);
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid);
    outer->setSpacing(kGrid);
    buildHead(outer);

    auto* counters = new QWidget;
    auto* form = new QFormLayout(counters);
    form->setContentsMargins(0, 0, 0, 0);
    for (const auto& [label, edit, hint] : {std::tuple{tr("Energy, Wh"), wattHours_, QStringLiteral("33.1")},
                                            {tr("Charge, mAh"), milliampHours_, QStringLiteral("6540")},
                                            {tr("Mean volts"), meanVolts_, QStringLiteral("5.06")},
                                            {tr("Time"), time_, QStringLiteral("6 h 25 min")}}) {
        edit->setPlaceholderText(hint);
        edit->setAccessibleName(label);
        edit->setMaximumWidth(220);
        form->addRow(label, edit);
        connect(edit, &QLineEdit::textChanged, this, &HandPage::reckon);
    }
    ways_->addWidget(grid_);
    ways_->addWidget(counters);
    auto* split = new QSplitter;
    split->addWidget(ways_);
    auto* right = new QWidget;
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(2 * kGrid, 0, 0, 0);
    plot_->setMinimumHeight(200);
    plot_->setFocusPolicy(Qt::NoFocus);
    column->addWidget(plot_, 1);
    sentence_->setFont(app::font(1.2));
    sentence_->setWordWrap(true);
    sentence_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    sentence_->setAccessibleName(tr("Finding so far"));
    column->addWidget(sentence_);
    column->addWidget(doubt_);
    remarks_->setObjectName(QStringLiteral("problem"));
    remarks_->setWordWrap(true);
    column->addWidget(remarks_);
    split->addWidget(right);
    split->setStretchFactor(0, 1);
    split->setStretchFactor(1, 1);
    split->setSizes({560, 440});
    right->setMinimumWidth(320);
    split->setChildrenCollapsible(false);
    outer->addWidget(split, 1);

    auto* foot = new QHBoxLayout;
    auto* hint = faint();
    hint->setText(tr(
        "Time as “15 min”, “1h12” or “+15 min” after the row above; a bare number counts minutes. Two of V, A and W are enough. Return: next row · "
        "Tab: next cell · Ctrl+V: cells from a spreadsheet · Shift+Del: remove the row · Ctrl+Return: keep"));
    foot->addWidget(hint, 1);
    auto* leave = new QPushButton(tr("Leave"));
    keep_->setObjectName(QStringLiteral("primary"));
    foot->addWidget(leave);
    foot->addWidget(keep_);
    outer->addLayout(foot);

    plot_->addGraph();
    connect(model_, &HandModel::typed, this, &HandPage::reckon);
    for (QComboBox* box : {kind_, meter_, between_})
        connect(box, &QComboBox::activated, this, &HandPage::reckon);
    connect(what_, &QComboBox::activated, this, [this](int way) {
        ways_->setCurrentIndex(way);
        between_->setVisible(way == 0);
        plot_->setVisible(way == 0);
        way == 0 ? grid_->startTyping() : wattHours_->setFocus();
        reckon();
    });
    connect(leave, &QPushButton::clicked, this, &HandPage::left);
    connect(keep_, &QPushButton::clicked, this, &HandPage::keep);
    for (const int key : {Qt::Key_Return, Qt::Key_Enter}) {
        auto* shortcut = new QShortcut(QKeySequence(Qt::CTRL | key), this);
        shortcut->setContext(Qt::WidgetWithChildrenShortcut);
        connect(shortcut, &QShortcut::activated, this, &HandPage::keep);
    }
    restyle();
}

void HandPage::buildHead(QVBoxLayout* into) {
    auto* head = new QHBoxLayout;
    title_->setFont(app::font(1.6, QFont::DemiBold));
    head->addWidget(title_);
    head->addStretch();
    into->addLayout(head);
    auto* row = new QHBoxLayout;
    const auto box = [&](QComboBox* combo, const QString& name, const QStringList& words) {
        combo->addItems(words);
        combo->setAccessibleName(name);
        combo->setToolTip(name);
        row->addWidget(combo);
    };
    box(what_, tr("What was written down"), {tr("Readings along the way"), tr("Only the counters at the end")});
    box(kind_, tr("Kind of run"), {tr("Drain"), tr("Recharge")});
    box(meter_, tr("Read off"), {});
    box(between_, tr("Between two readings"), {tr("joined by a straight line"), tr("held until the next")});
    name_->setPlaceholderText(tr("Name of the run"));
    name_->setAccessibleName(tr("Name of the run"));
    row->addWidget(name_, 1);
    into->addLayout(row);
    auto* endsRow = new QHBoxLayout;
    endsRow->addWidget(ends_, 1);
    endsRow->addStretch(1);
    into->addLayout(endsRow);
    connect(ends_, &EndsFields::changed, this, &HandPage::reckon);
    connect(kind_, &QComboBox::activated, this, [this] {
        ends_->setKind(kind());
        ends_->sayTheUsual();
    });
}

records::Kind HandPage::kind() const {
    return kind_->currentIndex() == 0 ? records::Kind::Drain : records::Kind::Recharge;
}

QString HandPage::sentence() const { return sentence_->text(); }

bool HandPage::countersOnly() const { return what_->currentIndex() == 1; }

void HandPage::fillGear() {
    meter_->clear();
    meter_->addItem(tr("off the bank's own display"), kByDisplay);
    for (const records::Gear& g : session_.book().gear()) {
        if (g.kind == records::GearKind::Meter)
            meter_->addItem(qs(g.name), static_cast<qlonglong>(g.id));
    }
}

void HandPage::begin(records::Id bank, const records::Run& laidOut) {
    bank_ = bank;
    base_ = laidOut;
    base_.bank = bank;
    base_.byDisplay = true;
    const auto found = session_.book().bank(bank);
    title_->setText(tr("By hand: %1").arg(found ? qs(found->name) : QString()));
    fillGear();
    what_->setCurrentIndex(0);
    what_->setEnabled(true);
    ways_->setCurrentIndex(0);
    between_->show();
    plot_->show();
    kind_->setCurrentIndex(laidOut.kind == records::Kind::Recharge ? 1 : 0);
    if (laidOut.meter)
        meter_->setCurrentIndex(std::max(0, meter_->findData(static_cast<qlonglong>(*laidOut.meter))));
    between_->setCurrentIndex(0);
    name_->clear();
    ends_->setKind(kind());
    ends_->show(records::StatedEnds{});
    ends_->sayTheUsual();
    for (QLineEdit* edit : {wattHours_, milliampHours_, meanVolts_, time_})
        edit->clear();
    model_->setRows({});
    grid_->startTyping();
}

void HandPage::goOn(records::Id id) {
    const auto run = session_.book().run(id);
    if (!run || (!run->hand && !run->countersOnly))
        return;
    begin(run->bank);
    base_ = *run;
    name_->setText(qs(run->title));
    kind_->setCurrentIndex(run->kind == records::Kind::Drain ? 0 : 1);
    ends_->setKind(run->kind);
    ends_->show(run->ends);
    for (int k = 0; k < meter_->count(); ++k) {
        const auto value = meter_->itemData(k).toLongLong();
        if (run->meter ? value == *run->meter : value == kByDisplay)
            meter_->setCurrentIndex(k);
    }
    what_->setEnabled(false); // a run stays what it is
    if (run->countersOnly) {
        what_->setCurrentIndex(1);
        ways_->setCurrentIndex(1);
        between_->hide();
        plot_->hide();
        const auto put = [](QLineEdit* edit, const std::optional<double>& v) {
            edit->setText(v ? qs(showNumber(*v, 7)) : QString());
        };
        put(wattHours_, run->countersOnly->wattHours);
        put(milliampHours_, run->countersOnly->milliampHours);
        put(meanVolts_, run->countersOnly->meanVolts);
        time_->setText(run->countersOnly->seconds ? qs(showDuration(*run->countersOnly->seconds, 1.0)) : QString());
        return;
    }
    between_->setCurrentIndex(run->hand->between == trace::Between::Held ? 1 : 0);
    // Stamps set on the run's page stay; those that the rows make are made anew.
    const auto written = kinds::readByHand(run->hand->rows, run->hand->between).marks;
    std::erase_if(base_.marks, [&](const records::Mark& m) {
        return std::find(written.begin(), written.end(), m) != written.end();
    });
    model_->setRows(run->hand->rows);
    grid_->startTyping();
}

records::Run HandPage::typedRun() const {
    records::Run run = base_;
    run.kind = kind();
    if (const auto said = ends_->said())
        run.ends = *said;
    const qlonglong meter = meter_->currentData().toLongLong();
    run.byDisplay = meter == kByDisplay;
    run.meter = run.byDisplay ? std::nullopt : std::optional<records::Id>(meter);
    // A display shows what leaves or enters the bank itself.
    run.point = !run.byDisplay                     ? path::Point::Meter
                : run.kind == records::Kind::Drain ? path::Point::BankOut
                                                   : path::Point::BankIn;
    run.title = name_->text().trimmed().toStdString();
    if (run.title.empty())
        run.title = (countersOnly() ? tr("Counters, by hand") : tr("By hand")).toStdString();
    run.logName = tr("written down by hand").toStdString();
    if (!countersOnly())
        run.hand = records::Hand{model_->rows(),
                                 between_->currentIndex() == 1 ? trace::Between::Held : trace::Between::Joined};
    return run;
}

std::vector<records::Mark> HandPage::withStamps(std::vector<records::Mark> marks) const {
    marks.insert(marks.end(), base_.marks.begin(), base_.marks.end());
    std::stable_sort(marks.begin(), marks.end(), [](const auto& a, const auto& b) { return a.at < b.at; });
    return marks;
}

void HandPage::reckon() {
    if (bank_ == records::kNew || !session_.isOpen())
        return;
    const auto bank = session_.book().bank(bank_);
    if (!bank)
        return;
    records::Run run = typedRun();
    QStringList remarks;
    Result<kinds::Finding> finding = otterstone::problem("nothing_yet", "", "");
    doubt_->clear();
    if (const auto said = ends_->said(); !said)
        remarks << qs(said.error().sentence());
    if (countersOnly()) {
        records::Counters n;
        const auto take = [&](QLineEdit* edit, std::optional<double>& into, bool duration) {
            if (edit->text().trimmed().isEmpty())
                return;
            const std::string place = edit->accessibleName().toStdString();
            const auto value = duration ? parseDuration(edit->text().toStdString(), place, 60.0)
                                        : parseNumber(edit->text().toStdString(), place);
            if (value)
                into = *value;
            else
                remarks << qs(value.error().sentence());
        };
        take(wattHours_, n.wattHours, false);
        take(milliampHours_, n.milliampHours, false);
        take(meanVolts_, n.meanVolts, false);
        take(time_, n.seconds, true);
        run.countersOnly = n;
        run.hand.reset();
        finding = kinds::analyseCounters(n, run.kind, session_.book().setupFor(*bank, run));
        if (!finding && (n.wattHours || (n.milliampHours && n.meanVolts)))
            remarks << qs(finding.error().sentence());
    } else {
        const auto read = kinds::readByHand(model_->rows(), run.hand->between);
        model_->setRemarks(read.remarks);
        for (const auto& r : read.remarks)
            remarks << qs(r.problem.sentence());
        run.marks = withStamps(read.marks);
        draw(read.trace);
        if (read.rows >= 2) {
            finding = kinds::analyse(read.trace, run.kind, session_.book().setupFor(*bank, run));
            doubt_->setText(tr("%1 readings. What lies between them leaves ± %2 Wh open.")
                                .arg(read.rows)
                                .arg(qs(showNumber(2.0 * read.doubtWattHours, 2))));
        } else {
            doubt_->setText(tr("A second reading, and there is a finding."));
        }
    }
    sentence_->setText(finding ? qs(finding->sentence) : QString());
    remarks_->setText(remarks.join(QLatin1Char('\n')));
    remarks_->setVisible(!remarks.isEmpty());
    keep_->setEnabled(finding.has_value() && !session_.book().readOnly());
}

void HandPage::draw(const trace::Trace& t) {
    QVector<double> x, y;
    for (std::size_t k = 0; k < t.size(); ++k) {
        x << t.time[k];
        y << t.power(k);
    }
    plot_->graph(0)->setData(x, y, true);
    plot_->rescaleAxes();
    plot_->yAxis->setRange(0.0, std::max(1.0, plot_->yAxis->range().upper * 1.15));
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void HandPage::keep() {
    if (!keep_->isEnabled())
        return;
    records::Run run = typedRun();
    trace::Trace samples;
    if (countersOnly()) {
        records::Counters n;
        const auto number = [](const QLineEdit* edit) {
            const auto v = parseNumber(edit->text().toStdString());
            return v ? std::optional(*v) : std::nullopt;
        };
        n.wattHours = number(wattHours_);
        n.milliampHours = number(milliampHours_);
        n.meanVolts = number(meanVolts_);
        if (const auto t = parseDuration(time_->text().toStdString(), {}, 60.0))
            n.seconds = *t;
        run.countersOnly = n;
        run.hand.reset();
    } else {
        auto read = kinds::readByHand(model_->rows(), run.hand->between);
        run.marks = withStamps(read.marks);
        samples = std::move(read.trace);
    }
    Result<records::Id> id = run.id;
    if (run.id == records::kNew) {
        id = session_.addRun(run, samples);
    } else {
        const auto done = countersOnly() ? session_.changeRun(run, tr("change the counters of %1").arg(qs(run.title)))
                                         : session_.changeSamples(run, samples);
        if (!done)
            id = tl::unexpected(done.error());
    }
    if (!id) {
        Q_EMIT problem(qs(id.error().sentence()));
        return;
    }
    Q_EMIT taken(*id);
}

void HandPage::restyle() {
    const Theme& t = theme();
    dressPlot(plot_);
    plot_->yAxis->setLabel(tr("W"));
    QSharedPointer<QCPAxisTickerTime> ticker(new QCPAxisTickerTime);
    ticker->setTimeFormat(QStringLiteral("%h:%m"));
    ticker->setTickCount(4);
    plot_->xAxis->setTicker(ticker);
    plot_->graph(0)->setPen(QPen(t.out, 2));
    plot_->graph(0)->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.out, 7));
    plot_->replot();
}

} // namespace otterstone::app
