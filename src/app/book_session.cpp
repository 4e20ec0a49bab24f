#include "app/book_session.h"

#include <QTimer>
#include <QtConcurrent>

#include "app/theme.h"
#include "book/exchange/rescue.h"
#include "book/store/moved.h"

namespace otterstone::app {

BookSession::BookSession(QObject* parent) : QObject(parent) {}
BookSession::~BookSession() { stopRippling(); }

void BookSession::adopt(std::unique_ptr<book::Book> book) {
    ++generation_;
    stopRippling();
    judging_.clear();
    workingOut_.clear();
    kept_.clear();
    history_.clear();
    book_ = std::move(book);
    connect(book_.get(), &book::Book::changed, this, &BookSession::changed);
    Q_EMIT opened();
    Q_EMIT changed();
}

Result<void> BookSession::open(const QString& path) {
    if (book_ && QFileInfo(path).absoluteFilePath() == book_->path())
        return {};
    auto book = book::Book::open(path);
    if (!book)
        return tl::unexpected(book.error());
    adopt(std::move(*book));
    return {};
}

Result<void> BookSession::create(const QString& path) {
    auto book = book::Book::create(path);
    if (!book)
        return tl::unexpected(book.error());
    adopt(std::move(*book));
    return {};
}

std::optional<kinds::Finding> BookSession::finding(records::Id run) {
    if (!book_)
        return std::nullopt;
    if (auto cached = book_->cachedFinding(run)) {
        book_->keepSettled(run, *cached);
        return cached;
    }
    // A book that cannot be written to keeps its findings here.
    if (const auto at = kept_.find(run); at != kept_.end() && at->second.key == book_->findingKey(run))
        return at->second.finding;
    if (!workingOut_.insert(run).second)
        return std::nullopt;
    auto* watcher = new QFutureWatcher<Result<book::Book::WorkedOut>>(this);
    connect(watcher, &QFutureWatcherBase::finished, this, [this, watcher, run, generation = generation_] {
        watcher->deleteLater();
        if (generation != generation_)
            return;
        workingOut_.erase(run);
        const Result<book::Book::WorkedOut> result = watcher->result();
        if (!result) {
            Q_EMIT findingFailed(run, qs(result.error().sentence()));
            return;
        }
        keepFinding(run, *result);
        // Storing it and laying out the page that shows it are two turns of the event loop: keys and paints come
        // between.
        QTimer::singleShot(0, this, [this, run, generation] {
            if (generation == generation_)
                Q_EMIT findingReady(run);
        });
    });
    watcher->setFuture(QtConcurrent::run([path = book_->path(), run] { return book::Book::workOutKeyed(path, run); }));
    return std::nullopt;
}

void BookSession::keepFinding(records::Id run, const book::Book::WorkedOut& worked) {
    if (!book_->remember(run, worked))
        kept_[run] = worked;
}

Result<records::Id> BookSession::addBank(const records::Bank& bank) {
    auto id = std::make_shared<records::Id>(records::kNew);
    auto done = history_.perform({tr("put %1 on the shelf").arg(qs(bank.name)),
                                  [this, bank, id]() -> Result<void> {
                                      if (*id != records::kNew)
                                          return book_->setBankRemoved(*id, false);
                                      const auto saved = book_->save(bank);
                                      if (!saved)
                                          return tl::unexpected(saved.error());
                                      *id = *saved;
                                      return {};
                                  },
                                  [this, id] { return book_->setBankRemoved(*id, true); }});
    if (!done)
        return tl::unexpected(done.error());
    return *id;
}

namespace {

template<class T>
std::function<Result<void>()> saving(book::Book& book, T value) {
    return [&book, value]() -> Result<void> {
        const auto saved = book.save(value);
        return saved ? Result<void>{} : tl::unexpected(saved.error());
    };
}

} // namespace

Result<void> BookSession::changeBank(const records::Bank& after) {
    const auto before = book_->bank(after.id);
    if (!before || *before == after)
        return {};
    return history_.perform(
        {tr("change the label of %1").arg(qs(after.name)), saving(*book_, after), saving(*book_, *before)});
}

Result<void> BookSession::removeBank(records::Id id) {
    const auto bank = book_->bank(id);
    if (!bank)
        return {};
    return history_.perform(
        {tr("take %1 off the shelf").arg(qs(bank->name)), [this, id] { return book_->setBankRemoved(id, true); },
         [this, id] { return book_->setBankRemoved(id, false); }, tr("%1 is off the shelf.").arg(qs(bank->name))});
}

Result<void> BookSession::changeRun(const records::Run& after, const QString& what) {
    const auto before = book_->run(after.id);
    if (!before || *before == after)
        return {};
    // Its marks and samples are being written elsewhere; closing it is the one change it takes.
    if (before->open && after.open)
        return otterstone::problem("run_is_open", before->title, "this run is still being captured.",
                                   "Stamp it on the live page, and change the rest when it has ended.");
    return history_.perform({what, saving(*book_, after), saving(*book_, *before)});
}

Result<void> BookSession::changeRuns(const std::vector<records::Run>& after, const QString& what) {
    std::vector<records::Run> before;
    for (const records::Run& r : after) {
        if (auto was = book_->run(r.id); was && !was->open)
            before.push_back(std::move(*was));
    }
    const auto all = [this](std::vector<records::Run> runs) {
        return [this, runs = std::move(runs)]() -> Result<void> {
            for (const records::Run& r : runs) {
                if (auto saved = book_->save(r); !saved)
                    return tl::unexpected(saved.error());
            }
            return {};
        };
    };
    if (before.size() != after.size())
        return otterstone::problem("run_is_open", "", "one of these runs is still being captured.",
                                   "Try again when it has ended.");
    return after.empty() ? Result<void>{} : history_.perform({what, all(after), all(before)});
}

Result<void> BookSession::removeRun(records::Id id) {
    const auto run = book_->run(id);
    return history_.perform({tr("remove a run"), [this, id] { return book_->setRunRemoved(id, true); },
                             [this, id] { return book_->setRunRemoved(id, false); },
                             tr("The run “%1” is removed.").arg(run ? qs(run->title) : QString())});
}

Result<void> BookSession::changeGear(const records::Gear& after) {
    for (const records::Gear& before : book_->gear()) {
        if (before.id != after.id || before == after)
            continue;
        const auto step = [this, id = after.id](const records::Gear& gear) {
            return [this, id, save = saving(*book_, gear)] { return savingWithRipples(save, id); };
        };
        return history_.perform({tr("change %1").arg(qs(after.name)), step(after), step(before)});
    }
    return {};
}

Result<records::Id> BookSession::addGear(const records::Gear& gear) {
    auto id = std::make_shared<records::Id>(records::kNew);
    auto done = history_.perform({tr("put %1 into the gear drawer").arg(qs(gear.name)),
                                  [this, gear, id]() -> Result<void> {
                                      if (*id != records::kNew)
                                          return book_->setGearRemoved(*id, false);
                                      const auto saved = book_->save(gear);
                                      if (!saved)
                                          return tl::unexpected(saved.error());
                                      *id = *saved;
                                      return {};
                                  },
                                  [this, id] { return book_->setGearRemoved(*id, true); }});
    if (!done)
        return tl::unexpected(done.error());
    return *id;
}

Result<void> BookSession::removeGear(records::Id id) {
    return history_.perform(
        {tr("take a piece out of the gear drawer"), [this, id] { return book_->setGearRemoved(id, true); },
         [this, id] { return book_->setGearRemoved(id, false); }, tr("The piece is out of the gear drawer.")});
}

Result<void> BookSession::changeSchools(const setup::Schools& after) {
    const setup::Schools before = book_->schools();
    if (before == after)
        return {};
    const auto step = [this](const setup::Schools& schools) {
        return [this, schools] {
            return savingWithRipples([this, schools] { return book_->setSchools(schools); }, records::kNew);
        };
    };
    return history_.perform({tr("change the house's choices"), step(after), step(before)});
}

Result<records::Id> BookSession::addRun(const records::Run& run, const trace::Trace& trace) {
    auto id = book_->addRun(run, trace);
    if (id)
        noteAddedRun(*id, qs(run.title));
    return id;
}

Result<void> BookSession::addTrace(records::Id run, const records::AlsoTrace& also, const trace::Trace& trace) {
    auto first = std::make_shared<bool>(true);
    return history_.perform({tr("add a trace at the %1").arg(qs(also.key())),
                             [this, run, also, trace, first] {
                                 return std::exchange(*first, false) ? book_->addTrace(run, also, trace)
                                                                     : book_->setTraceRemoved(run, also.key(), false);
                             },
                             [this, run, also] { return book_->setTraceRemoved(run, also.key(), true); }});
}

Result<void> BookSession::removeTrace(records::Id run, const std::string& point) {
    return history_.perform({tr("remove the trace at the %1").arg(qs(point)),
                             [this, run, point] { return book_->setTraceRemoved(run, point, true); },
                             [this, run, point] { return book_->setTraceRemoved(run, point, false); },
                             tr("The trace at the %1 is removed.").arg(qs(point))});
}

void BookSession::keepAll(const std::vector<book::FreshFinding>& fresh) {
    if (book::remember(*book_, fresh))
        return;
    for (const auto& run : fresh)
        kept_[run.run] = run.worked;
}

template<class Work, class Done>
void BookSession::inWorker(Work work, Done done) {
    using Answer = decltype(work());
    auto* watcher = new QFutureWatcher<Answer>(this);
    connect(watcher, &QFutureWatcherBase::finished, this, [this, watcher, done, generation = generation_] {
        watcher->deleteLater();
        if (generation == generation_)
            done(watcher->result());
    });
    watcher->setFuture(QtConcurrent::run(work));
}

void BookSession::judgeTogether(records::Id bank) {
    if (const auto at = judging_.find(bank); at != judging_.end()) {
        at->second = true; // what is asked meanwhile is answered once, by one more round
        return;
    }
    judging_[bank] = false;
    struct Answer {
        std::optional<together::BankFindings> together;
        judgement::Judged judged;
        std::vector<book::FreshFinding> fresh;
    };
    inWorker(
        [path = book_->path(), bank]() -> Answer {
            Answer a;
            const auto evidence = book::gatherEvidence(path, {bank}, &a.fresh);
            if (evidence && !evidence->empty()) {
                a.together = evidence->front().together;
                a.judged = judgement::holdClaims(evidence->front());
            }
            return a;
        },
        [this, bank](const Answer& a) {
            keepAll(a.fresh);
            const bool again = judging_.extract(bank).mapped();
            if (again)
                judgeTogether(bank);
            else if (a.together)
                Q_EMIT togetherReady(bank, *a.together, a.judged);
        });
}

void BookSession::lookThrough() {
    struct Found {
        std::vector<std::string> unreadable;
        std::vector<book::Moved> moved;
    };
    inWorker(
        [path = book_->path()] {
            const auto book = book::Book::openToRead(path);
            return Found{book ? (*book)->unreadable() : std::vector<std::string>{}, book::movedFigures(path)};
        },
        [this](const Found& found) {
            QStringList sentences;
            for (const std::string& mended : book_->mended())
                sentences << tr("%1.").arg(qs(mended));
            if (!found.unreadable.empty())
                sentences
                    << (found.unreadable.size() == 1
                            ? tr("One record of this book cannot be read and is left out: %1. Take it from the last whole copy.")
                                  .arg(qs(found.unreadable.front()))
                            : tr("%1 records of this book cannot be read and are left out, the first: %2. “otterstone-cli check” lists them all; take them from the last whole copy.")
                                  .arg(found.unreadable.size())
                                  .arg(qs(found.unreadable.front())));
            for (const book::Moved& m : found.moved)
                sentences << qs(m.sentence());
            if (!sentences.isEmpty())
                Q_EMIT toTell(sentences);
        });
}

void BookSession::gatherEvidence(const std::vector<records::Id>& banks) {
    struct Answer {
        SharedEvidence evidence;
        std::vector<book::FreshFinding> fresh;
    };
    inWorker(
        [path = book_->path(), banks] {
            Answer a;
            if (auto evidence = book::gatherEvidence(path, banks, &a.fresh))
                a.evidence = std::make_shared<const std::vector<evidence::Evidence>>(std::move(*evidence));
            return a;
        },
        [this](const Answer& a) {
            keepAll(a.fresh);
            if (a.evidence)
                Q_EMIT evidenceReady(a.evidence);
        });
}

void BookSession::gatherMaterial(const std::vector<records::Id>& banks) {
    const std::string now = QDateTime::currentDateTime().toString(Qt::ISODate).toStdString();
    using Sheet = std::pair<report::Material, report::Content>;
    inWorker(
        [path = book_->path(), banks, now] {
            return book::gatherMaterial(path, banks, now).map([](report::Material material) {
                report::Content content = report::makeContent(material);
                return Sheet(std::move(material), std::move(content));
            });
        },
        [this](const Result<Sheet>& sheet) {
            if (sheet)
                Q_EMIT materialReady(sheet->first, sheet->second);
            else
                Q_EMIT materialFailed(qs(sheet.error().sentence()));
        });
}

Result<records::Id> BookSession::addPlanned(const records::PlannedRun& planned) {
    auto id = std::make_shared<records::Id>(records::kNew);
    auto done = history_.perform({tr("plan a run"),
                                  [this, planned, id]() -> Result<void> {
                                      if (*id != records::kNew)
                                          return book_->setPlannedRemoved(*id, false);
                                      const auto saved = book_->save(planned);
                                      if (!saved)
                                          return tl::unexpected(saved.error());
                                      *id = *saved;
                                      return {};
                                  },
                                  [this, id] { return book_->setPlannedRemoved(*id, true); }});
    if (!done)
        return tl::unexpected(done.error());
    return *id;
}

Result<void> BookSession::changePlanned(const records::PlannedRun& after, const QString& what) {
    for (const records::PlannedRun& before : book_->planned()) {
        if (before.id == after.id && !(before == after))
            return history_.perform({what, saving(*book_, after), saving(*book_, before)});
    }
    return {};
}

Result<void> BookSession::removePlanned(records::Id id) {
    return history_.perform(
        {tr("take a run out of the plan"), [this, id] { return book_->setPlannedRemoved(id, true); },
         [this, id] { return book_->setPlannedRemoved(id, false); }, tr("The run is out of the plan.")});
}

Result<void> BookSession::changeChoice(const std::string& key, const std::string& json, const QString& what) {
    const std::string before = book_->choice(key);
    if (before == json)
        return {};
    return history_.perform({what, [this, key, json] { return book_->setChoice(key, json); },
                             [this, key, before] { return book_->setChoice(key, before); }});
}

Result<records::Id> BookSession::bringInRest(const QString& rescue) {
    auto run = book::bringIn(book_->path(), rescue);
    if (run)
        book_->noticeChange();
    return run;
}

void BookSession::noteAddedRun(records::Id id, const QString& title) {
    history_.note({tr("bring in %1").arg(title), [this, id] { return book_->setRunRemoved(id, false); },
                   [this, id] { return book_->setRunRemoved(id, true); }});
    book_->noticeChange();
}

} // namespace otterstone::app
