#include "app/help/figure_words.h"

#include <QHash>
#include <QRegularExpression>

#include "app/help/help_panel.h"
#include "app/theme.h"

namespace otterstone::app {

namespace {

// "- **name** (`key`, `key`): what it is."; one line may tell of several, each with its keys.
QHash<QString, QString> readPage() {
    static const QRegularExpression entry(QStringLiteral("^- (\\*\\*.+?\\)): (.+)$")),
        key(QStringLiteral("`([a-z0-9_]+)`"));
    QHash<QString, QString> words;
    for (const QString& line : guidePage(QStringLiteral("figures.md")).split(QLatin1Char('\n'))) {
        const auto found = entry.match(line);
        if (!found.hasMatch())
            continue;
        const QString what = found.captured(2);
        for (auto keys = key.globalMatch(found.captured(1)); keys.hasNext();)
            words.insert(keys.next().captured(1), what.left(1).toUpper() + what.mid(1));
    }
    return words;
}

} // namespace

QString figureWords(const std::string& key) {
    static const QHash<QString, QString> kWords = readPage();
    return kWords.value(qs(key.substr(0, key.find(':'))));
}

QString figureTip(const std::string& key, const QString& more) {
    const QString words = figureWords(key);
    return words.isEmpty() ? more
                           : QStringLiteral("<p>%1</p><p>%2</p>").arg(words.toHtmlEscaped(), more.toHtmlEscaped());
}

} // namespace otterstone::app
