// A language that nobody speaks: longer, accented, in brackets. What still stands in plain letters was never offered
// for translation, and what is cut off would be in other languages, too.
#pragma once

#include <string>
#include <string_view>

#include <QString>
#include <QTranslator>

#include "core/quantity/speech.h"

namespace otterstone::testing {

inline constexpr QChar kOpens = u'⟦', kCloses = u'⟧';

/// Places ("%1", "%n", "{}"), tags, entities and mnemonics stay as they are.
inline QString inPseudo(const QString& source) {
    static const QString plain = QStringLiteral("aceginorsuyzACEGINORSUYZ"),
                         accented = QStringLiteral("áçéĝíñóřšúýžÁÇÉĜÍÑÓŘŠÚÝŽ");
    QString text;
    qsizetype letters = 0;
    for (qsizetype k = 0; k < source.size(); ++k) {
        const QChar c = source[k];
        const QChar closes = c == u'<'                                  ? u'>'
                             : c == u'{'                                ? u'}'
                             : c == u'&' && source.indexOf(u';', k) > k ? u';'
                                                                        : QChar();
        const qsizetype end = closes.isNull() ? -1 : source.indexOf(closes, k);
        if (end > k && (c != u'&' || end - k < 7)) {
            text += QStringView(source).mid(k, end - k + 1);
            k = end;
        } else if (c == u'%' && k + 1 < source.size()) {
            text += c;
            text += source[++k];
            if (source[k] == u'L' && k + 1 < source.size())
                text += source[++k];
        } else {
            const qsizetype at = plain.indexOf(c);
            text += at < 0 ? c : accented[at];
            letters += c.isLetter();
        }
    }
    return kOpens + text + QString(letters / 3, u'·') + kCloses; // German and Finnish take a third more
}

class PseudoLanguage : public QTranslator {
public:
    using QTranslator::QTranslator;
    [[nodiscard]] QString translate(const char*, const char* source, const char*, int) const override {
        return inPseudo(QString::fromUtf8(source));
    }
    [[nodiscard]] bool isEmpty() const override { return false; }
    static std::string ofCore(std::string_view pattern) {
        return inPseudo(QString::fromUtf8(pattern.data(), static_cast<qsizetype>(pattern.size()))).toStdString();
    }
};

} // namespace otterstone::testing
