#include "book/store/damage.h"

#include <cmath>

#include <QString>

#include "book/store/sql.h"
#include "core/quantity/parse.h"

namespace otterstone::book {

double checkedFigure(double value, const std::string& where) {
    if (!(std::fabs(value) <= kLargestFigure))
        throw Damage(where, "no figure has this number");
    return value;
}

std::string inShort(const Cell& cell) {
    constexpr qsizetype kMost = 60;
    const QString whole = QString::fromUtf8(cell.bytes().left(4 * kMost));
    QString shown;
    for (const QChar c : whole) {
        if (c.isPrint())
            shown += c;
    }
    return (shown.size() > kMost ? shown.left(kMost) + QStringLiteral("…") : shown).toStdString();
}

bool Row::empty(int at) const { return answer_.value(at).isNull(); }

double Row::number(int at) const {
    const Cell cell = answer_.value(at);
    if (!cell.isNumber())
        throw Damage(cell.name(), "this should be a number");
    return std::fabs(cell.number()) <= kLargestFigure ? cell.number() : checkedFigure(cell.number(), cell.name());
}

std::optional<double> Row::maybe(int at) const { return empty(at) ? std::nullopt : std::optional(number(at)); }

long long Row::whole(int at) const {
    const Cell cell = answer_.value(at);
    if (!cell.isWhole())
        throw Damage(cell.name(), "this should be a whole number");
    return cell.whole();
}

std::optional<long long> Row::maybeWhole(int at) const { return empty(at) ? std::nullopt : std::optional(whole(at)); }

bool Row::flag(int at) const {
    const long long v = whole(at);
    if (v != 0 && v != 1)
        throw Damage(answer_.value(at).name(), "this should be 0 or 1");
    return v == 1;
}

std::string Row::text(int at) const {
    const Cell cell = answer_.value(at);
    if (!cell.isText())
        throw Damage(cell.name(), "this should be a text");
    if (cell.size() > kLongestText)
        throw Damage(cell.name(), "this text is longer than any of ours");
    return cell.text();
}

QByteArray Row::blob(int at) const {
    const Cell cell = answer_.value(at);
    if (cell.isNull())
        return {};
    if (!cell.isBlob())
        throw Damage(cell.name(), "this should be a blob");
    return cell.bytes();
}

} // namespace otterstone::book
