// otterstone-report: what needs a library that draws, without a display: a sheet as HTML or PDF, and photographs on
// their way into a book. otterstone-cli hands over to it; its exit codes are the command line's contract.
#include <algorithm>
#include <cstring>
#include <iostream>
#include <memory>

#include <QApplication>
#include <QCommandLineParser>
#include <QDateTime>
#include <QFile>

#include "app/report/publish.h"
#include "app/theme.h"
#include "book/attached/attachments.h"
#include "book/exchange/bundle.h"
#include "book/store/material.h"
#include "core/quantity/version.h"
#include "pictures/shrink.h"
#include "terminal/busy.h"
#include "terminal/plainly.h"

namespace {

namespace os = otterstone;

constexpr int kUsage = 2, kInput = 3, kOutput = 4;

int complain(const os::Problem& problem, int code) {
    std::cerr << "otterstone-cli: " << problem.sentence() << "\n";
    return code;
}

// A sheet of some banks, or of them side by side.
int draw(const QCommandLineParser& parser) {
    if (parser.positionalArguments().size() != 2)
        return complain({"bad_usage", "otterstone-report", "give a book and a file.", ""}, kUsage);
    const QString path = parser.positionalArguments().at(0), file = parser.positionalArguments().at(1);
    auto book = parser.isSet(QStringLiteral("publish")) ? os::book::Book::open(path) : os::book::Book::openToRead(path);
    if (!book)
        return complain(book.error(), kInput);
    std::vector<os::book::Id> ids;
    for (const QString& name : parser.values(QStringLiteral("bank"))) {
        const auto banks = (*book)->banks();
        const auto at = std::find_if(banks.begin(), banks.end(),
                                     [&](const os::book::Bank& b) { return b.name == name.toStdString(); });
        if (at == banks.end())
            return complain({"no_bank", path.toStdString(),
                             "there is no bank “" + name.toStdString() + "” in this book.",
                             "The findings subcommand lists them."},
                            kInput);
        ids.push_back(at->id);
    }
    auto material = os::terminal::busyWith(os::terminal::kJudging, [&] {
        return os::book::gatherMaterial((*book)->path(), ids,
                                        QDateTime::currentDateTime().toString(Qt::ISODate).toStdString());
    });
    if (!material)
        return complain(material.error(), kInput);
    if (const QString purpose = parser.value(QStringLiteral("purpose")); !purpose.isEmpty()) {
        if (const auto* known = os::judgement::purposeNamed(purpose.toStdString())) {
            material->purpose = *known;
        } else {
            QFile own(purpose);
            if (!own.open(QIODevice::ReadOnly))
                return complain(
                    {"bad_option", "--purpose", "“" + purpose.toStdString() + "” is neither a purpose nor a file.", ""},
                    kUsage);
            auto read = os::judgement::purposeFromJson(own.readAll().toStdString(), purpose.toStdString());
            if (!read)
                return complain(read.error(), kUsage);
            material->purpose = std::move(*read);
        }
    }
    const os::report::Content content = os::report::makeContent(*material);
    if (auto written = os::terminal::busyWith("Drawing the sheet",
                                              [&] { return os::app::writeSheet(**book, *material, content, file); });
        !written)
        return complain(written.error(), kOutput);
    if (parser.isSet(QStringLiteral("bundle"))) {
        if (auto done = os::terminal::busyWith(
                "Writing the bundle", [&] { return os::book::exportBundle(**book, file + QStringLiteral(".bundle")); });
            !done)
            return complain(done.error(), kOutput);
    }
    if (parser.isSet(QStringLiteral("publish"))) {
        if (auto kept = os::book::rememberPublished(**book, *material, content); !kept)
            return complain(kept.error(), kOutput);
    }
    return 0;
}

// Photographs and files into a book, for “otterstone-cli attach”, which knows no picture.
int attach(const QCommandLineParser& parser) {
    QStringList files = parser.positionalArguments();
    if (files.size() < 2)
        return complain({"bad_usage", "otterstone-report", "give a book and a file.", ""}, kUsage);
    auto book = os::book::Book::open(files.takeFirst());
    if (!book)
        return complain(book.error(), kInput);
    const auto idOf = [&parser](const QString& option) {
        return parser.isSet(option) ? parser.value(option).toLongLong() : os::records::kNew;
    };
    for (const QString& file : files) {
        auto prepared = os::terminal::busyWith("Reading the files", [&] { return os::pictures::preparedFile(file); });
        if (!prepared)
            return complain(prepared.error(), kInput);
        os::records::Attachment& a = prepared->attachment;
        a.onSheet = parser.isSet(QStringLiteral("on-sheet"));
        if (a.onSheet && !a.isPicture())
            return complain({"bad_option", a.name, "only pictures can be on a sheet.", "Leave --on-sheet out."},
                            kUsage);
        a.bank = idOf(QStringLiteral("of-bank"));
        a.run = idOf(QStringLiteral("of-run"));
        a.caption = parser.value(QStringLiteral("caption")).toStdString();
        a.addedAt = QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString();
        const auto id = os::book::attach(**book, *prepared);
        if (!id)
            return complain(id.error(), kOutput);
        std::cout << *id << ": " << a.name << ", " << a.type << ", " << a.size << " bytes";
        if (a.isPicture())
            std::cout << ", " << a.width << " × " << a.height << " pixels";
        std::cout << "\n";
    }
    return std::cout.flush() ? 0 : kOutput;
}

} // namespace

int main(int argc, char** argv) {
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    os::terminal::printPlainly();
    // What draws nothing needs no platform, and starts in a tenth of the time.
    const bool attaches = argc > 1 && std::strcmp(argv[1], "--attach") == 0; // where otterstone-cli puts it
    const std::unique_ptr<QCoreApplication> app(attaches ? new QCoreApplication(argc, argv)
                                                         : new QApplication(argc, argv));
    if (!attaches)
        os::app::applyTheme(os::app::ThemeKind::Light);
    QCoreApplication::setApplicationVersion(QString::fromStdString(os::versionWithCommit()));
    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral(
        "Draws a sheet of a book as HTML or PDF, and takes photographs into a book, without a display. “otterstone-cli report” and “attach” hand over to it."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addOptions(
        {{QStringLiteral("bank"), QStringLiteral("Of this bank; several: held side by side."), QStringLiteral("name")},
         {QStringLiteral("purpose"), QStringLiteral("What they are compared for."), QStringLiteral("name")},
         {QStringLiteral("publish"), QStringLiteral("Keep in the book what was published.")},
         {QStringLiteral("bundle"), QStringLiteral("With the runs as a bundle beside it.")},
         {QStringLiteral("attach"), QStringLiteral("Draw nothing: attach photographs and files to a bank or a run.")},
         {QStringLiteral("of-bank"), QStringLiteral("With --attach: to this bank."), QStringLiteral("number")},
         {QStringLiteral("of-run"), QStringLiteral("With --attach: to this run."), QStringLiteral("number")},
         {QStringLiteral("caption"), QStringLiteral("With --attach: what it shows."), QStringLiteral("words")},
         {QStringLiteral("on-sheet"), QStringLiteral("With --attach: show it on the bank’s sheet.")}});
    parser.addPositionalArgument(QStringLiteral("book"), QStringLiteral("The book."));
    parser.addPositionalArgument(QStringLiteral("file"),
                                 QStringLiteral("FILE.html or FILE.pdf; with --attach: what is attached."),
                                 QStringLiteral("file..."));
    parser.process(*app);
    return parser.isSet(QStringLiteral("attach")) ? attach(parser) : draw(parser);
}
