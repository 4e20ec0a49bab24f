#include "app/plan/plan_row.h"

#include <cmath>

#include <QObject>
#include <QStringList>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/judgement/purpose.h"
#include "core/plan/campaign/day_sheet.h"
#include "core/quantity/date.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace campaign = plan::campaign;

namespace {

// "Mon 09:10 – 13:20", with the second day where it is another.
QString fromTo(double from, double to, double now) {
    const bool sameDay = std::floor(from / campaign::kDay) == std::floor(to / campaign::kDay);
    return QStringLiteral("%1 – %2").arg(qs(campaign::dayAndTime(from, now)),
                                         qs(sameDay ? campaign::clockWords(to) : campaign::dayAndTime(to, now)));
}

bool has(const std::vector<campaign::JobKey>& keys, const campaign::JobKey& key) {
    return std::find(keys.begin(), keys.end(), key) != keys.end();
}

} // namespace

std::vector<PlanRow> rowsOf(const Plan& plan) {
    const bench::BookCampaign& c = plan.campaign;
    const campaign::Problem& p = c.drawn.problem;
    const campaign::Schedule& s = plan.told.answer.schedule;
    std::vector<PlanRow> rows;
    const auto nameOf = [&](long long bank) {
        const auto at = std::find(c.drawn.banks.begin(), c.drawn.banks.end(), bank);
        return at == c.drawn.banks.end() ? QString()
                                         : qs(p.banks[static_cast<std::size_t>(at - c.drawn.banks.begin())].id);
    };
    for (const campaign::Lived& l : c.lived) {
        const campaign::KeptJob& kept = c.wishes.kept.jobs[l.job];
        if (!l.run && !l.due)
            continue;
        const QString late = onScreen(showDuration(std::round(std::fabs(l.late) / 60.0) * 60.0));
        PlanRow row;
        row.key = kept.job;
        row.strength = l.run ? PlanRow::Strength::Faint : PlanRow::Strength::Warn;
        row.cells = {l.run ? QObject::tr("done, %1").arg(qs(campaign::dayAndTime(l.run->from, c.begins)))
                           : QObject::tr("late by %1").arg(late),
                     nameOf(kept.job.bank), l.run ? qs(l.run->title) : qs(kept.words), QString(),
                     l.run ? (std::fabs(l.late) < 600.0 ? QObject::tr("as planned")
                              : l.late > 0.0            ? QObject::tr("%1 late").arg(late)
                                                        : QObject::tr("%1 early").arg(late))
                           : QObject::tr("it was to begin %1")
                                 .arg(qs(campaign::dayAndTime(secondsOf(kept.from).value_or(c.begins), c.begins)))};
        rows.push_back(std::move(row));
    }
    const auto settles = [&](std::size_t job) {
        QStringList claims;
        for (const std::string& claim : c.drawn.jobs[job].claims)
            claims << qs(claim);
        return claims.isEmpty() ? QObject::tr("to bring it there") : claims.join(QStringLiteral("; "));
    };
    for (std::size_t k = 0; k < s.placed.size(); ++k) {
        const campaign::Placed& placed = s.placed[k];
        PlanRow row;
        row.key = c.drawn.jobs[placed.job].key;
        row.job = placed.job;
        row.placed = k;
        row.strength = p.jobs[placed.job].asNeeded ? PlanRow::Strength::Faint : PlanRow::Strength::Plain;
        row.cells = {fromTo(c.begins + placed.from, c.begins + placed.to, c.begins), nameOf(row.key.bank),
                     qs(c.drawn.jobs[placed.job].words) +
                         (p.jobs[placed.job].pin ? QObject::tr(", pinned") : QString()) +
                         (has(c.wishes.first, row.key) ? QObject::tr(", first of all") : QString()) +
                         (has(c.wishes.ownDay, row.key) ? QObject::tr(", a day of its own") : QString()) +
                         (has(c.wishes.wired, row.key) ? QObject::tr(", no hands needed") : QString()),
                     onScreen(gearWords(p, placed)), settles(placed.job)};
        rows.push_back(std::move(row));
    }
    for (const campaign::LeftOut& l : s.leftOut) {
        PlanRow row;
        row.key = c.drawn.jobs[l.job].key;
        row.job = l.job;
        row.strength = PlanRow::Strength::Warn;
        row.cells = {QObject::tr("left out"), nameOf(row.key.bank), qs(c.drawn.jobs[l.job].words),
                     onScreen(whyLeftOut(p, l)), QObject::tr("stays open: %1").arg(settles(l.job))};
        rows.push_back(std::move(row));
    }
    return rows;
}

QString wishesInWords(const campaign::Wishes& w) {
    QStringList aims;
    if (w.claims)
        aims << QObject::tr("what the labels claim");
    if (const judgement::Purpose* purpose = judgement::purposeNamed(w.purpose))
        aims << QObject::tr("all figures for “%1”").arg(qs(purpose->words));
    if (w.loads > 0)
        aims << QObject::tr("usable energy at %1 loads").arg(w.loads);
    if (aims.isEmpty())
        aims << QObject::tr("what was put into the plan");
    QString words = QObject::tr("To be known: %1").arg(aims.join(QStringLiteral(", ")));
    if (!w.banks.empty())
        words += w.banks.size() == 1 ? QObject::tr(", of one bank") : QObject::tr(", of %1 banks").arg(w.banks.size());
    if (w.repeats > 1)
        words += QObject::tr(", %1 times each").arg(w.repeats);
    words += QStringLiteral(" · ") + (w.hours.empty() ? QObject::tr("somebody is always there") : qs(w.hours));
    words += QStringLiteral(" · ") + (w.unattended == campaign::Unattended::Never ? QObject::tr("nothing goes on alone")
                                      : w.unattended == campaign::Unattended::Stop
                                          ? QObject::tr("alone between begin and end")
                                          : QObject::tr("alone also over night"));
    if (const auto until = secondsOf(w.until))
        words += QStringLiteral(" · ") +
                 QObject::tr("until %1 %2").arg(qs(campaign::dayWords(*until)), qs(campaign::clockWords(*until))) +
                 (w.untilWhat.empty() ? QString() : QStringLiteral(" (%1)").arg(qs(w.untilWhat)));
    return words;
}

} // namespace otterstone::app
