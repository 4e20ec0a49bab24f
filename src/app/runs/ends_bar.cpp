#include "app/runs/ends_bar.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/side_panel.h"
#include "core/kinds/catalogue.h"

namespace otterstone::app {

namespace {

constexpr int kKeys = 9;

QString known(const std::optional<kinds::KnownState>& s) {
    if (!s)
        return QObject::tr("not known");
    QString text = onScreen(stateWords(s->state));
    switch (s->from) {
    case kinds::StateFrom::Stated: return text + QObject::tr(" (as stated)");
    case kinds::StateFrom::Taken: return text + QObject::tr(" (taken so: nobody said)");
    case kinds::StateFrom::Trace:
    case kinds::StateFrom::Stamped:
    case kinds::StateFrom::Chain: return text + QStringLiteral(" (%1)").arg(onScreen(s->words));
    }
    return text;
}

} // namespace

EndsBar::EndsBar(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), ends_(new QLabel), taken_(new QWidget), asked_(new QVBoxLayout) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    ends_->setObjectName(QStringLiteral("faint"));
    ends_->setWordWrap(true);
    ends_->setAccessibleName(tr("How it began and ended"));
    all->addWidget(ends_);
    auto* row = new FlowLayout(taken_, kGrid);
    const auto quiet = [&](const QString& words, const QString& tip) {
        auto* b = new QPushButton(words);
        b->setObjectName(QStringLiteral("quiet"));
        b->setToolTip(tip);
        row->addWidget(b);
        return b;
    };
    connect(quiet(tr("It did"), tr("It began as it is taken to have begun")), &QPushButton::clicked, this,
            [this] { take("began", kind_ == records::Kind::Drain ? "full" : "empty"); });
    connect(quiet(tr("I do not know"), tr("Figures that need it are then withheld")), &QPushButton::clicked, this,
            [this] { take("began", "unknown"); });
    connect(quiet(tr("All of this bank did"), tr("Every run of this bank that does not say how it began")),
            &QPushButton::clicked, this, &EndsBar::allAsUsual);
    all->addWidget(taken_);
    all->addLayout(asked_);
}

QString EndsBar::ends() const { return ends_->text(); }

QStringList EndsBar::questions() const {
    QStringList all;
    for (const kinds::Question& q : questions_)
        all << onScreen(q.sentence);
    return all;
}

void EndsBar::clear() {
    questions_.clear();
    emptyLayout(asked_);
    ends_->clear();
    taken_->hide();
}

void EndsBar::show(records::Id run, const kinds::Finding& f) {
    clear();
    run_ = run;
    kind_ = f.kind;
    const bool writable = !session_.book().readOnly();
    const bool says = f.ends.ending == records::Ending::Unknown;
    // What was written down by hand is no log.
    QString ended = says                                        ? QString()
                    : f.ends.ending == records::Ending::LogEnds ? tr("it went on when the record ended")
                                                                : qs(records::endingWords(f.ends.ending));
    if (f.ends.ended && !(f.ends.ending == records::Ending::CutOff && f.ends.ended->from == kinds::StateFrom::Trace) &&
        !(f.ends.ending == records::Ending::Full && f.ends.ended->from == kinds::StateFrom::Trace))
        ended += (ended.isEmpty() ? QString() : QStringLiteral(", ")) + known(f.ends.ended);
    else if (!f.ends.ended)
        ended += ended.isEmpty() ? tr("how it ended is not known") : tr(", how full is not known");
    QString text =
        tr("%1; %2%3.")
            .arg(f.ends.began ? tr("Began %1").arg(known(f.ends.began)) : tr("How full it began is not known"),
                 says && f.ends.ended ? tr("ended ") : QString(), ended);
    if (f.ends.deviceBegan || f.ends.deviceEnded)
        text +=
            !f.ends.deviceBegan ? tr(" The device ended %1; how it began is not known.").arg(known(f.ends.deviceEnded))
            : !f.ends.deviceEnded
                ? tr(" The device began %1; how it ended is not known.").arg(known(f.ends.deviceBegan))
                : tr(" The device began %1 and ended %2.").arg(known(f.ends.deviceBegan), known(f.ends.deviceEnded));
    ends_->setText(text);
    taken_->setVisible(writable && f.ends.began && f.ends.began->from == kinds::StateFrom::Taken);
    questions_ = f.ends.questions;
    for (std::size_t k = 0; k < questions_.size(); ++k)
        ask(questions_[k], k == 0);
}

void EndsBar::ask(const kinds::Question& q, bool first) {
    auto* frame = new QFrame;
    frame->setObjectName(QStringLiteral("sheet"));
    auto* column = new QVBoxLayout(frame);
    column->setContentsMargins(2 * kGrid, kGrid, 2 * kGrid, kGrid);
    column->setSpacing(kGrid / 2);
    auto* words = new QLabel(onScreen(q.sentence));
    words->setWordWrap(true);
    words->setFont(app::font(1.0, QFont::DemiBold));
    words->setAccessibleName(tr("Question"));
    column->addWidget(words);
    auto* answers = new QWidget;
    auto* row = new FlowLayout(answers, kGrid);
    for (std::size_t k = 0; k < q.answers.size(); ++k) {
        const kinds::Answer& a = q.answers[k];
        auto* b = new QPushButton((first ? QStringLiteral("%1  ").arg(k + 1) : QString()) + onScreen(a.text));
        b->setObjectName(QStringLiteral("quiet"));
        b->setAccessibleName(onScreen(a.text));
        b->setEnabled(!session_.book().readOnly());
        if (first)
            b->setToolTip(tr("Key %1").arg(k + 1));
        row->addWidget(b);
        connect(b, &QPushButton::clicked, this, [this, key = q.key, answer = a.key] { take(key, answer); });
    }
    column->addWidget(answers);
    asked_->addWidget(frame);
}

bool EndsBar::answer(int number) {
    if (questions_.empty() || session_.book().readOnly())
        return false;
    const kinds::Question& q = questions_.front();
    if (number < 1 || number > std::min<int>(kKeys, static_cast<int>(q.answers.size())))
        return false;
    take(q.key, q.answers[static_cast<std::size_t>(number) - 1].key);
    return true;
}

void EndsBar::take(const std::string& key, const std::string& answer) {
    auto run = session_.book().run(run_);
    if (!run)
        return;
    auto stated = kinds::answered(run->ends, key, answer);
    if (!stated) {
        Q_EMIT problem(qs(stated.error().sentence()));
        return;
    }
    run->ends = *stated;
    const QString what =
        key == "began" ? tr("say how %1 began").arg(qs(run->title)) : tr("say how %1 ended").arg(qs(run->title));
    if (auto done = session_.changeRun(*run, what); !done)
        Q_EMIT problem(qs(done.error().sentence()));
}

void EndsBar::allAsUsual() {
    const auto run = session_.book().run(run_);
    if (!run)
        return;
    std::vector<records::Run> runs;
    for (records::Run& r : session_.book().runs(run->bank)) {
        if (kinds::saysHowItBegan(r))
            continue;
        r.ends.began = records::usualBeginning(kinds::servedAs(r));
        runs.push_back(std::move(r));
    }
    if (auto done = session_.changeRuns(runs, tr("say that all runs began as usual")); !done)
        Q_EMIT problem(qs(done.error().sentence()));
}

} // namespace otterstone::app
