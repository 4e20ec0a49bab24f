#include "core/kinds/notebook/entries.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/notebook/times.h"
#include "core/kinds/traced/heat.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kUsualCellVolts = 3.85;
constexpr std::string_view kBefore = "some time before";
constexpr double kLowDisplay = 25.0; // points: what goes off below had little left; the last of four lights

// What testers write as well.
constexpr EventName kAlso[] = {
    {Event::PluggedIn, "plugged"},  {Event::PluggedIn, "connected"}, {Event::Unplugged, "disconnected"},
    {Event::Unplugged, "pulled"},   {Event::Stopped, "paused"},      {Event::Stopped, "stopped charging"},
    {Event::Resumed, "went on"},    {Event::Resumed, "restarted"},   {Event::Resumed, "charging again"},
    {Event::Replug, "replugged"},   {Event::Full, "fully charged"},  {Event::Died, "dead"},
    {Event::Died, "flat"},          {Event::Died, "empty"},          {Event::Died, "ran out"},
    {Event::WentOff, "off"},        {Event::WentOff, "shut off"},    {Event::WentOff, "switched off"},
    {Event::WentOff, "turned off"}, {Event::WentOff, "shut down"},   {Event::WentOff, "cut off"},
    {Event::WentOff, "cut-off"}};

std::string withoutEnd(std::string_view text, std::string_view end) {
    return std::string(trimmed(text.substr(0, text.size() - end.size())));
}

std::optional<Event> eventOf(std::string_view words) {
    for (const EventName& e : kEvents) {
        if (words == e.words)
            return e.event;
    }
    for (const EventName& e : kAlso) {
        if (words == e.words)
            return e.event;
    }
    return std::nullopt;
}

// Cells of one cell, divided by commas that are none of a number, or semicolons.
std::vector<std::string> piecesOf(std::string_view text) {
    std::vector<std::string> all(1);
    for (std::size_t k = 0; k < text.size(); ++k) {
        const bool inNumber =
            text[k] == ',' && k + 1 < text.size() && std::isdigit(static_cast<unsigned char>(text[k + 1])) != 0;
        if (text[k] == ';' || text[k] == '/' || (text[k] == ',' && !inNumber))
            all.emplace_back();
        else
            all.back() += text[k];
    }
    for (std::string& piece : all)
        piece = std::string(trimmed(piece));
    std::erase(all, std::string());
    return all;
}

Result<Look> lookOf(const std::string& text) {
    std::string t = text;
    // "3 of 4 blinking" says three to four of them.
    const bool blinking = t.ends_with("blinking");
    if (blinking)
        t = withoutEnd(t, "blinking");
    const auto state = records::parseState(t);
    if (!state)
        return tl::unexpected(state.error());
    Look l;
    l.state = *state;
    l.leds = state->high > state->low;
    l.exact = t == "full" || t == "empty";
    if (!l.leds && state->high > 100.0)
        return problem("above_hundred", "", "a display says 0 to 100 %.", "");
    return l;
}

// "4/4" beside "4 of 4"; a slash divides pieces elsewhere.
std::string withOf(std::string_view text) {
    std::string t = lowered(trimmed(text));
    const std::size_t at = t.find('/');
    const auto isDigit = [&t](std::size_t k) {
        return k < t.size() && std::isdigit(static_cast<unsigned char>(t[k])) != 0;
    };
    if (at != std::string::npos && at > 0 && isDigit(at - 1) && isDigit(at + 1))
        t.replace(at, 1, " of ");
    return t;
}

} // namespace

