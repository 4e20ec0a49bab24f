#include "book/store/damage.h"

#include <cmath>

#include <QSqlField>
#include <QSqlRecord>
#include <QVariant>

#include "core/quantity/parse.h"

namespace otterstone::book {

double checkedFigure(double value, const std::string& where) {
    if (!(std::fabs(value) <= kLargestFigure))
        throw Damage(where, "no figure has this number");
    return value;
}

std::string inShort(const QVariant& cell) {
    constexpr qsizetype kMost = 60;
    const QString whole = cell.typeId() == QMetaType::QByteArray ? QString::fromUtf8(cell.toByteArray().left(4 * kMost))
                                                                 : cell.toString().left(4 * kMost);
    QString shown;
    for (const QChar c : whole) {
        if (c.isPrint())
            shown += c;
    }
    return (shown.size() > kMost ? shown.left(kMost) + QStringLiteral("…") : shown).toStdString();
}

std::string Row::name(int at) const { return query_.record().fieldName(at).toStdString(); }

double Row::number(int at) const {
    const QVariant v = query_.value(at);
    if (v.isNull() ||
        (v.typeId() != QMetaType::Double && v.typeId() != QMetaType::LongLong && v.typeId() != QMetaType::Int))
        throw Damage(name(at), "this should be a number");
    return checkedFigure(v.toDouble(), name(at));
}

std::optional<double> Row::maybe(int at) const { return empty(at) ? std::nullopt : std::optional(number(at)); }

long long Row::whole(int at) const {
    const QVariant v = query_.value(at);
    if (v.isNull() || (v.typeId() != QMetaType::LongLong && v.typeId() != QMetaType::Int))
        throw Damage(name(at), "this should be a whole number");
    return v.toLongLong();
}

std::optional<long long> Row::maybeWhole(int at) const { return empty(at) ? std::nullopt : std::optional(whole(at)); }

bool Row::flag(int at) const {
    const long long v = whole(at);
    if (v != 0 && v != 1)
        throw Damage(name(at), "this should be 0 or 1");
    return v == 1;
}

std::string Row::text(int at) const {
    const QVariant v = query_.value(at);
    if (v.isNull() || v.typeId() != QMetaType::QString)
        throw Damage(name(at), "this should be a text");
    const QString s = v.toString();
    if (s.size() > kLongestText)
        throw Damage(name(at), "this text is longer than any of ours");
    return s.toStdString();
}

QByteArray Row::blob(int at) const {
    const QVariant v = query_.value(at);
    if (v.isNull())
        return {};
    if (v.typeId() != QMetaType::QByteArray)
        throw Damage(name(at), "this should be a blob");
    return v.toByteArray();
}

} // namespace otterstone::book
