#include "bench/profiles/profile.h"

#include <algorithm>
#include <charconv>

#include "bench/instruments/builtin_instruments.h"
#include "core/quantity/json_fields.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr const char* kProfileFormat = "otterstone-instrument";
const std::vector<std::string> kKinds = {"meter", "load", "trigger", "thermometer"};
const std::vector<std::string> kEndings = {"lf", "cr", "crlf"};

std::string endingOf(const std::string& word) { return word == "cr" ? "\r" : word == "crlf" ? "\r\n" : "\n"; }

// Six digits are more than any such instrument takes, and never an exponent.
std::string plain(double given) {
    constexpr double kMost = 1e6;
    const double value = given >= -kMost && given <= kMost ? given : 0.0; // nobody means these
    char text[48];
    const auto [end, error] = std::to_chars(text, text + sizeof text, value, std::chars_format::fixed, 6);
    std::string s(text, end);
    while (s.find('.') != std::string::npos && (s.back() == '0' || s.back() == '.')) {
        const bool point = s.back() == '.';
        s.pop_back();
        if (point)
            break;
    }
    return s;
}

logs::LineFormat readLines(Fields f) {
    logs::LineFormat format;
    const std::string delimiter = f.word("delimiter", {",", ";", "tab", "space"}, ",");
    format.delimiter = delimiter == "tab" ? '\t' : delimiter == "space" ? ' ' : delimiter.empty() ? ',' : delimiter[0];
    format.decimal = f.word("decimal", {".", ","}, ".") == "," ? ',' : '.';
    format.cells = static_cast<std::size_t>(f.number("cells", 1.0, 200.0));
    Fields columns = f.part("columns");
    Fields units = f.part("units");
    for (const std::string& key : columns.keys()) {
        const auto role = logs::roleFromKey(key);
        const double at = columns.number(key.c_str(), 1.0, 200.0);
        if (!role)
            columns.wrong(key, "there is no column of this name.",
                          "Columns are time, volts, amps, temperature, percent.");
        else
            format.meaning.push_back(
                {*role, static_cast<std::size_t>(at) - 1, units.has(key.c_str()) ? units.text(key.c_str()) : ""});
    }
    units.finish();
    (void)f.text("start", "");
    f.finish();
    return format;
}

constexpr std::size_t kLongestCommand = 200;
constexpr const char* kNotAsked = "?"; // a question that only some know: asked where a profile spells it

bool isPlain(const std::string& text) {
    return text.size() <= kLongestCommand &&
           std::none_of(text.begin(), text.end(), [](unsigned char c) { return c < 0x20 || c == 0x7f; });
}

// The last word of a command, in small letters: what a switch is told.
std::string lastWord(const std::string& command) {
    const std::string_view plain = trimmed(command);
    const std::size_t space = plain.find_last_of(" \t");
    return lowered(space == std::string_view::npos ? plain : plain.substr(space + 1));
}

// What is wrong with a command for this action; empty when nothing is.
std::string faultOf(const std::string& action, const std::string& command, const std::string& usual) {
    if (!isPlain(command))
        return say("a command is one line of at most {} plain characters.", std::to_string(kLongestCommand));
    if (command.find(';') != std::string::npos)
        return say("this is more than one command.");
    if (usual.ends_with('?') && !command.empty() && command.find('?') == std::string::npos)
        return say("this asks nothing: a question has a “?”.");
    if (!usual.ends_with('?') && command.find('?') != std::string::npos)
        return say("this is a question, where something is set.");
    if (usual.find("{value}") != std::string::npos && command.find("{value}") == std::string::npos)
        return sayAsItStands("the command has no {value} in it.");
    if (usual.find("{value}") == std::string::npos && command.find("{value}") != std::string::npos)
        return say("there is no value to put in.");
    if ((action == "on" || action == "off") && trimmed(command).empty())
        return action == "on" ? say("without it the load could not be switched on.")
                              : say("without it the load could not be switched off.");
    if (action == "off" && (lastWord(command) == "on" || lastWord(command) == "1"))
        return say("this looks as if it switched the load on.");
    return {};
}