Result<Shown> readShown(std::string_view text) {
    Shown shown;
    for (std::string piece : piecesOf(withOf(text))) {
        if (piece.ends_with(kBefore)) {
            shown.timeBefore = true;
            piece = withoutEnd(piece, kBefore);
        }
        if (piece.ends_with("left")) {
            const auto left = parseDuration(withoutEnd(piece, "left"), {}, 60.0);
            if (!left)
                return tl::unexpected(left.error());
            if (!shown.look)
                return problem("bad_state", "", "what is left stands behind the percent.", "Write 60 %, 25 min left.");
            shown.look->left = *left;
            continue;
        }
        if (piece != "full" && piece != "empty") { // those are states
            if (const auto event = eventOf(piece)) {
                shown.event = event;
                continue;
            }
            // "83 % stopped" is two pieces.
            const std::size_t word = piece.find_last_of(' ');
            const auto event = word == std::string::npos ? std::nullopt : eventOf(piece.substr(word + 1));
            if (event) {
                shown.event = event;
                piece = std::string(trimmed(piece.substr(0, word)));
            }
        }
        auto look = lookOf(piece);
        if (!look)
            return tl::unexpected(look.error());
        shown.look = *look;
    }
    return shown;
}

NotedDevice readDevice(const std::string& heading, const std::vector<setup::KnownDevice>& known) {
    NotedDevice d;
    std::optional<double> wattHours, milliampHours, volts, health;
    std::vector<std::string> words;
    std::string word;
    for (const char c : heading + " ") {
        if (c != ' ' && c != '(' && c != ')' && c != '@') {
            word += c;
            continue;
        }
        if (!word.empty())
            words.push_back(std::exchange(word, {}));
    }
    for (std::size_t k = 0; k < words.size(); ++k) {
        std::string w = words[k];
        while (w.ends_with(',') || w.ends_with(';'))
            w.pop_back();
        const std::size_t unitAt = std::min(w.find_first_not_of("0123456789.,"), w.size());
        std::string unit = lowered(w.substr(unitAt));
        const auto number = parseNumber(w.substr(0, unitAt), {}, Expect::WholeNumber);
        const bool apart = unit.empty() && k + 1 < words.size();
        if (apart) {
            unit = lowered(words[k + 1]);
            while (unit.ends_with(',') || unit.ends_with(';'))
                unit.pop_back();
        }
        std::optional<double>* into = unit == "wh"                    ? &wattHours
                                      : unit == "mah" || unit == "ah" ? &milliampHours
                                      : unit == "v"                   ? &volts
                                      : unit == "%"                   ? &health
                                                                      : nullptr;
        if (number && *number > 0.0 && into) {
            *into = unit == "ah" ? *number * 1000.0 : *number;
            k += apart ? 1 : 0;
        } else if (lowered(w) != "health" && lowered(w) != "at") {
            d.name += (d.name.empty() ? "" : " ") + words[k];
        }
    }
    while (d.name.ends_with(',') || d.name.ends_with(';') || d.name.ends_with('%'))
        d.name.pop_back();
    d.name = std::string(trimmed(d.name));
    if (d.name.empty())
        d.name = say("the device");
    if (milliampHours && !wattHours) {
        wattHours = *milliampHours * volts.value_or(kUsualCellVolts) / 1000.0;
        d.how = say("{} mAh × {} V ÷ 1000{}", showNumber(*milliampHours), showNumber(volts.value_or(kUsualCellVolts)),
                    (volts ? "" : say(", the volts of its cell taken as usual")));
    }
    if (!wattHours) {
        const auto at = std::ranges::find_if(
            known, [&d](const setup::KnownDevice& k) { return lowered(k.name) == lowered(d.name); });
        if (at != known.end())
            wattHours = at->wattHours;
    }
    if (wattHours && health) {
        d.how = say("{} × {} % health", (d.how.empty() ? say("{} Wh", showNumber(*wattHours)) : d.how),
                    showNumber(*health));
        *wattHours *= *health / 100.0;
    }
    d.wattHours = wattHours;
    return d;
}

bool Entry::was(Event event, std::optional<std::size_t> device) const {
    return std::ranges::any_of(
        happened, [&](const Happened& h) { return h.event == event && (!device || !h.device || h.device == device); });
}

