// What several ports promise together: the combinations printed on a label.
#include <algorithm>

#include "core/label/label.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::label {

namespace {

std::vector<std::string_view> pieces(std::string_view text, std::string_view dividers) {
    std::vector<std::string_view> all;
    std::size_t start = 0;
    for (std::size_t k = 0; k <= text.size(); ++k) {
        if (k < text.size() && dividers.find(text[k]) == std::string_view::npos)
            continue;
        if (const auto one = trimmed(text.substr(start, k - start)); !one.empty())
            all.push_back(one);
        start = k + 1;
    }
    return all;
}

// "C1 45 W", "Pad 2 15 W": the last number is the watts, all before it the name.
std::optional<SharedLimit::Part> readPart(std::string_view text) {
    const std::size_t digit = text.find_last_of("0123456789");
    const std::size_t space = digit == std::string_view::npos ? digit : text.find_last_of(' ', digit);
    if (space == std::string_view::npos)
        return std::nullopt;
    const std::string_view name = trimmed(text.substr(0, space));
    const auto numbers = scanPrinted(text.substr(space));
    if (name.empty() || numbers.size() != 1 || numbers.front().high <= 0.0 ||
        (numbers.front().unit != "w" && !numbers.front().unit.empty()))
        return std::nullopt;
    return SharedLimit::Part{std::string(name), Watts(numbers.front().high)};
}

} // namespace

Watts SharedLimit::total() const {
    Watts sum;
    for (const Part& p : parts)
        sum = sum + p.watts;
    return sum;
}

Result<std::vector<SharedLimit>> parseShared(std::string_view text, std::string_view place) {
    std::vector<SharedLimit> all;
    for (const std::string_view one : pieces(text, ";\n")) {
        SharedLimit limit;
        for (const std::string_view part : pieces(one, "+")) {
            auto read = readPart(part);
            if (!read)
                return problem("bad_shared", std::string(place), say("“{}” is not a port with its watts.", part),
                               "Write ports used together like C1 45 W + A 15 W; divide combinations by a semicolon.");
            limit.parts.push_back(std::move(*read));
        }
        if (limit.parts.size() < 2)
            return problem("bad_shared", std::string(place), say("“{}” names one port only.", one),
                           "Write ports used together like C1 45 W + A 15 W.");
        all.push_back(std::move(limit));
    }
    return all;
}

std::string showShared(const std::vector<SharedLimit>& shared) {
    std::string text;
    for (const SharedLimit& limit : shared) {
        text += text.empty() ? "" : "; ";
        for (std::size_t k = 0; k < limit.parts.size(); ++k)
            text += (k == 0 ? "" : " + ") + limit.parts[k].port + " " + showNumber(limit.parts[k].watts.value) + " W";
    }
    return text;
}

const Port* portNamed(const Label& label, std::string_view name) {
    const auto at =
        std::find_if(label.ports.begin(), label.ports.end(),
                     [wanted = lowered(trimmed(name))](const Port& p) { return lowered(trimmed(p.name)) == wanted; });
    return at == label.ports.end() ? nullptr : &*at;
}

std::optional<Watts> promisedTogether(const Label& label, std::string_view port,
                                      const std::vector<std::string>& inUse) {
    const auto holds = [](const SharedLimit& limit, std::string_view name) {
        return std::find_if(limit.parts.begin(), limit.parts.end(),
                            [wanted = lowered(name)](const SharedLimit::Part& p) { return lowered(p.port) == wanted; });
    };
    for (const SharedLimit& limit : label.shared) {
        if (limit.parts.size() != inUse.size() ||
            !std::all_of(inUse.begin(), inUse.end(),
                         [&](const std::string& name) { return holds(limit, name) != limit.parts.end(); }))
            continue;
        if (const auto part = holds(limit, port); part != limit.parts.end())
            return part->watts;
    }
    const Port* p = portNamed(label, port);
    return p && inUse.size() > 1 ? p->sharedWatts : std::nullopt;
}

} // namespace otterstone::label
