// otterstone-report: draws a sheet as HTML or PDF without a display. otterstone-cli hands over to it; its exit codes
// are the command line's contract.
#include <cstdio>

#include <QApplication>
#include <QCommandLineParser>
#include <QDateTime>
#include <QFile>

#include "app/report/publish.h"
#include "app/theme.h"
#include "book/exchange/bundle.h"
#include "book/store/material.h"
#include "core/quantity/version.h"

namespace {

namespace os = otterstone;

constexpr int kUsage = 2, kInput = 3, kOutput = 4;

int complain(const os::Problem& problem, int code) {
    std::fprintf(stderr, "otterstone-cli: %s\n", problem.sentence().c_str());
    return code;
}

} // namespace

int main(int argc, char** argv) {
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication app(argc, argv);
    os::app::applyTheme(os::app::ThemeKind::Light);
    QApplication::setApplicationVersion(QString::fromStdString(os::versionWithCommit()));
    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral(
        "Draws a sheet of a book as HTML or PDF, without a display. “otterstone-cli report” hands over to it."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addOptions(
        {{QStringLiteral("bank"), QStringLiteral("Of this bank; several: held side by side."), QStringLiteral("name")},
         {QStringLiteral("purpose"), QStringLiteral("What they are compared for."), QStringLiteral("name")},
         {QStringLiteral("publish"), QStringLiteral("Keep in the book what was published.")},
         {QStringLiteral("bundle"), QStringLiteral("With the runs as a bundle beside it.")}});
    parser.addPositionalArgument(QStringLiteral("book"), QStringLiteral("The book."));
    parser.addPositionalArgument(QStringLiteral("file"), QStringLiteral("FILE.html or FILE.pdf."));
    parser.process(app);
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
    auto material = os::book::gatherMaterial((*book)->path(), ids,
                                             QDateTime::currentDateTime().toString(Qt::ISODate).toStdString());
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
    if (auto written = os::app::writeSheet(**book, *material, content, file); !written)
        return complain(written.error(), kOutput);
    if (parser.isSet(QStringLiteral("bundle"))) {
        if (auto done = os::book::exportBundle(**book, file + QStringLiteral(".bundle")); !done)
            return complain(done.error(), kOutput);
    }
    if (parser.isSet(QStringLiteral("publish"))) {
        if (auto kept = os::book::rememberPublished(**book, *material, content); !kept)
            return complain(kept.error(), kOutput);
    }
    return 0;
}