std::string mendOf(const std::string& usual) {
    return usual == kNotAsked ? say("Write it as your load spells it, like “SOURce:CURRent?”.")
                              : say("The usual command is “{}”.", usual);
}

// What a meter at the mains reads at most.
constexpr Range kMains{300.0, 20.0, 4000.0};

void readRange(Fields most, Kind kind, Range& range) {
    if (kind == Kind::Thermometer) {
        range.leastCelsius = most.number("least_celsius", -100.0, 30.0, range.leastCelsius);
        range.mostCelsius = most.number("celsius", 60.0, 500.0, range.mostCelsius);
    } else {
        range.volts = most.number("volts", 1.0, range.volts, range.volts);
        range.amps = most.number("amps", 0.01, range.amps, range.amps);
        range.watts = most.number("watts", 0.1, range.watts, range.watts);
    }
    most.finish();
}

} // namespace

std::string kindName(Kind kind) { return kKinds[static_cast<std::size_t>(kind)]; }

const std::map<std::string, std::string>& actions(Kind kind) {
    static const std::map<std::string, std::string> kCommon = {{"identify", "*IDN?"}, {"error", "SYSTem:ERRor?"}};
    static const auto with = [](std::map<std::string, std::string> own) {
        own.insert(kCommon.begin(), kCommon.end());
        return own;
    };
    static const auto kMeter = with({{"volts", "MEASure:VOLTage?"}, {"amps", "MEASure:CURRent?"}});
    static const auto kLoad = with({{"volts", "MEASure:VOLTage?"},
                                    {"amps", "MEASure:CURRent?"},
                                    {"mode.cc", "SOURce:FUNCtion CURRent"},
                                    {"mode.cp", "SOURce:FUNCtion POWer"},
                                    {"mode.cr", "SOURce:FUNCtion RESistance"},
                                    {"level.cc", "SOURce:CURRent {value}"},
                                    {"level.cp", "SOURce:POWer {value}"},
                                    {"level.cr", "SOURce:RESistance {value}"},
                                    {"set.cc", kNotAsked},
                                    {"set.cp", kNotAsked},
                                    {"set.cr", kNotAsked},
                                    {"on", "INPut ON"},
                                    {"off", "INPut OFF"},
                                    {"state", "INPut?"}});
    static const auto kTrigger =
        with({{"ask.volts", "SOURce:VOLTage {value}"}, {"ask.amps", "SOURce:CURRent {value}"}});
    static const auto kThermometer = with({{"temperature", "MEASure:TEMPerature?"}});
    switch (kind) {
    case Kind::Meter: return kMeter;
    case Kind::Load: return kLoad;
    case Kind::Trigger: return kTrigger;
    case Kind::Thermometer: break;
    }
    return kThermometer;
}

std::string Profile::command(const std::string& action, std::optional<double> value) const {
    if (modbus)
        return !modbus->actions.contains(action) ? std::string() : value ? action + " " + plain(*value) : action;
    const auto own = scpi.find(action);
    const auto usual = actions(kind).find(action);
    std::string text = own != scpi.end() ? own->second : usual != actions(kind).end() ? usual->second : std::string();
    if (text == kNotAsked)
        return {};
    if (const std::size_t at = text.find("{value}"); at != std::string::npos)
        text.replace(at, 7, plain(value.value_or(0.0)));
    return text;
}