namespace {

class NotesReader {
public:
    NotesReader(const Sheet& sheet, const setup::Facts& facts, std::vector<Remark>& remarks)
        : columns_(columnsOf(sheet)), rows_(sheet, remarks) {
        for (const std::string& heading : sheet.devices) {
            // The only one, and not named, is the one that the run was into.
            if (sheet.devices.size() == 1 && lowered(trimmed(heading)) == "device" && !facts.device.empty())
                notes_.devices.push_back({facts.device, facts.deviceWattHours, {}});
            else
                notes_.devices.push_back(readDevice(heading, facts.devices));
        }
    }

    Notes read() {
        while (rows_.next())
            readRow();
        return std::move(notes_);
    }

private:
    void remark(std::string_view key, const Problem& p) { rows_.remark(key, p.code, p.text, p.mend); }

    void readRow() {
        // A row of nothing but a note is a note.
        bool any = false;
        for (const Column& c : columns_)
            any = any || (c.key != "note" && c.key != "way" && !rows_.empty(c.key));
        if (!any)
            return;
        const auto at = times_.next(rows_.text("time"));
        if (!at)
            return remark("time", at.error());
        Entry e;
        e.row = rows_.at();
        e.at = *at;
        e.volts = rows_.number("v") ? rows_.text("v") : "";
        e.amps = rows_.number("a") ? rows_.text("a") : "";
        e.watts = rows_.number("w") ? rows_.text("w") : "";
        e.note = rows_.text("note");
        e.wattHours = rows_.number("wh");
        e.milliampHours = rows_.number("mah");
        e.wattHoursDigit = rows_.digit("wh");
        e.way = rows_.choice("way");
        readCelsius(e);
        if (const auto shown = shownIn("bank", e, std::nullopt)) {
            e.bank = shown->look;
            if (e.bank)
                e.bank->left = rows_.seconds("left") ? rows_.seconds("left") : e.bank->left;
        }
        for (std::size_t k = 0; k < notes_.devices.size(); ++k) {
            const auto shown = shownIn(deviceKey(k), e, k);
            e.devices.push_back(shown ? shown->look : std::nullopt);
            if (e.devices.back())
                e.devices.back()->celsius = celsiusOf(e, notes_.devices[k].name);
        }
        readHappened(e);
        notes_.entries.push_back(std::move(e));
    }

    std::optional<Shown> shownIn(std::string_view key, Entry& e, std::optional<std::size_t> device) {
        const std::string text = rows_.text(key);
        if (text.empty())
            return std::nullopt;
        auto shown = readShown(text);
        if (!shown) {
            remark(key, shown.error());
            return std::nullopt;
        }
        if (shown->look) {
            shown->look->at = e.at;
            shown->look->row = e.row;
        }
        if (shown->event)
            e.happened.push_back({*shown->event, shown->timeBefore, device});
        return *shown;
    }

    // "38", "back 38", "Phone 38, bank 31".
    void readCelsius(Entry& e) {
        for (const std::string& piece : piecesOf(rows_.text("celsius"))) {
            const std::size_t digit = piece.find_first_of("0123456789-");
            const auto value = parseTemperature(digit == std::string::npos ? std::string_view(piece)
                                                                           : std::string_view(piece).substr(digit));
            if (!value) {
                remark("celsius", value.error());
                continue;
            }
            e.celsius.emplace_back(lowered(trimmed(std::string_view(piece).substr(0, digit))), *value);
        }
    }

    // Of this device by name; or what stands there without a place, or as a device's back, where it is the only one.
    [[nodiscard]] std::optional<double> celsiusOf(const Entry& e, const std::string& name) const {
        for (const auto& [where, value] : e.celsius) {
            if (where == lowered(name) ||
                (notes_.devices.size() == 1 && (where.empty() || where == "back" || where == "device")))
                return value;
        }
        return std::nullopt;
    }

    [[nodiscard]] static Look toldItself(const Entry& e, records::State state) {
        Look look;
        look.at = e.at;
        look.state = state;
        look.exact = true;
        look.row = e.row;
        return look;
    }

