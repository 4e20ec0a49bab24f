// What otterstone-cli hands over: a recipe is run on instruments, without a window; a port is listened to.
#include "live/live.h"

#include <algorithm>
#include <iostream>
#include <utility>

#include <QCoreApplication>
#include <QElapsedTimer>
#include <nlohmann/json.hpp>

#include <unistd.h>

#include "bench/instruments/listener.h"
#include "bench/instruments/off_watcher.h"
#include "bench/runner/end_signals.h"
#include "bench/runner/house.h"
#include "bench/runner/session.h"
#include "book/store/book.h"
#include "cli/commands.h"
#include "cli/options.h"
#include "cli/recipe.h"
#include "core/label/rating.h"
#include "core/label/usb_facts.h"
#include "core/quantity/format.h"

namespace otterstone::cli {

namespace {

constexpr int kRingMs = 1000;

// "PROFILE@ADDRESS": a built-in key or a file, and a port or host:port.
bench::Instrument instrumentOf(const std::string& text, const char* option) {
    const std::size_t at = text.find('@');
    if (at == std::string::npos)
        throw Wrong{{"bad_instrument", option, "“" + text + "” says no address.",
                     "Write PROFILE@ADDRESS, like printing-meter@/dev/ttyUSB0 or scpi-load@192.168.1.20:5025."}};
    bench::Instrument instrument{orWrong(profileNamed(text.substr(0, at))),
                                 {QString::fromStdString(text.substr(at + 1))}};
    if (const auto wrong = bench::addressProblem(instrument.profile, instrument.address, option))
        throw Wrong{*wrong};
    return instrument;
}

const char* phaseWord(bench::Phase phase) {
    switch (phase) {
    case bench::Phase::Idle: return "idle";
    case bench::Phase::Connecting: return "connecting";
    case bench::Phase::Running: return "running";
    case bench::Phase::Waiting: return "waiting";
    case bench::Phase::Closing: return "closing";
    case bench::Phase::StillOn: return "ending";
    case bench::Phase::Finished: break;
    }
    return "finished";
}

bench::Plan planOf(const LiveOptions& o, book::Book& book) {
    bench::Plan plan;
    const auto recipe = orWrong(recipeNamed(o.recipe));
    plan.recipe = recipe.recipe;
    plan.recipeText = recipe.json;
    plan.book = book.path();
    plan.rescueFolder = QString::fromStdString(o.rescue.empty() ? "." : o.rescue);
    std::optional<records::Bank> bank;
    for (const records::Bank& b : book.banks()) {
        if (b.name == o.bank)
            bank = b;
        for (const records::Run& run : book.runs(b.id)) {
            if (o.goOn && run.open && !plan.run.open) {
                plan.run = run;
                bank = b;
            }
        }
    }
    if (o.goOn && !plan.run.open)
        throw Wrong{{"no_run", o.book, "there is no run that was left open.", ""}};
    if (!bank)
        throw Wrong{{"no_bank", "--bank", "there is no bank “" + o.bank + "” in this book.",
                     "See otterstone-cli findings BOOK for their names."}};
    plan.run.bank = bank->id;
    if (!o.began.empty())
        plan.run.ends.began = orWrong(records::parseBegan(o.began, "--began"));
    plan.label = bank->label;
    if (!o.title.empty())
        plan.run.title = o.title;
    for (const records::Gear& g : book.gear()) {
        if (g.name == o.meterGear)
            plan.run.meter = g.id;
        if (g.name == o.cableGear)
            plan.run.cable = g.id;
        if (plan.run.cable == g.id)
            plan.cableAmps = label::usbFact(g.marked ? label::Fact::CableMarked : label::Fact::CableUnmarked);
    }
    for (const auto& [role, text, option] : {std::tuple(bench::role::meter, &o.meter, "--meter"),
                                             {bench::role::inputMeter, &o.inputMeter, "--input-meter"},
                                             {bench::role::wallMeter, &o.wallMeter, "--wall-meter"},
                                             {bench::role::load, &o.load, "--load"},
                                             {bench::role::secondLoad, &o.secondLoad, "--second-load"},
                                             {bench::role::trigger, &o.trigger, "--trigger"},
                                             {bench::role::secondTrigger, &o.secondTrigger, "--second-trigger"},
                                             {bench::role::thermometer, &o.thermometer, "--thermometer"}}) {
        if (!text->empty())
            plan.instruments[role] = instrumentOf(*text, option);
    }
    for (const std::string& role : plan.recipe.needs) {
        std::string option = role;
        std::replace(option.begin(), option.end(), ' ', '-');
        if (!plan.instruments.contains(role) &&
            !(role == bench::role::meter && plan.instruments.contains(bench::role::load)))
            throw Wrong{{"no_instrument", "", "this recipe needs a " + role + ".",
                         "Give it as --" + option + " PROFILE@ADDRESS."}};
    }
    plan.limits.celsius = o.celsius.empty() ? plan.recipe.celsius.value_or(60.0) : number(o.celsius, "--celsius");
    if (auto sane = bench::checkCelsius(plan.limits.celsius, "--celsius"); !sane)
        throw Wrong{sane.error()};
    if (plan.recipe.hours)
        plan.limits.seconds = *plan.recipe.hours * 3600.0;
    if (const auto usual = label::usualEnergy(bank->label, plan.recipe.kind == records::Kind::Drain ? label::Way::Out
                                                                                                    : label::Way::In))
        plan.expectedWattHours = usual->value;
    plan.expectedFrom = QStringLiteral("the label");
    if (!o.rehearse.empty()) {
        const std::size_t at = o.rehearse.find('@');
        if (at == std::string::npos || !bench::hostPort(QString::fromStdString(o.rehearse.substr(0, at)), 0))
            throw Wrong{
                {"bad_rehearsal", "--rehearse", "this should be HOST:PORT@SPEED, the stand-in's control port.", ""}};
        plan.rehearsal = bench::Rehearsal{QString::fromStdString(o.rehearse.substr(0, at)),
                                          positive(o.rehearse.substr(at + 1), "--rehearse")};
    }
    return plan;
}

} // namespace

int live(const LiveOptions& o, int argc, char** argv) {
    bench::holdEndSignals();
    bench::beginWatcher();
    QCoreApplication application(argc, argv);
    if (!o.yes) {
        std::cerr
            << "Lithium cells burn. The bank is undamaged, not swollen, and does not smell; it lies where nothing can burn; somebody is near, and will\n"
               "pull it apart at smoke, hissing, a smell of hot resin, or swelling; cables sit firmly and the load is rated for what it draws.\n"
               "Say so with --checked.\n";
        return kUsage;
    }
    auto opened = book::Book::open(QString::fromStdString(o.book));
    if (!opened)
        return complain(opened.error());
    bench::Plan plan;
    try {
        plan = planOf(o, **opened);
    } catch (const Wrong& wrong) {
        return complain(wrong.problem, kUsage);
    }
    for (const char* role : bench::role::loads) {
        const auto load = plan.instruments.find(role);
        if (load != plan.instruments.end() && !load->second.profile.watchdogSeconds && !plan.rehearsal)
            std::cerr
                << "note: no watchdog of the " << role
                << " is known. Should this computer fail, it stays on: set one at the load, and write it into its profile (watchdog_s).\n";
    }
    if (!bench::watches() && !plan.rehearsal)
        std::cerr << "note: the watcher that switches a load off should this program be killed cannot be started.\n";
    if (const std::string missing = bench::missingWitness(plan); !missing.empty() && !plan.rehearsal)
        std::cerr << "note: " << missing << ".\n";
    bench::Session session;
    bench::Outcome outcome;
    bench::Phase told = bench::Phase::Idle;
    std::size_t step = 0;
    QElapsedTimer rang;
    QObject::connect(&session, &bench::Session::progressed, [&](const bench::Progress& p) {
        if (!p.stillOn.empty() && (!rang.isValid() || rang.elapsed() >= kRingMs)) {
            std::cerr
                << "\aTHE LOAD IS STILL ON (" << p.stillOn
                << "). Pull the plug out of the bank. It is told again and again; a second Ctrl+C leaves it so.\n";
            rang.start();
        }
        for (const records::Mark& m : p.freshMarks)
            std::cerr << showDuration(m.at, 1.0) << "  " << records::markKey(m.what) << " " << m.text << "\n";
        if (p.phase != told || p.step != step)
            std::cerr << phaseWord(p.phase) << ": "
                      << (p.phase == bench::Phase::Waiting ? p.toDo + " (then Return)" : p.doing) << "\n";
        told = p.phase;
        step = p.step;
    });
    QObject::connect(&session, &bench::Session::finished, &application, [&](const bench::Outcome& ended) {
        outcome = ended;
        QCoreApplication::quit();
    });
    // The first signal ends the run in order. A load that then does not switch off is told on and on, until somebody
    // who was told so insists.
    const auto interrupt = bench::onEndSignal(
        [&](bench::EndAsked asked) {
            if (asked == bench::EndAsked::Again)
                QCoreApplication::exit(kCutShort);
            else
                session.stop();
        },
        [] { return false; });
    // What is typed is read as far as it is there: a line without an end holds nothing up.
    QSocketNotifier input(STDIN_FILENO, QSocketNotifier::Read);
    QObject::connect(&input, &QSocketNotifier::activated, [&] {
        char typed[4096];
        const ssize_t n = ::read(STDIN_FILENO, typed, sizeof typed);
        if (n <= 0)
            input.setEnabled(false);
        else if (std::count(typed, typed + n, '\n') > 0)
            session.goOn();
    });
    session.start(plan);
    if (QCoreApplication::exec() == kCutShort) {
        session.end(); // it says whether the load is on
        std::cerr
            << "otterstone-cli: ended before the run was over. “otterstone-cli check” says whether its book is whole.\n";
        return kCutShort;
    }
    const bool inOrder = bench::isOrderly(outcome.stop.kind) && outcome.stillOn.empty();
    nlohmann::json j{{"run", outcome.run}, {"ended_by", outcome.stop.why}, {"orderly", inOrder}};
    if (!outcome.stillOn.empty())
        j["load_still_on"] = outcome.stillOn;
    if (outcome.trueWattHours)
        j["true_wh"] = *outcome.trueWattHours;
    if (!outcome.rescued.empty())
        j["rescued"] = outcome.rescued;
    if (outcome.run != 0) {
        if (const auto finding = (*opened)->finding(outcome.run))
            j["sentence"] = finding->sentence;
    }
    if (!outcome.stillOn.empty())
        std::cerr << "\aTHE LOAD MAY STILL BE ON (" << outcome.stillOn << "). Pull the plug out of the bank.\n";
    const int code = outcome.run == 0 ? kInput : inOrder ? kDone : kCutShort;
    if (o.json) {
        const int printed = print(j);
        return printed != kDone ? printed : code;
    }
    std::cout << outcome.stop.why << "\n";
    if (j.contains("sentence"))
        std::cout << j["sentence"].get<std::string>() << "\n";
    return finish(code);
}

int listen(const ListenOptions& o, int argc, char** argv) {
    QCoreApplication application(argc, argv);
    bench::Profile as = profileNamed("printing-meter").value(); // it comes with the application
    as.by = o.address.find(':') == std::string::npos ? bench::Profile::By::Serial : bench::Profile::By::Tcp;
    try {
        if (!o.baud.empty())
            as.baud = static_cast<int>(positive(o.baud, "--baud", Expect::WholeNumber));
    } catch (const Wrong& wrong) {
        return complain(wrong.problem, kUsage);
    }
    as.key = as.name = "heard";
    as.notes.clear();
    bench::Listener listener;
    int code = kInput;
    QObject::connect(&listener, &bench::Listener::heard, [&](const bench::Heard& heard) {
        for (const std::string& line : heard.lines)
            std::cerr << "heard: " << line << "\n";
        for (const std::string& reason : heard.reasons)
            std::cerr << reason << "\n";
        std::cout << bench::toJson(heard.profile);
        code = finish(kDone);
        QCoreApplication::quit();
    });
    QObject::connect(&listener, &bench::Listener::failed, [&o](const QString& sentence) {
        std::cerr << "otterstone-cli: " << o.address << ": " << sentence.toStdString() << "\n";
        QCoreApplication::quit();
    });
    listener.listen(as, {QString::fromStdString(o.address)});
    QCoreApplication::exec();
    return code;
}

} // namespace otterstone::cli