Result<Profile> profileFromJson(const std::string& text, const std::string& place) {
    const auto json = parseObject(text, place, kProfileFormat);
    if (!json)
        return tl::unexpected(json.error());
    std::optional<Problem> wrong;
    Fields f(*json, place + ": ", wrong);
    Profile p;
    (void)f.text("format");
    (void)f.number("version", 1.0, 1.0);
    p.key = f.text("key");
    p.name = f.text("name");
    p.notes = f.text("notes", "");
    const std::string kind = f.word("kind", kKinds);
    for (std::size_t k = 0; k < kKinds.size(); ++k) {
        if (kKinds[k] == kind)
            p.kind = static_cast<Kind>(k);
    }
    Fields connection = f.part("connection");
    std::string by;
    for (const char* way : {"serial", "tcp", "usbtmc", "http"}) {
        if (connection.has(way) && !by.empty())
            connection.wrong(way, "it cannot be connected both ways.",
                             "Keep either “" + by + "” or “" + way +
                                 "”; write two profiles for an instrument that has both.");
        else if (connection.has(way))
            by = way;
    }
    if (by == "tcp") {
        p.by = Profile::By::Tcp;
        Fields tcp = connection.part("tcp");
        p.tcpPort = static_cast<int>(tcp.number("port", 0.0, 65535.0, 5025.0));
        tcp.finish();
    } else if (by == "usbtmc") {
        p.by = Profile::By::Usbtmc;
        connection.part("usbtmc").finish();
    } else if (by == "http") {
        p.by = Profile::By::Web;
        p.page = readWebPage(connection.part("http"));
        p.lines = p.page->lines();
        if (p.kind != Kind::Meter)
            connection.wrong("http", "only a meter is read off a page.");
    } else {
        Fields serial = connection.part("serial");
        p.baud = static_cast<int>(serial.number("baud", 300.0, 4e6, 115200.0));
        p.parity = serial.word("parity", {"none", "even", "odd"}, "none");
        serial.finish();
    }
    p.ending = endingOf(connection.word("ending", kEndings, "lf"));
    connection.finish();
    if (f.has("lines") && p.page)
        f.wrong("lines", "what a page holds stands under “http”.", "Leave this out.");
    if (f.has("modbus")) {
        if (p.page || p.by == Profile::By::Usbtmc || f.has("scpi") || f.has("lines"))
            f.wrong("modbus", "Modbus goes over “serial” or “tcp”, and is all that the instrument speaks.");
        p.modbus = readRegisters(f.part("modbus"), actions(p.kind));
        const auto same = [&](const char* one, const char* other) {
            const auto a = p.modbus->actions.find(one), b = p.modbus->actions.find(other);
            return a != p.modbus->actions.end() && b != p.modbus->actions.end() && a->second == b->second;
        };
        for (const char* action : {"on", "off"}) {
            if (p.kind == Kind::Load && !p.modbus->actions.contains(action))
                f.wrong("modbus", std::string("without “") + action + "” the load could not be switched.");
        }
        if (same("on", "off"))
            f.wrong("modbus", "“on” and “off” write the same.");
    }
    if (f.has("lines")) {
        Fields lines = f.part("lines");
        p.start = lines.text("start", "");
        p.lines = readLines(f.part("lines"));
        if (p.kind != Kind::Meter)
            f.wrong("lines", "only a meter is read by the lines it prints.", "Use “scpi”.");
    }
    if (f.has("scpi")) {
        if (p.lines && !p.page)
            f.wrong("scpi", "an instrument either prints lines or answers SCPI.", "Keep one of the two.");
        Fields scpi = f.part("scpi");
        for (const std::string& action : scpi.keys()) {
            const std::string command = scpi.text(action.c_str());
            if (!actions(p.kind).contains(action)) {
                std::string all;
                for (const auto& [name, usual] : actions(p.kind))
                    all += (all.empty() ? "" : ", ") + name;
                scpi.wrong(action, "a " + kind + " has no such action.", "Actions are " + all + ".");
            } else if (const std::string& usual = actions(p.kind).at(action), fault = faultOf(action, command, usual);
                       !fault.empty()) {
                scpi.wrong(action, fault, mendOf(usual));
            }
            p.scpi[action] = command;
        }
    }
    if (p.kind == Kind::Load && !p.modbus && lowered(trimmed(p.command("on"))) == lowered(trimmed(p.command("off"))))
        f.wrong("scpi", "“on” and “off” say the same.");
    if (!isPlain(p.start))
        f.wrong("lines", "“start” is one line of at most " + std::to_string(kLongestCommand) + " plain characters.");
    if (p.page) // of the mains
        p.most = kMains;
    readRange(f.part("most"), p.kind, p.most);
    if (p.kind == Kind::Load && p.modbus) {
        for (const auto& [action, greatest, unit] :
             {std::tuple("level.cc", p.most.amps, " A"), std::tuple("level.cp", p.most.watts, " W")}) {
            const auto at = p.modbus->actions.find(action);
            if (at != p.modbus->actions.end() && !wordsOf(at->second, greatest, false))
                f.wrong("modbus",
                        std::string("the register of “") + action + "” cannot hold the load's most, " +
                            plain(greatest) + unit + ".",
                        "Say what it takes at most under “most”, or mend type and scale.");
        }
    }
    if (p.kind == Kind::Load) {
        p.idleAmps = f.number("idle_amps", 0.0, 1.0, p.idleAmps);
        p.watchdogSeconds = f.maybeNumber("watchdog_s", 0.1, 3600.0);
    }
    if (!f.has("lines") && !f.has("scpi") && !p.modbus && !p.page)
        f.wrong("", "it says neither which “lines” it prints nor that it speaks “scpi” or “modbus”.",
                "Write \"scpi\": {} for the usual commands.");
    f.finish();
    if (wrong)
        return tl::unexpected(*wrong);
    if (p.lines) {
        if (auto checked = logs::LiveLines::make(*p.lines, place + ": lines"); !checked)
            return tl::unexpected(checked.error());
    }
    return p;
}

