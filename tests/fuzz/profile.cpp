// An instrument's profile from a stranger: what it makes a load say is one line, and off is never on.
#include "bench/profiles/profile.h"
#include "entry.h"

using namespace otterstone;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto profile = bench::profileFromJson(std::string(fuzz::text(data, size)), "here");
    if (!profile)
        return 0;
    const auto again = bench::profileFromJson(bench::toJson(*profile), "again");
    fuzz::must(again.has_value() && *again == *profile, "a profile that is written is read again as it was");
    for (const auto& [action, usual] : bench::actions(profile->kind)) {
        for (const double value : {0.0, 1.5, -1e300, 1e300}) {
            const std::string command = profile->command(action, value);
            fuzz::must(command.find_first_of("\r\n") == std::string::npos, "a command is one line");
        }
    }
    if (profile->kind == bench::Kind::Load)
        fuzz::must(!profile->command("off").empty(), "a load can be switched off");
    return 0;
}
