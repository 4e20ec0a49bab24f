#include "app/live/live_bench.h"

#include <algorithm>

#include <QDateTime>
#include <QTimer>

#include "app/theme.h"
#include "bench/instruments/scpi_device.h"

namespace otterstone::app {

namespace {

constexpr int kTryOffMs = 10'000;

} // namespace

LiveBench::LiveBench(BookSession& session, QObject* parent) : QObject(parent), session_(session), setups_(this) {
    tellEnds_.setInterval(0);
    connect(&tellEnds_, &QTimer::timeout, this, &LiveBench::tellNextEnd);
    chosen_ = &add();
    connect(&setups_, &Setups::changed, this, &LiveBench::changed);
    connect(&setups_, &Setups::problem, this, &LiveBench::problem);
}

LiveBench::~LiveBench() {
    // All are told at once; each is then waited for.
    for (LiveRun* run : going())
        run->stop(tr("the window was closed"));
}

LiveRun& LiveBench::add() {
    auto* run = new LiveRun(static_cast<int>(runs_.size()) + 1, this);
    runs_.push_back(run);
    connect(run, &LiveRun::started, this, [this, run] {
        if (!beganByItself(*run) || going().size() < 2) // what keys mean is what the tester chose
            chosen_ = run;
        Q_EMIT started(run);
        Q_EMIT changed();
    });
    connect(run, &LiveRun::progressed, this, [this, run](const bench::Progress& p) { Q_EMIT progressed(run, p); });
    connect(run, &LiveRun::ended, this, [this, run](const bench::Outcome& outcome) {
        ends_.emplace_back(run, outcome);
        tellEnds_.start();
    });
    connect(run, &LiveRun::failed, this, [this](const QString& sentence) {
        if (!isRunning())
            inhibitor_.release();
        if (!sentence.isEmpty())
            Q_EMIT problem(sentence);
        Q_EMIT changed();
    });
    return *run;
}

void LiveBench::choose(LiveRun& run) {
    if (chosen_ == &run)
        return;
    chosen_ = &run;
    Q_EMIT changed();
}

std::vector<LiveRun*> LiveBench::going() const {
    std::vector<LiveRun*> all;
    std::copy_if(runs_.begin(), runs_.end(), std::back_inserter(all), [](LiveRun* r) { return r->isGoing(); });
    return all;
}

LiveRun* LiveBench::withNumber(int number) const {
    const auto all = going();
    const auto it = std::find_if(all.begin(), all.end(), [&](LiveRun* r) { return r->number() == number; });
    return it == all.end() ? nullptr : *it;
}

LiveRun* LiveBench::goingWith(records::Id bank) const {
    for (LiveRun* run : going()) {
        if (run->plan().run.bank == bank)
            return run;
    }
    return nullptr;
}

Result<void> LiveBench::saveRecipe(const std::string& json) {
    auto saved = writeRecipe(json);
    if (saved)
        Q_EMIT changed();
    return saved;
}

Result<void> LiveBench::saveProfile(const bench::Profile& profile) {
    auto saved = writeProfile(profile);
    if (saved)
        Q_EMIT changed();
    return saved;
}

std::optional<bench::Instrument> LiveBench::instrument(const bench::Role& role) const {
    return Setups::instrument(setups_.chosen(), role);
}

void LiveBench::setInstrument(const bench::Role& role, const QString& profile, const QString& address) {
    bench::Placed placed{profile.toStdString(), address.trimmed().toStdString(), {}};
    const auto chosen = setups_.chosen();
    if (const auto before = chosen.placed.find(role); before != chosen.placed.end())
        placed.piece = before->second.piece;
    setups_.place(role, placed);
}

std::optional<records::Bank> LiveBench::bank(records::Id id) const {
    return session_.isOpen() ? session_.book().bank(id) : std::nullopt;
}

Expectation LiveBench::expect(const records::Bank& bank, const bench::Recipe& recipe) const {
    return expectationOf(session_.isOpen() ? &session_.book() : nullptr, bank, recipe);
}

std::set<records::Id> LiveBench::busy() const {
    std::set<records::Id> all;
    for (const LiveRun* run : runs_)
        all.merge(run->claim().gear);
    return all;
}

QString LiveBench::whoHas(const bench::Plan& plan) const {
    const bench::Claim asking = bench::claimOf(plan);
    for (const LiveRun* run : runs_) {
        const auto clash = run->isGoing() ? bench::clashOf(asking, run->claim()) : std::nullopt;
        if (!clash)
            continue;
        const auto bank = session_.book().bank(run->plan().run.bank);
        const QString who = tr("bench %1 (%2, %3)")
                                .arg(run->number())
                                .arg(bank ? qs(bank->name) : QString(), qs(run->plan().recipe.name));
        switch (clash->what) {
        case bench::Clash::What::Bank:
            return tr("This bank is at work already, on %1. Stop that run first, or rehearse.").arg(who);
        case bench::Clash::What::Gear:
            for (const records::Gear& g : session_.book().gear()) {
                if (g.id == clash->gear)
                    return tr("“%1” is at work on %2. Choose a set-up with another piece, or wait for that run.")
                        .arg(qs(g.name), who);
            }
            break;
        case bench::Clash::What::Place:
            return tr("The %1 at %2 is at work on %3. Choose another set-up, or wait for that run.")
                .arg(qs(clash->role), qs(clash->place), who);
        }
    }
    return {};
}

LiveRun* LiveBench::place(const bench::Claim& claim) {
    LiveRun* free = nullptr;
    for (LiveRun* run : runs_) {
        const bool untold =
            std::any_of(ends_.begin(), ends_.end(), [run](const auto& end) { return end.first == run; });
        if (run->isGoing() || untold)
            continue;
        if (run->owesOff() && bench::clashOf(claim, run->claim()))
            return run; // its load is told to be off before anything else, by whoever told it last
        if (!free || free->owesOff())
            free = run;
    }
    if ((!free || free->owesOff()) && runs_.size() < static_cast<std::size_t>(kMost))
        return &add();
    return free;
}

namespace {

// What lies on a set-up and is in the path of such a run. Of several meters only the one that the energy is read off is
// in the path; the others are named beside it.
std::vector<std::string> piecesFor(const bench::Recipe& recipe, const bench::SetupFile& setup) {
    std::vector<std::string> all;
    for (const auto* roles : {&recipe.needs, &recipe.uses}) {
        for (const bench::Role& role : *roles) {
            const auto at = setup.placed.find(role);
            const bool besides =
                bench::roleNamed(role)->kind == bench::Kind::Meter && role != bench::mainMeter(recipe.kind);
            if (at != setup.placed.end() && !at->second.piece.empty() && !besides)
                all.push_back(at->second.piece);
        }
    }
    all.insert(all.end(), setup.also.begin(), setup.also.end());
    return all;
}

} // namespace

bool LiveBench::fitOut(bench::Plan& plan, const bench::SetupFile& setup, const QString& otherwise) {
    for (const char* role : bench::role::meters) {
        const auto at = setup.placed.find(role);
        for (const records::Gear& g : session_.book().gear()) {
            if (at != setup.placed.end() && g.name == at->second.piece && role != bench::mainMeter(plan.recipe.kind))
                plan.pieces[role] = g.id;
        }
    }
    for (const auto* roles : {&plan.recipe.needs, &plan.recipe.uses}) {
        for (const bench::Role& role : *roles) {
            if (const auto set = Setups::instrument(setup, role))
                plan.instruments[role] = *set;
        }
    }
    for (const auto& [role, instrument] : plan.instruments) {
        if (const auto wrong = bench::addressProblem(instrument.profile, instrument.address, role)) {
            Q_EMIT problem(qs(wrong->sentence()));
            return false;
        }
    }
    for (const bench::Role& role : plan.recipe.needs) {
        const bool loadMeasures = role == bench::role::meter && plan.instruments.contains(bench::role::load);
        if (!plan.instruments.contains(role) && !loadMeasures) {
            Q_EMIT problem(tr("This recipe needs a %1, and none is set up. Choose one under “Instruments”, or %2.")
                               .arg(qs(role), otherwise));
            return false;
        }
    }
    return true;
}

void LiveBench::startOn(const bench::Plan& plan, const std::optional<Choice>& choice) {
    if (const QString taken = whoHas(plan); !taken.isEmpty()) {
        Q_EMIT problem(taken);
        return;
    }
    LiveRun* run = place(bench::claimOf(plan));
    if (!run)
        return;
    (void)inhibitor_.hold(tr("A power bank is being tested."));
    choices_.erase(run->number());
    if (choice)
        choices_.emplace(run->number(), *choice);
    run->start(plan);
}

std::optional<LiveBench::Choice> LiveBench::choiceOf(int number) const {
    const auto at = choices_.find(number);
    return at == choices_.end() ? std::nullopt : std::optional(at->second);
}

bool LiveBench::beganByItself(const LiveRun& run) const {
    const auto choice = choiceOf(run.number());
    return choice && choice->byItself;
}

void LiveBench::begin(const Choice& choice) {
    if (!session_.isOpen())
        return;
    if (session_.book().readOnly()) {
        Q_EMIT problem(tr("This book is open for reading only; a run cannot be written into it. Open another book."));
        return;
    }
    if (!hasRoom()) {
        Q_EMIT problem(tr("%1 runs go already; that is as many as this window shows. Wait for one to end.").arg(kMost));
        return;
    }
    if (!choice.rehearse) {
        const bench::SetupFile setup = setups_.named(choice.setup);
        bench::Plan plan = planFor(session_.book(), choice, busy(), piecesFor(choice.recipe.recipe, setup));
        if (!fitOut(plan, setup, tr("rehearse")))
            return;
        Choice made = choice;
        made.setup = setup.key;
        startOn(plan, made);
        return;
    }
    bench::Plan plan = planFor(session_.book(), choice);
    const bench::StandIn::Scene scene = sceneFor(session_.book(), choice, plan);
    plan.run.title = tr("%1, rehearsed").arg(qs(plan.recipe.name)).toStdString();
    if (!records::hasSheet(plan.recipe.kind)) // the simulated bank is made so
        plan.run.ends.began = records::usualBeginning(plan.recipe.kind);
    LiveRun* run = place({});
    if (!run)
        return;
    (void)inhibitor_.hold(tr("A test of a power bank is being rehearsed."));
    choices_[run->number()] = choice;
    run->rehearse(scene, plan);
    Q_EMIT changed();
}

void LiveBench::tellNextEnd() {
    const auto [run, outcome] = std::move(ends_.front());
    ends_.pop_front();
    if (ends_.empty())
        tellEnds_.stop();
    runEnded(*run, outcome);
}

void LiveBench::runEnded(LiveRun& run, const bench::Outcome& outcome) {
    const auto others = going();
    if (others.empty())
        inhibitor_.release();
    if (outcome.run != records::kNew && session_.isOpen() && outcome.rescued.empty()) {
        const auto written = session_.book().run(outcome.run);
        session_.noteAddedRun(outcome.run, written ? qs(written->title) : QString());
    }
    Q_EMIT ended(outcome, &run);
    // What keys mean is never a run that is over while others go.
    if (chosen_ == &run && !others.empty()) {
        const auto wants = std::find_if(others.begin(), others.end(), [](LiveRun* r) { return r->wantsHands(); });
        chosen_ = wants != others.end() ? *wants : others.front();
    }
    Q_EMIT changed();
}

void LiveBench::stopAll() {
    for (LiveRun* run : going())
        run->stop(tr("the tester stopped all"));
}

std::vector<records::Run> LiveBench::openRuns() const {
    if (!session_.isOpen())
        return {};
    // What goes is open, too. One that has just begun is not yet known by its number.
    const auto goes = [going = going()](const records::Run& run) {
        return std::any_of(going.begin(), going.end(), [&](const LiveRun* r) {
            const long long id = r->progress().run != 0 ? r->progress().run : r->plan().run.id;
            return id == run.id || (id == records::kNew && r->plan().run.bank == run.bank);
        });
    };
    std::vector<records::Run> all = session_.book().openRuns();
    std::erase_if(all, goes);
    return all;
}

void LiveBench::goOn(const records::Run& run, double celsius) {
    const auto bank = session_.book().bank(run.bank);
    const auto recipe = bench::recipeFromJson(run.recipe, "recipe");
    if (!bank || !recipe) {
        Q_EMIT problem(tr("The recipe of this run cannot be read any more; close the run as it is."));
        return;
    }
    bench::Plan plan = planFor(session_.book(), {*bank, {*recipe, run.recipe}, false, 1.0, {}, celsius});
    plan.run = run;
    const QDateTime last = QDateTime::fromString(qs(run.capturedAt), Qt::ISODateWithMs);
    plan.breakSeconds =
        last.isValid()
            ? std::max<double>(0.0, static_cast<double>(last.msecsTo(QDateTime::currentDateTimeUtc())) * 1e-3)
            : 0.0;
    if (setups_.chosen().placed.empty()) {
        Q_EMIT problem(tr(
            "No instruments are set up; a rehearsal that was cut short cannot be gone on with, its bench is gone. Close the run as it is."));
        return;
    }
    if (fitOut(plan, setups_.chosen(), tr("close the run as it is")))
        startOn(plan, {});
}

void LiveBench::closeOpen(const records::Run& run) {
    // Whoever finds an open run doesn't know whether a load was left on, nor on which bench.
    std::set<std::string> told;
    for (const LiveRun* going : runs_) {
        for (const auto& [place, role] : going->claim().places)
            told.insert(place);
    }
    for (const bench::SetupFile& setup : setups_.read().all) {
        for (const char* role : bench::role::loads) {
            const auto load = Setups::instrument(setup, role);
            if (!load || !told.insert(bench::placeOf(*load)).second)
                continue;
            auto* device = new bench::ScpiDevice(load->profile, load->address, this);
            connect(device, &bench::ScpiDevice::switchedOff, device, &QObject::deleteLater);
            QTimer::singleShot(kTryOffMs, device, [this, device, role] {
                Q_EMIT problem(
                    tr("The %1 could not be switched off (%2). See that it is, or pull the plug out of the bank.")
                        .arg(QString::fromUtf8(role), device->whyNotOff()));
                device->deleteLater();
            });
            device->link().open();
        }
    }
    records::Run closed = run;
    closed.open = false;
    closed.stopped = "the program ended while it went; closed afterwards";
    if (auto done = session_.changeRun(closed, tr("close a run that was left open")); !done)
        Q_EMIT problem(qs(done.error().sentence()));
    Q_EMIT changed();
}

} // namespace otterstone::app
