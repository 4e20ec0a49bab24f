// A tester's whole life of work: a book of many banks with many runs each, and how long all of it takes to be worked
// out, judged, compared and corrected.
//
//     otterstone_big_book make BOOK [BANKS RUNS SAMPLES]        100 banks of 30 runs of 2800 samples
//     otterstone_big_book findings BOOK                         all findings, none of them at hand
//     otterstone_big_book choose BOOK [BANKS]                   what choosing asks for, with findings at hand
//     otterstone_big_book gear BOOK                             a correction of the meter that a tenth of the runs use
#include <cmath>
#include <cstdio>
#include <fstream>
#include <random>

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QFile>

#include "book/store/book.h"
#include "book/store/ripples.h"
#include "book/store/together.h"
#include "core/judgement/rank.h"
#include "core/records/past.h"

using namespace otterstone;

namespace {

constexpr int kMeters = 10;

// Peak memory of this process so far, MB.
double peak() {
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);) {
        if (line.starts_with("VmHWM:"))
            return std::atof(line.c_str() + 6) / 1024.0;
    }
    return 0.0;
}

double cpuSeconds() {
    return static_cast<double>(std::clock()) / CLOCKS_PER_SEC; // of all threads
}

// What is printed of a bank of about so many Wh.
records::Bank bankOf(int number, double wattHours) {
    records::Bank b;
    b.name = "Stone " + std::to_string(number);
    b.label.capacity = AmpHours(wattHours / 3.7);
    b.label.cellVolts = Volts(3.7);
    b.label.weightGrams = 60.0 + 5.0 * wattHours;
    label::Port c1;
    c1.name = "C1";
    c1.tiers = *label::parseTiers("5 V 3 A; 9 V 2 A", "big book");
    b.label.ports.push_back(c1);
    return b;
}

// A drain at a constant current until the output goes, or a recharge with its taper, as a meter would log it.
trace::Trace traceOf(bool drain, double wattHours, double amps, int samples, std::mt19937& r) {
    std::normal_distribution<double> noise(0.0, 0.002);
    const double volts = 5.05, seconds = wattHours / (volts * amps) * 3600.0;
    trace::Trace t;
    for (int k = 0; k < samples; ++k) {
        const double at = static_cast<double>(k) / (samples - 1);
        t.time.push_back(std::round(at * seconds * 10.0) / 10.0);
        double v = volts - 0.03 * at + noise(r), a = amps + noise(r);
        if (drain && k >= samples - 3)
            v = 0.1, a = 0.0;
        if (!drain && at > 0.75)
            a = amps * std::exp(-(at - 0.75) * 14.0) + noise(r);
        t.volts.push_back(std::round(v * 1e4) / 1e4);
        t.amps.push_back(std::round(std::fabs(a) * 1e4) / 1e4);
    }
    return t;
}

int make(const QString& path, int banks, int runs, int samples) {
    QFile::remove(path);
    auto book = book::Book::create(path);
    if (!book)
        return std::fprintf(stderr, "%s\n", book.error().sentence().c_str()), 3;
    std::mt19937 r(7);
    std::vector<records::Id> meters;
    for (int k = 0; k < kMeters; ++k) {
        records::Gear g;
        g.kind = records::GearKind::Meter;
        g.name = "Meter " + std::to_string(k + 1);
        g.meter = *path::parseMeter("volts 0.05%+2mV, amps 0.1%+3mA", "big book");
        meters.push_back(*(*book)->save(g));
    }
    for (int b = 0; b < banks; ++b) {
        const double wattHours = 18.0 + 4.0 * (b % 20);
        const records::Id bank = *(*book)->save(bankOf(b + 1, wattHours));
        for (int k = 0; k < runs; ++k) {
            const bool drain = k % 2 == 0;
            records::Run run;
            run.bank = bank;
            run.kind = drain ? records::Kind::Drain : records::Kind::Recharge;
            run.title = (drain ? "Drain " : "Recharge ") + std::to_string(k / 2 + 1);
            run.point = path::Point::Meter;
            run.meter = meters[static_cast<std::size_t>(k % kMeters)];
            char at[32];
            std::snprintf(at, sizeof at, "2026-%02d-%02dT%02d:00:00", 1 + k / 56 % 12, 1 + k / 2 % 28, drain ? 8 : 18);
            run.startedAt = at;
            const double amps = drain ? 1.0 + 0.5 * (k / 2 % 3) : 2.0;
            const auto saved =
                (*book)->addRun(run, traceOf(drain, drain ? 0.82 * wattHours : 1.08 * wattHours, amps, samples, r));
            if (!saved)
                return std::fprintf(stderr, "%s\n", saved.error().sentence().c_str()), 3;
        }
    }
    std::printf("%d banks, %d runs, %.1f million samples, %.0f MB\n", banks, banks * runs,
                1e-6 * banks * runs * samples, 1e-6 * static_cast<double>(QFile(path).size()));
    return 0;
}