std::string toJson(const Profile& p) {
    nlohmann::ordered_json j{
        {"format", kProfileFormat}, {"version", 1}, {"key", p.key}, {"name", p.name}, {"kind", kindName(p.kind)}};
    if (!p.notes.empty())
        j["notes"] = p.notes;
    switch (p.by) {
    case Profile::By::Serial:
        j["connection"]["serial"]["baud"] = p.baud;
        if (p.parity != "none")
            j["connection"]["serial"]["parity"] = p.parity;
        break;
    case Profile::By::Tcp: j["connection"]["tcp"]["port"] = p.tcpPort; break;
    case Profile::By::Usbtmc: j["connection"]["usbtmc"] = nlohmann::ordered_json::object(); break;
    case Profile::By::Web: j["connection"]["http"] = toJson(*p.page); break;
    }
    for (const std::string& word : kEndings) {
        if (word != "lf" && endingOf(word) == p.ending)
            j["connection"]["ending"] = word;
    }
    if (p.modbus) {
        j["modbus"] = toJson(*p.modbus);
    } else if (p.lines && !p.page) {
        auto& lines = j["lines"];
        const char d = p.lines->delimiter;
        lines["delimiter"] = d == '\t' ? "tab" : d == ' ' ? "space" : std::string(1, d);
        lines["decimal"] = std::string(1, p.lines->decimal);
        lines["cells"] = p.lines->cells;
        for (const auto& c : p.lines->meaning) {
            lines["columns"][logs::roleKey(c.role)] = c.index + 1;
            if (!c.unit.empty())
                lines["units"][logs::roleKey(c.role)] = c.unit;
        }
        if (!p.start.empty())
            lines["start"] = p.start;
    } else if (!p.page) {
        j["scpi"] = nlohmann::ordered_json::object();
        for (const auto& [action, command] : p.scpi)
            j["scpi"][action] = command;
    }
    const Range house = p.page ? kMains : Range{};
    const auto most = [&](const char* key, double value, double otherwise) {
        if (value != otherwise)
            j["most"][key] = value;
    };
    most("volts", p.most.volts, house.volts);
    most("amps", p.most.amps, house.amps);
    most("watts", p.most.watts, house.watts);
    most("least_celsius", p.most.leastCelsius, house.leastCelsius);
    most("celsius", p.most.mostCelsius, house.mostCelsius);
    if (p.kind == Kind::Load && p.idleAmps != Profile().idleAmps)
        j["idle_amps"] = p.idleAmps;
    if (p.watchdogSeconds)
        j["watchdog_s"] = *p.watchdogSeconds;
    return j.dump(2, ' ', false, nlohmann::json::error_handler_t::replace) + "\n";
}

std::vector<Profile> builtinProfiles() {
    std::vector<Profile> all;
    for (const char* text : kBuiltin_instruments)
        all.push_back(profileFromJson(text, "built-in profile").value());
    return all;
}

} // namespace otterstone::bench
