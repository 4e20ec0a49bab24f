// Benchmarks of what a tester waits for: reading a log, its finding, a book, a redraw of ten million samples.
#include <benchmark/benchmark.h>

#include <QApplication>
#include <QTemporaryDir>

#include <cmath>
#include <sstream>

#include "app/live/live_curve.h"
#include "app/runs/trace_curve.h"
#include "app/theme.h"
#include "book/store/book.h"
#include "core/model/bench.h"
#include "logs/csv.h"
#include "logs/log.h"

using namespace otterstone;

namespace {

trace::Trace longTrace(int samples) {
    trace::Trace t;
    for (int k = 0; k < samples; ++k) {
        t.time.push_back(k / 10.0);
        t.volts.push_back(std::round((5.05 + 0.01 * std::sin(k * 0.37)) * 1e4) / 1e4);
        t.amps.push_back(std::round((2.0 + 0.02 * std::cos(k * 0.11)) * 1e4) / 1e4);
    }
    return t;
}

std::string longLog(int samples) {
    std::ostringstream out;
    logs::writeTrace(out, longTrace(samples));
    return out.str();
}

void readLog(benchmark::State& state) {
    const std::string text = longLog(static_cast<int>(state.range(0)));
    for (auto _ : state) {
        const auto opened = logs::openText(text, "log");
        benchmark::DoNotOptimize(logs::readLog(*opened));
    }
    state.SetBytesProcessed(state.iterations() * static_cast<int64_t>(text.size()));
}
BENCHMARK(readLog)->Arg(100'000)->Arg(2'000'000)->Unit(benchmark::kMillisecond);

void analyseTrace(benchmark::State& state) {
    const trace::Trace t = longTrace(static_cast<int>(state.range(0)));
    for (auto _ : state)
        benchmark::DoNotOptimize(kinds::analyse(t, records::Kind::Drain, {}));
}
BENCHMARK(analyseTrace)->Arg(100'000)->Arg(2'000'000)->Unit(benchmark::kMillisecond);

// One book with ten million samples for all that follows.
struct Big {
    QTemporaryDir folder;
    std::unique_ptr<book::Book> book;
    records::Id run = 0;
    Big() {
        book = std::move(*book::Book::create(folder.filePath("big.otterstone")));
        records::Bank bank;
        bank.name = "Big";
        records::Run r;
        r.bank = *book->save(bank);
        run = *book->addRun(r, longTrace(10'000'000));
    }
};
Big& big() {
    static Big b;
    return b;
}

void openBook(benchmark::State& state) {
    const QString path = big().book->path();
    for (auto _ : state) {
        big().book.reset();
        big().book = std::move(*book::Book::open(path));
    }
}
BENCHMARK(openBook)->Unit(benchmark::kMillisecond);

void openRunFromSummaries(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(big().book->summaries(big().run));
}
BENCHMARK(openRunFromSummaries)->Unit(benchmark::kMillisecond);

// A redraw of the curve as pan and zoom do it; the argument is the share of the ten million samples in view, in
// 1/10000.
void redraw(benchmark::State& state) {
    app::TraceCurve curve;
    curve.resize(1000, 400);
    curve.show(); // the widget
    Big& b = big();
    curve.show(app::CurveData(b.book->summaries(b.run),
                              [&b](int first, int last) { return b.book->chunks(b.run, first, last); }),
               nullptr, {}, false);
    curve.zoom(static_cast<double>(state.range(0)) / 10'000.0);
    double step = 0.01;
    for (auto _ : state) {
        curve.pan(step);
        curve.redrawNow();
        step = -step;
    }
}
BENCHMARK(redraw)->Arg(10'000)->Arg(1'000)->Arg(100)->Arg(10)->Unit(benchmark::kMillisecond);

// The growing curve of a live run after a million noisy readings: one redraw.
void redrawLive(benchmark::State& state) {
    app::LiveCurve curve;
    curve.resize(980, 230);
    curve.show();
    curve.begin(false);
    std::vector<bench::CurvePoint> points;
    points.reserve(1'000'000);
    for (int k = 0; k < 1'000'000; ++k)
        points.push_back({k * 1e-3, 5.0 + 0.01 * std::sin(k * 0.37), 2.0 + 0.02 * std::cos(k * 1.11)});
    curve.add(points, {});
    for (auto _ : state) {
        curve.restyle(); // works it out anew and queues the drawing
        QCoreApplication::processEvents();
    }
}
BENCHMARK(redrawLive)->Unit(benchmark::kMillisecond);

// F: a whole simulated bench at ten steps a second: load, charger and heat. Items are simulated seconds, so items per
// second is how many times faster than real time it runs.
void simulateBench(benchmark::State& state) {
    model::Bank bank;
    bank.cells.slowOhms = 0.02;
    bank.thermal.coreKelvinPerWatt = 2.0;
    bank.ports = {model::Port{"C", label::Direction::Both, {}, {}, 0.0, 0.0},
                  model::Port{"A", label::Direction::Out, {}, {}, 0.0, 0.0}};
    model::Bench bench(bank, 0.9, 20.0);
    bench.plugCharger(0, {}, {0.06, 3.0});
    bench.plugLoad(1, {0.06, 3.0}, {5.0, 3.0});
    bench.setLoad(1, {model::Load::Mode::ConstantPower, 6.0, true});
    for (auto _ : state) {
        for (int k = 0; k < 10; ++k)
            bench.step(0.1);
    }
    state.SetItemsProcessed(state.iterations());
}
BENCHMARK(simulateBench);

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    app::applyTheme(app::ThemeKind::Light);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
