// Lines as instruments print them, and the guess at what they hold.
#include <vector>

#include "entry.h"
#include "logs/live_lines.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    fuzz::Bytes in(data, size);
    const unsigned which = in.byte();
    logs::LineFormat format;
    format.delimiter = ",;\t "[which & 3u];
    format.decimal = which & 4u ? ',' : '.';
    format.cells = 1 + (which >> 3u) % 8;
    format.meaning = {{logs::Role::Volts, in.byte() % 10u, which & 64u ? "mV" : ""},
                      {logs::Role::Amps, in.byte() % 10u, ""},
                      {logs::Role::Time, in.byte() % 10u, which & 128u ? "ms" : ""},
                      {logs::Role::Temperature, in.byte() % 10u, "°F"}};
    const std::string_view text = in.rest();
    std::vector<std::string> lines;
    for (std::size_t at = 0; at < text.size() && lines.size() < 60;) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        lines.emplace_back(text.substr(at, end - at));
        at = end + 1;
    }
    const auto all = [&](const logs::LineFormat& f) {
        const auto reader = logs::LiveLines::make(f, "here");
        if (!reader)
            return;
        for (const std::string& line : lines) {
            if (const auto reading = reader->read(line))
                fuzz::must(std::isfinite(reading->volts) && std::isfinite(reading->amps) &&
                               (!reading->time || std::isfinite(*reading->time)) &&
                               (!reading->celsius || std::isfinite(*reading->celsius)) &&
                               (!reading->percent || std::isfinite(*reading->percent)),
                           "a reading is finite");
        }
    };
    all(format);
    if (const auto guessed = logs::guessFormat(lines, "here"))
        all(guessed->format);
    return 0;
}