class Clocked {
public:
    explicit Clocked(const char* what) : what_(what), cpu_(cpuSeconds()) { timer_.start(); }
    ~Clocked() {
        std::printf("%-44s %8.2f s  (%.2f s of processor)  peak %.0f MB\n", what_,
                    1e-3 * static_cast<double>(timer_.elapsed()), cpuSeconds() - cpu_, peak());
    }
    Clocked(const Clocked&) = delete;
    Clocked& operator=(const Clocked&) = delete;

private:
    const char* what_;
    double cpu_;
    QElapsedTimer timer_;
};

std::unique_ptr<book::Book> opened(const QString& path) {
    const Clocked clock("open");
    auto book = book::Book::open(path);
    if (!book) {
        std::fprintf(stderr, "%s\n", book.error().sentence().c_str());
        std::exit(3);
    }
    return std::move(*book);
}

int findings(const QString& path) {
    const auto book = opened(path);
    const Clocked clock("all findings, none at hand");
    std::vector<book::FreshFinding> fresh;
    const auto all = book::gatherEvidence(path, {}, &fresh);
    if (!all)
        return std::fprintf(stderr, "%s\n", all.error().sentence().c_str()), 3;
    book::remember(*book, fresh);
    std::size_t runs = 0;
    for (const auto& e : *all)
        runs += e.runs.size();
    std::printf("%zu runs, %zu worked out\n", runs, fresh.size());
    return 0;
}

int choose(const QString& path, int most) {
    const auto book = opened(path);
    std::vector<records::Id> banks;
    for (const records::Bank& b : book->banks()) {
        if (static_cast<int>(banks.size()) < most)
            banks.push_back(b.id);
    }
    const Clocked clock("choose: gather, compare, rank");
    const auto evidence = book::gatherEvidence(path, banks);
    if (!evidence)
        return std::fprintf(stderr, "%s\n", evidence.error().sentence().c_str()), 3;
    const auto comparison = judgement::compare(*evidence);
    const auto ranking = judgement::rank(comparison, judgement::purposes().front());
    std::printf("%zu banks, %zu figures, %zu ranked\n", evidence->size(), comparison.rows.size(), ranking.banks.size());
    return 0;
}

int gear(const QString& path) {
    const auto book = opened(path);
    records::Gear meter = book->gear().front();
    QElapsedTimer timer;
    const Clocked clock("a corrected meter: what it changed");
    timer.start();
    const auto before = book::benchNow(path);
    meter.clock = Stated(meter.clock.value == 1.0 ? 1.01 : 1.0, 0.001);
    if (!before || !book->save(meter))
        return 3;
    std::size_t rows = 0;
    std::vector<book::FreshFinding> fresh;
    const auto done = book::tellRipples(path, *before, meter.id, [&](book::Rippled rippled) {
        if (rows == 0 && !rippled.rows.empty())
            std::printf("the first bank after %lld ms\n", timer.elapsed());
        rows += rippled.rows.size();
        std::move(rippled.fresh.begin(), rippled.fresh.end(), std::back_inserter(fresh));
        return true;
    });
    if (!done)
        return 3;
    std::printf("%zu rows moved, %zu findings worked out, after %lld ms\n", rows, fresh.size(), timer.elapsed());
    book::remember(*book, fresh);
    return 0;
}

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    const QStringList a = QCoreApplication::arguments();
    const auto number = [&](int at, int otherwise) { return a.size() > at ? a[at].toInt() : otherwise; };
    const QString what = a.value(1);
    if (a.size() < 3)
        return std::fprintf(stderr, "Usage: otterstone_big_book make|findings|choose|gear BOOK …\n"), 2;
    return what == QLatin1String("make")       ? make(a[2], number(3, 100), number(4, 30), number(5, 2800))
           : what == QLatin1String("findings") ? findings(a[2])
           : what == QLatin1String("choose")   ? choose(a[2], number(3, 100))
           : what == QLatin1String("gear")     ? gear(a[2])
                                               : 2;
}
