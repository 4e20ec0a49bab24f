// Drives the real window through every main view with the demo book and writes a picture of each.
// Usage: otterstone-screenshots FOLDER [--all | --judgement [BOOK]]      without --all only those that the README
// shows; --judgement: verdicts, choice, sheet, of BOOK instead of the demo
#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QRadioButton>
#include <QScrollBar>
#include <QTemporaryDir>
#include <QTest>

#include <fstream>
#include <iostream>

#include "app/attached/attached_strip.h"
#include "app/behaviour/behaviour_view.h"
#include "app/behaviour/sheet_model.h"
#include "app/choose/choose_page.h"
#include "app/choose/use_view.h"
#include "app/findings/claims_table.h"
#include "app/findings/findings_page.h"
#include "app/gear/bench_page.h"
#include "app/gear/gear_form.h"
#include "app/gear/gear_panel.h"
#include "app/import/import_page.h"
#include "app/live/live_page.h"
#include "app/live/setup_view.h"
#include "app/main_window.h"
#include "app/plan/plan_page.h"
#include "app/plan/tide_view.h"
#include "app/report/report_page.h"
#include "app/runs/path_ribbon.h"
#include "app/runs/run_page.h"
#include "app/runs/stamp_bar.h"
#include "app/runs/trace_curve.h"
#include "app/shelf/shelf.h"
#include "app/theme.h"
#include "app/widgets/figure_button.h"
#include "book/demo/demo.h"
#include "logs/csv.h"
#include "pictures/shrink.h"

namespace {

namespace ui = otterstone::app;
namespace bk = otterstone::book;

class Pictures {
public:
    Pictures(ui::MainWindow& window, QString folder, bool all)
        : window_(window), folder_(std::move(folder)), all_(all) {}

    void take(const QString& name) {
        static const QStringList kKept = {
            QStringLiteral("first-start"),  QStringLiteral("intake"),     QStringLiteral("import"),
            QStringLiteral("run-recharge"), QStringLiteral("run-drain"),  QStringLiteral("working"),
            QStringLiteral("bench"),        QStringLiteral("gear"),       QStringLiteral("notebook"),
            QStringLiteral("findings"),     QStringLiteral("live-setup"), QStringLiteral("live-run"),
            QStringLiteral("survey"),       QStringLiteral("plan"),       QStringLiteral("choose-use"),
            QStringLiteral("matrix"),       QStringLiteral("choose"),     QStringLiteral("choose-purpose"),
            QStringLiteral("sheet")};
        if (!all_ && !kKept.contains(name))
            return;
        QTest::qWait(250); // queued replots and layouts settle
        window_.grab().save(QDir(folder_).filePath(name + QStringLiteral(".png")));
        std::cout << name.toStdString() << ".png\n";
    }

private:
    ui::MainWindow& window_;
    QString folder_;
    bool all_;
};

// A label as a camera might have seen it.
void photographLabel(ui::MainWindow& window, bk::Id bank) {
    QImage image(1200, 800, QImage::Format_RGB32);
    image.fill(QColor(58, 64, 70));
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(214, 210, 200));
    painter.drawRoundedRect(QRectF(150, 110, 900, 580), 40, 40);
    painter.setPen(QColor(40, 44, 48));
    painter.setFont(ui::font(4.6, QFont::DemiBold));
    painter.drawText(QPointF(220, 260), QStringLiteral("Boulder 20"));
    painter.setFont(ui::font(2.6));
    int y = 360;
    for (const char* line : {"20000 mAh  3.7 V  74 Wh", "14.8V 18.5Wh", "C1 45 W   A 15 W", "C1 30 W + A 15 W"})
        painter.drawText(QPointF(220, y += 70), QString::fromLatin1(line));
    painter.end();
    auto prepared = otterstone::pictures::preparedPicture(QStringLiteral("label.png"), image);
    prepared->attachment.caption = "The label";
    prepared->attachment.onSheet = true;
    (void)ui::attachTo(window.session(), bank, otterstone::records::kNew, std::move(prepared));
}

