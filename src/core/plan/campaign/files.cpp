#include "core/plan/campaign/files.h"

#include <chrono>
#include <cmath>
#include <map>

#include "core/plan/campaign/told.h"
#include "core/quantity/format.h"

namespace otterstone::plan::campaign {

namespace {

struct CalendarMoment {
    int year, month, day, hour, minute, second;
};

CalendarMoment momentOf(double at) {
    using namespace std::chrono;
    const auto seconds = static_cast<long long>(std::llround(at));
    const auto days = static_cast<int>(std::floor(static_cast<double>(seconds) / kDay));
    const year_month_day date{sys_days{std::chrono::days{days}}};
    const auto rest = static_cast<int>(seconds - static_cast<long long>(days) * static_cast<long long>(kDay));
    return {static_cast<int>(date.year()),
            static_cast<int>(static_cast<unsigned>(date.month())),
            static_cast<int>(static_cast<unsigned>(date.day())),
            rest / 3600,
            rest / 60 % 60,
            rest % 60};
}
std::string digits(int value, int wide) {
    std::string text = std::to_string(value);
    return std::string(static_cast<std::size_t>(std::max(0, wide - static_cast<int>(text.size()))), '0') + text;
}
// "20260402T091000"
std::string stampOf(double at) {
    const CalendarMoment m = momentOf(at);
    return digits(m.year, 4) + digits(m.month, 2) + digits(m.day, 2) + "T" + digits(m.hour, 2) + digits(m.minute, 2) +
           digits(m.second, 2);
}

// RFC 5545, 3.3.11.
std::string calendarText(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (c == '\\' || c == ';' || c == ',')
            out += '\\';
        if (c == '\n')
            out += "\\n";
        else if (static_cast<unsigned char>(c) >= 0x20)
            out += c;
    }
    return out;
}
// RFC 5545, 3.1: at most 75 octets a line, none of them cut through.
void addLine(std::string& file, const std::string& line) {
    constexpr std::size_t kMost = 75;
    std::size_t room = kMost;
    for (std::size_t from = 0; from < line.size();) {
        std::size_t to = std::min(line.size(), from + room);
        while (to > from + 1 && to < line.size() && (static_cast<unsigned char>(line[to]) & 0xC0) == 0x80)
            --to;
        file += (from == 0 ? "" : " ") + line.substr(from, to - from) + "\r\n";
        from = to;
        room = kMost - 1;
    }
}

std::string gearOf(const Problem& p, const Placed& placed) {
    std::string gear;
    for (const std::size_t piece : placed.pieces)
        gear += (gear.empty() ? "" : ", ") + p.pieces[piece].id;
    return gear;
}

std::string csvCell(const std::string& text) {
    if (text.find_first_of(",\"\r\n") == std::string::npos)
        return text;
    std::string out = "\"";
    for (const char c : text)
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

} // namespace

std::string isoOf(double at) {
    const CalendarMoment m = momentOf(at);
    return digits(m.year, 4) + "-" + digits(m.month, 2) + "-" + digits(m.day, 2) + "T" + digits(m.hour, 2) + ":" +
           digits(m.minute, 2) + ":" + digits(m.second, 2);
}

std::string calendarOf(const Problem& p, const Schedule& s, const std::vector<std::string>& names, double beginsAt,
                       double stamp) {
    std::string file;
    addLine(file, "BEGIN:VCALENDAR");
    addLine(file, "VERSION:2.0");
    addLine(file, "PRODID:-//Otterstone//Campaign//EN");
    std::map<std::size_t, int> times;
    for (const Placed& placed : s.placed) {
        const Job& j = p.jobs[placed.job];
        const int time = ++times[placed.job];
        for (std::size_t h = 0; h < j.hands.size(); ++h) {
            const Span at = j.hands[h].within(j.seconds);
            addLine(file, "BEGIN:VEVENT");
            addLine(file, "UID:" + calendarText(names[placed.job]) + "-" + std::to_string(time) + "-" +
                              std::to_string(h) + "@otterstone");
            addLine(file, "DTSTAMP:" + stampOf(stamp) + "Z");
            addLine(file, "DTSTART:" + stampOf(beginsAt + placed.from + at.from));
            addLine(file, "DTEND:" + stampOf(beginsAt + placed.from + std::max(at.to, at.from + 60.0)));
            addLine(file, "SUMMARY:" + calendarText(j.id + (j.hands[h].what.empty() ? "" : ": " + j.hands[h].what)));
            if (const std::string gear = gearOf(p, placed); !gear.empty())
                addLine(file, "DESCRIPTION:" + calendarText(gear));
            addLine(file, "BEGIN:VALARM");
            addLine(file, "ACTION:DISPLAY");
            addLine(file, "DESCRIPTION:" + calendarText(j.id));
            addLine(file, "TRIGGER:-PT10M");
            addLine(file, "END:VALARM");
            addLine(file, "END:VEVENT");
        }
    }
    addLine(file, "END:VCALENDAR");
    return file;
}

std::string csvOf(const Problem& p, const Schedule& s, double beginsAt) {
    std::string file = "job,bank,kind,starts,ends,begin_state,end_state,gear,value,why\n";
    for (const Placed& placed : s.placed) {
        const Job& j = p.jobs[placed.job];
        const std::string cells[] = {j.id,
                                     j.bank ? p.banks[*j.bank].id : std::string(),
                                     j.kind,
                                     isoOf(beginsAt + placed.from),
                                     isoOf(beginsAt + placed.to),
                                     j.bank ? stateTold(placed.begin) : std::string(),
                                     j.bank ? stateTold(placed.end) : std::string(),
                                     gearOf(p, placed),
                                     showNumber(j.asNeeded ? 0.0 : j.value),
                                     whyThen(p, s, placed)};
        for (std::size_t k = 0; k < std::size(cells); ++k)
            file += (k == 0 ? "" : ",") + csvCell(cells[k]);
        file += "\n";
    }
    return file;
}

} // namespace otterstone::plan::campaign