    // "stopped", "Phone full", "died some time before".
    void readHappened(Entry& e) {
        for (const std::string& piece : piecesOf(rows_.text("happened"))) {
            std::string t = lowered(piece);
            if (t.starts_with("the "))
                t.erase(0, 4);
            Happened h;
            h.timeBefore = t.ends_with(kBefore);
            if (h.timeBefore)
                t = withoutEnd(t, kBefore);
            for (std::size_t k = 0; k < notes_.devices.size(); ++k) {
                const std::string name = lowered(notes_.devices[k].name);
                if (!t.starts_with(name) || t.size() <= name.size() + 1 ||
                    (h.device && notes_.devices[*h.device].name.size() >= name.size()))
                    continue;
                h.device = k;
            }
            if (h.device) {
                t = t.substr(notes_.devices[*h.device].name.size());
                t.erase(0, std::min(t.find_first_not_of(" :"), t.size()));
            } else if (t.starts_with("bank ")) {
                t = t.substr(5);
            }
            const auto event = eventOf(t);
            if (!event) {
                std::string words;
                for (const EventName& known : kEvents)
                    words += (words.empty() ? "" : ", ") + std::string(known.words);
                rows_.remark(
                    "happened", "unknown_word", say("“{}” is none of its words.", piece),
                    say("Write one of: {}; with the device before it, or “some time before” behind. Anything else is a note.",
                        words));
                continue;
            }
            h.event = *event;
            const bool ofOne = h.event == Event::Full || h.event == Event::Unplugged || h.event == Event::PluggedIn ||
                               h.event == Event::Stopped;
            if (ofOne && !h.device && notes_.devices.size() == 1) // there is no other
                h.device = 0;
            e.happened.push_back(h);
        }
        // "Phone full" says what its column would.
        for (const Happened& h : e.happened) {
            if (h.event != Event::Full)
                continue;
            const Look full = toldItself(e, records::State::full());
            if (h.device && !e.devices[*h.device])
                e.devices[*h.device] = full;
            else if (!h.device && !e.bank && notes_.devices.empty())
                e.bank = full;
        }
        bankEnded(e);
    }

    // Of one that went off its last display may still say how little was left, and else nothing is known.
    void bankEnded(Entry& e) {
        const auto bank = [&e](Event event) {
            return std::ranges::any_of(e.happened,
                                       [event](const Happened& h) { return h.event == event && !h.device; });
        };
        const bool died = bank(Event::Died);
        if (!died && !bank(Event::WentOff)) {
            // One that is looked at or wakened afterwards did not end so.
            if (e.bank || e.was(Event::Button) || e.was(Event::Replug) || e.was(Event::Resumed) ||
                e.was(Event::PluggedIn)) {
                notes_.offEarly.reset();
                notes_.wentOff = false;
            }
            return;
        }
        std::optional<Look> before = e.bank;
        for (auto earlier = notes_.entries.rbegin(); !before && earlier != notes_.entries.rend(); ++earlier)
            before = earlier->bank;
        if (before && before->state.high > kLowDisplay)
            notes_.offEarly = {*before, died};
        if (died || (before && before->state.isEmpty())) {
            if (!e.bank || !e.bank->state.isEmpty())
                e.bank = toldItself(e, records::State::empty());
        } else if (!before) {
            notes_.wentOff = true;
        } else if (!e.bank && !notes_.offEarly) {
            e.bank = toldItself(e, {0.0, before->state.high});
            e.bank->exact = false;
            e.bank->leds = e.bank->wentOff = true; // a bound, as lights are
        }
    }

    const std::vector<Column> columns_;
    Rows rows_;
    Times times_;
    Notes notes_;
};

} // namespace

Notes readNotes(const Sheet& sheet, const setup::Facts& facts, std::vector<Remark>& remarks) {
    return NotesReader(sheet, facts, remarks).read();
}

} // namespace otterstone::kinds