bk::Id bankNamed(const bk::Book& book, const std::string& name) {
    for (const bk::Bank& b : book.banks()) {
        if (b.name == name)
            return b.id;
    }
    return bk::kNew;
}

// A log as an instrument from elsewhere would write it: semicolons, decimal commas, milliamperes.
QString foreignLog(const bk::Book& book, bk::Id run, const QString& folder) {
    QString path = QDir(folder).filePath(QStringLiteral("Logbuch 12.csv"));
    std::ofstream out(path.toStdString());
    const auto trace = book.trace(run);
    out << "Gerät: Messbox\r\nZeit (h:m:s);Spannung [V];Strom [mA];Temperatur [°C]\r\n";
    for (std::size_t k = 0; k < trace.size(); k += 5) {
        const QTime clock = QTime(0, 0).addSecs(static_cast<int>(trace.time[k]));
        QString line = clock.toString(QStringLiteral("h:mm:ss")) + QStringLiteral(";%1;%2;%3")
                                                                       .arg(trace.volts[k], 0, 'f', 3)
                                                                       .arg(trace.amps[k] * 1000.0, 0, 'f', 0)
                                                                       .arg(trace.temperature[k], 0, 'f', 1);
        out << line.replace(QLatin1Char('.'), QLatin1Char(',')).toStdString() << "\r\n";
    }
    return path;
}

constexpr int kSettleMs = 6000;

// A rehearsal on the stand-in, as far as it is worth a picture.
void liveBench(ui::MainWindow& window, Pictures& pictures, bk::Id bank, bool dark) {
    window.rehearse(bank);
    ui::SetupView* setup = window.livePage()->setup();
    setup->speed()->setText(QStringLiteral("1000"));
    if (!dark) {
        setup->onInstruments()->setChecked(true);
        for (QCheckBox* check : setup->checks())
            check->setChecked(check != setup->checks().back());
        pictures.take(QStringLiteral("live-setup"));
        setup->chooseRehearsal();
    }
    setup->recipes()->setCurrentRow(6);
    pictures.take(dark ? QStringLiteral("live-setup-dark") : QStringLiteral("live-setup-sharing"));
    Q_EMIT window.livePage()->instrumentsWanted();
    pictures.take(dark ? QStringLiteral("instruments-dark") : QStringLiteral("instruments"));
    Q_EMIT window.livePage()->recipeWanted(QString::fromStdString(ui::readRecipes().all[6].json));
    pictures.take(dark ? QStringLiteral("recipe-dark") : QStringLiteral("recipe"));
    QTest::keyClick(&window, Qt::Key_Escape);
    setup->recipes()->setCurrentRow(dark ? 3 : 0);
    setup->start()->click();
    // Others beside it.
    ui::LiveBench& benches = window.liveBench();
    (void)QTest::qWaitFor([&] { return benches.runner().isRunning(); }, 20000);
    const auto& progress = benches.runner().progress();
    if (!dark) {
        const auto recipes = ui::readRecipes().all;
        for (const auto& [other, row] : {std::pair("Shingle 10 pad", 3), {"Scree 15", 1}}) {
            const auto going = benches.going().size();
            benches.begin(
                {*window.session().book().bank(bankNamed(window.session().book(), other)), recipes[row], true, 200.0});
            (void)QTest::qWaitFor(
                [&] {
                    return benches.going().size() > going && benches.chosen().number() > static_cast<int>(going) &&
                           benches.runner().isRunning();
                },
                20000);
        }
        window.livePage()->showRun(*benches.withNumber(1));
    }
    const auto until = [&](double wattHours) {
        (void)QTest::qWaitFor([&] { return progress.wattHours > wattHours; }, 60000);
    };
    until(4.0);
    window.liveBench().runner().stamp({0.0, otterstone::records::Mark::What::Percent, dark ? 12.0 : 88.0, ""});
    until(dark ? 20.0 : 14.0);
    window.liveBench().runner().stamp({0.0, otterstone::records::Mark::What::Percent, dark ? 48.0 : 55.0, ""});
    until(dark ? 24.0 : 18.0);
    pictures.take(dark ? QStringLiteral("live-recharge-dark") : QStringLiteral("live-run"));
    benches.stopAll();
    (void)QTest::qWaitFor([&] { return !window.liveBench().isRunning(); }, 20000);
    // The other pages show the demo as it is.
    for (const char* other : {"Shingle 10 pad", "Scree 15"}) {
        const auto runs = window.session().book().runs(bankNamed(window.session().book(), other));
        if (!dark && !runs.empty())
            (void)window.session().removeRun(runs.back().id);
    }
    QTest::qWait(kSettleMs); // what the ends of runs set going comes to its end
}

