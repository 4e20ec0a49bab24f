#include "core/plan/campaign/day_sheet.h"

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>

#include "core/plan/campaign/files.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

constexpr std::array<const char*, 7> kDays{"Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"};
constexpr std::array<const char*, 12> kMonths{"Jan", "Feb", "Mar", "Apr", "May", "Jun",
                                              "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"};
constexpr double kSoon = 60.0; // s: what begins within is begun now

std::chrono::sys_days dayAt(double at) {
    return std::chrono::sys_days{std::chrono::days{static_cast<int>(std::floor(at / kDay))}};
}
std::string weekday(double at) { return sayAsItStands(kDays[std::chrono::weekday{dayAt(at)}.c_encoding()]); }
std::string monthDay(double at) {
    const std::chrono::year_month_day date{dayAt(at)};
    return std::to_string(static_cast<unsigned>(date.day())) + " " +
           sayAsItStands(kMonths[static_cast<unsigned>(date.month()) - 1]);
}

std::string htmlText(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (c == '&')
            out += "&amp;";
        else if (c == '<')
            out += "&lt;";
        else if (c == '>')
            out += "&gt;";
        else
            out += c;
    }
    return out;
}

struct Moment {
    double at;
    const Placed* placed;
    const Hands* hands;
    bool begins;
};

std::vector<Moment> momentsOf(const Problem& p, const Schedule& s) {
    std::vector<Moment> all;
    for (const Placed& placed : s.placed) {
        const Job& j = p.jobs[placed.job];
        for (const Hands& h : j.hands)
            all.push_back({placed.from + h.within(j.seconds).from, &placed, &h, &h == &j.hands.front()});
    }
    std::stable_sort(all.begin(), all.end(), [](const Moment& a, const Moment& b) { return a.at < b.at; });
    return all;
}

} // namespace

std::string clockWords(double at) { return isoOf(std::round(at / 60.0) * 60.0).substr(11, 5); }

std::string dayWords(double at) { return weekday(at) + " " + monthDay(at) + " " + isoOf(at).substr(0, 4); }

std::string dayAndTime(double at, double now) {
    at = std::round(at / 60.0) * 60.0;
    const bool near = std::fabs(at - now) < 6.0 * kDay;
    return weekday(at) + " " + (near ? "" : monthDay(at) + " ") + clockWords(at);
}

std::string gearWords(const Problem& p, const Placed& placed) {
    std::string words;
    for (std::size_t n = 0; n < placed.pieces.size(); ++n)
        words += (n == 0 ? "" : n + 1 == placed.pieces.size() ? say(" and ") : ", ") + p.pieces[placed.pieces[n]].id;
    return words;
}

std::string nowAndNext(const Problem& p, const Schedule& s, double beginsAt) {
    const auto job = [&](const Placed& placed) {
        const std::string gear = gearWords(p, placed);
        return gear.empty() ? p.jobs[placed.job].id : say("{}, on {}", p.jobs[placed.job].id, gear);
    };
    std::string now;
    const Placed* first = nullptr;
    for (const Placed& placed : s.placed) {
        if (placed.from <= kSoon)
            now += (now.empty() ? "" : "; ") + job(placed);
        else if (!first || placed.from < first->from)
            first = &placed;
    }
    if (!first)
        return now.empty() ? std::string() : say("Now: {}.", now);
    const std::string when = dayAndTime(beginsAt + first->from, beginsAt);
    return now.empty() ? say("First, {}: {}.", when, job(*first))
                       : say("Now: {}. Next, {}: {}.", now, when, job(*first));
}

std::string daySheetOf(const DrawnUp& drawn, const Told& told, double beginsAt) {
    const Problem& p = drawn.problem;
    const Schedule& s = told.answer.schedule;
    std::string html = "<!DOCTYPE html>\n<html><head><meta charset=\"utf-8\"><title>" + htmlText(say("Day sheet")) +
                       "</title><style>"
                       "body{font-family:Inter,sans-serif;font-size:10pt;color:#1c2529}"
                       "table{border-collapse:collapse;width:100%}td,th{border-bottom:1px solid #b8c2c6;"
                       "padding:4px 8px 4px 0;text-align:left;vertical-align:top}h1{font-size:16pt}h2{font-size:12pt}"
                       "</style></head><body>\n<h1>" +
                       htmlText(say("Day sheet from {}, {}", dayWords(beginsAt), clockWords(beginsAt))) + "</h1>\n<p>" +
                       htmlText(sentenceOf(p, told)) + "</p>\n";
    if (const std::string now = nowAndNext(p, s, beginsAt); !now.empty())
        html += "<p><b>" + htmlText(now) + "</b></p>\n";
    for (const std::string& caution : cautionsOf(p, s))
        html += "<p>" + htmlText(caution) + "</p>\n";
    std::string day;
    for (const Moment& m : momentsOf(p, s)) {
        const std::string of = dayWords(beginsAt + m.at);
        if (of != day) {
            html += (day.empty() ? "" : "</table>\n") + std::string("<h2>") + htmlText(of) + "</h2>\n<table><tr>";
            for (const std::string& head : {say("At"), say("Hands"), say("Run"), say("Lay out"), say("Done")})
                html += "<th>" + htmlText(head) + "</th>";
            html += "</tr>\n";
            day = of;
        }
        const Job& j = p.jobs[m.placed->job];
        html += "<tr><td>" + clockWords(beginsAt + m.at) + "</td><td>" + htmlText(m.hands->what) + "</td><td>" +
                htmlText(j.id) +
                (m.begins && j.bank ? ": " + stateTold(m.placed->begin) + " → " + stateTold(m.placed->end) : "") +
                "</td><td>" + (m.begins ? htmlText(gearWords(p, *m.placed)) : "") + "</td><td>☐</td></tr>\n";
    }
    html += day.empty() ? "" : "</table>\n";
    if (!s.leftOut.empty()) {
        html += "<h2>" + htmlText(say("Left out")) + "</h2>\n<ul>\n";
        for (const LeftOut& l : s.leftOut) {
            html += "<li>" + htmlText(p.jobs[l.job].id + ": " + whyLeftOut(p, l));
            const auto& unsettled = drawn.jobs[l.job].claims;
            for (std::size_t k = 0; k < unsettled.size(); ++k)
                html += htmlText((k == 0 ? say(". It leaves open: ") : "; ") + unsettled[k]);
            html += "</li>\n";
        }
        html += "</ul>\n";
    }
    return html + "</body></html>\n";
}

} // namespace otterstone::plan::campaign