// The sheets of the demo book.
void behaviours(ui::MainWindow& window, Pictures& pictures, const bk::Book& book) {
    QTest::keyClick(&window, Qt::Key_Escape);
    const auto show = [&](const char* bank, const char* title, const char* picture) {
        for (const bk::Run& run : book.runs(bankNamed(book, bank))) {
            if (run.title == title)
                window.showRuns(run.bank, run.id);
        }
        pictures.take(QString::fromLatin1(picture));
    };
    show("Scree 15", "What the sockets really do", "survey");
    show("Pebble 5", "A at 5 V until it trips", "staircase");
    show("Boulder 20", "C1 and A at once", "sharing");
    show("Boulder 20", "Tablet on the hut socket", "pass-through");
    show("Cobble 10", "Camera on standby", "light-load");
    show("Cobble 10", "Hut sockets and cables", "matrix-in");
    show("Boulder 20", "What charges the hut's devices", "matrix");
    show("Shingle 10 pad", "Head torch on the pad, and by wire", "pad");
    show("Boulder 20", "Joined to Menhir 27", "directions");
}

// Verdicts, plan, choice and sheet.
void judgement(ui::MainWindow& window, Pictures& pictures, const bk::Book& book, bool dark) {
    const auto name = [&](const char* picture) {
        return QString::fromLatin1(picture) + (dark ? QStringLiteral("-dark") : QString());
    };
    const auto settle = [] { QTest::qWait(1500); };
    const bk::Id boulder = bankNamed(book, "Boulder 20");
    window.showFindings(boulder);
    settle();
    pictures.take(name("verdicts"));
    window.findingsPage()->claims()->setCurrentCell(6, 0);
    Q_EMIT window.findingsPage()->claims()->workingWanted(*window.findingsPage()->claims()->current()->finding);
    pictures.take(name("verdict-working"));
    QTest::keyClick(&window, Qt::Key_Escape);
    if (!dark) {
        for (const int row : {1, 4}) {
            window.findingsPage()->claims()->setCurrentCell(row, 0);
            QTest::keyClick(window.findingsPage()->claims(), Qt::Key_P);
        }
    }
    window.showPlan();
    (void)QTest::qWaitFor([&] { return !window.planPage()->isPlanning(); }, 30000);
    window.planPage()->tide()->setFocus();
    pictures.take(name("plan"));
    QTest::keyClick(&window, Qt::Key_Escape);
    ui::ChoosePage* choose = window.choosePage();
    window.showChoose();
    settle();
    choose->setView(ui::ChoosePage::Figures);
    pictures.take(name("choose"));
    choose->setView(ui::ChoosePage::Purpose);
    (void)QTest::qWaitFor([choose] { return !choose->isRanking(); });
    pictures.take(name("choose-purpose"));
    choose->setView(ui::ChoosePage::Curves);
    pictures.take(name("choose-curves"));
    choose->setView(ui::ChoosePage::Use);
    choose->use()->needs()->setPlainText(
        QStringLiteral("Burrow camera 1.8 W 10 h\nField tablet 26.4 Wh 5.5 W 3 h\nHead torch 7.4 Wh 0.5x"));
    choose->use()->days()->setText(QStringLiteral("4"));
    pictures.take(name("choose-use"));
    choose->setView(ui::ChoosePage::Devices);
    settle();
    pictures.take(name("choose-devices"));
    choose->setView(ui::ChoosePage::Curves);
    choose->curveKind()->setCurrentIndex(choose->curveKind()->count() - 1);
    Q_EMIT choose->curveKind()->activated(choose->curveKind()->count() - 1);
    settle();
    pictures.take(name("choose-device-curves"));
    window.showReport(bankNamed(book, "Cobble 10"));
    settle();
    pictures.take(name("sheet"));
    window.reportPage()->showComparison({});
    settle();
    pictures.take(name("sheet-comparison"));
}

} // namespace

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    if (argc < 2) {
        std::cerr << "Usage: otterstone-screenshots FOLDER [--all]\n";
        return 2;
    }
    QTemporaryDir scratch;
    ui::applyTheme(ui::ThemeKind::Light);
    ui::MainWindow window;
    window.resize(1280, 800); // the offscreen platform's own screen is smaller
    window.resize(1280, 800);
    window.show();
    const bool judgementOnly = argc > 2 && QString::fromLocal8Bit(argv[2]) == QStringLiteral("--judgement");
    Pictures pictures(window, QString::fromLocal8Bit(argv[1]), argc > 2);

    if (!window.session().create(scratch.filePath(QStringLiteral("bench.otterstone"))))
        return 1;
    pictures.take(QStringLiteral("first-start"));

    auto demo = bk::makeDemo(scratch.filePath(QStringLiteral("skerry-point.otterstone")));
    if (!demo)
        return 1;
    window.session().adopt(std::move(*demo));
    if (argc > 3 && !window.openBook(QString::fromLocal8Bit(argv[3])))
        return 1;
    const bk::Book& book = window.session().book();
    if (judgementOnly) {
        judgement(window, pictures, book, false);
        ui::applyTheme(ui::ThemeKind::Dark);
        window.choosePage()->restyle();
        judgement(window, pictures, book, true);
        return 0;
    }
    photographLabel(window, bankNamed(book, "Boulder 20"));
    window.showIntake(bankNamed(book, "Boulder 20"));
    pictures.take(QStringLiteral("intake"));
    window.showIntake(bankNamed(book, "Shingle 10 pad"));
    pictures.take(QStringLiteral("intake-contradiction"));

    const bk::Id cobble = bankNamed(book, "Cobble 10");
    const auto cobbleRuns = book.runs(cobble);
    window.bringIn(foreignLog(book, cobbleRuns[1].id, scratch.path()));
    pictures.take(QStringLiteral("import"));

    window.showRuns(cobble, cobbleRuns[0].id);
    pictures.take(QStringLiteral("run-recharge"));
    window.showRuns(cobble, cobbleRuns[2].id);
    pictures.take(QStringLiteral("run-drain"));
    QTest::mouseClick(window.runPage()->figure(QStringLiteral("delivered_share")), Qt::LeftButton);
    pictures.take(QStringLiteral("working"));
    QTest::keyClick(&window, Qt::Key_Escape);
    QTest::keyClick(&window, Qt::Key_Escape);

    for (auto* button : window.runPage()->findChildren<QPushButton*>()) {
        if (button->text() == QStringLiteral("Before a run"))
            button->click();
    }
    pictures.take(QStringLiteral("cautions"));
    QTest::keyClick(&window, Qt::Key_Escape);

    const bk::Id scree = bankNamed(book, "Scree 15");
    for (const bk::Run& r : book.runs(scree)) {
        if (r.title.starts_with("Left over night")) {
            window.showRuns(scree, r.id);
            pictures.take(QStringLiteral("run-asks"));
        }
    }
    for (const bk::Run& r : book.runs(scree)) {
        if (r.title != "An evening's devices")
            continue;
        window.showRuns(scree, r.id);
        pictures.take(QStringLiteral("notebook"));
    }
    const bk::Id boulder = bankNamed(book, "Boulder 20");
    window.showRuns(boulder, book.runs(boulder)[2].id);
    pictures.take(QStringLiteral("run-stopped-by-heat"));

    const bk::Id menhir = bankNamed(book, "Menhir 27");
    window.showRuns(menhir, book.runs(menhir)[2].id);
    QTest::mouseClick(window.runPage()->figure(QStringLiteral("ohms:bank out")), Qt::LeftButton);
    pictures.take(QStringLiteral("two-meters"));
    QTest::keyClick(&window, Qt::Key_Escape);
    window.showAbout(book.runs(menhir)[2].id);
    window.runPage()->stamps()->begin(otterstone::records::Mark::What::Temperature, 3600.0);
    window.resize(1280, 1060); // tall enough for the stamps below the curve
    pictures.take(QStringLiteral("about-and-stamps"));
    window.resize(1280, 800);
    QTest::keyClick(&window, Qt::Key_Escape);
    window.showRuns(menhir, book.runs(menhir)[1].id);
    for (auto* button : window.runPage()->findChildren<QPushButton*>()) {
        if (button->text() == QStringLiteral("display against truth"))
            button->click();
    }
    pictures.take(QStringLiteral("display-against-truth"));

    window.showBench();
    pictures.take(QStringLiteral("bench"));
    for (const bk::Gear& g : book.gear()) {
        if (g.name != "Pocket meter")
            continue;
        Q_EMIT window.benchPage()->gearWanted(g.id);
        auto* clock = window.gearPanel()->form()->field(QStringLiteral("Clock factor"));
        clock->setText(QStringLiteral("56 min 24 s / 1 h"));
        Q_EMIT clock->editingFinished();
        QTest::qWait(1500); // every run of the meter is worked out anew
        pictures.take(QStringLiteral("gear"));
        (void)window.session().history().undo();
    }
    QTest::keyClick(&window, Qt::Key_Escape);

    window.shelf()->select(bankNamed(book, "Pebble 5"));
    window.writeByHand(bankNamed(book, "Pebble 5"));
    window.runPage()->behaviour()->model()->paste(
        {},
        QStringLiteral(
            "Time\tV\tA\tW\tBank\t°C\tWay\n0\t5.1\t1.6\t\tfull\t\tout\n+20 min\t5.06\t1.6\t\t81\n+20 min\t5.05\t1.6\t18\t60\n+20 min\t5.05\t1.6\t\t38\t29\n+20 min\t5.04\t1.59\t\t17\n"));
    QTest::qWait(600); // its neighbours are heard
    pictures.take(QStringLiteral("by-hand"));

    liveBench(window, pictures, bankNamed(book, "Cobble 10"), false);
    behaviours(window, pictures, book);

    window.showFindings(cobble);
    QTest::qWait(800);
    window.findingsPage()->load()->setText(QStringLiteral("7 W"));
    pictures.take(QStringLiteral("findings"));
    window.showHouse();
    pictures.take(QStringLiteral("house"));
    QTest::keyClick(&window, Qt::Key_Escape);
    judgement(window, pictures, book, false);

    ui::applyTheme(ui::ThemeKind::Dark);
    window.runPage()->restyle();
    window.showRuns(cobble, cobbleRuns[2].id);
    pictures.take(QStringLiteral("run-drain-dark"));
    liveBench(window, pictures, bankNamed(book, "Cobble 10"), true);
    for (const bk::Run& run : book.runs(boulder)) {
        if (run.title == "C1 and A at once")
            window.showRuns(boulder, run.id);
    }
    QTest::keyClick(&window, Qt::Key_Escape);
    pictures.take(QStringLiteral("sharing-dark"));
    window.showRuns(cobble, cobbleRuns[0].id);
    window.runPage()->curve()->setAxis(ui::Axis::Percent);
    pictures.take(QStringLiteral("run-recharge-dark"));
    return 0;
}
