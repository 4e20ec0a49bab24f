#include "bench/profiles/setup_file.h"

#include <algorithm>

#include "core/quantity/json_fields.h"
#include "core/quantity/json_text.h"

namespace otterstone::bench {

namespace {

constexpr const char* kSetupFormat = "otterstone-setup";

} // namespace

std::vector<std::string> SetupFile::pieces() const {
    std::vector<std::string> all;
    for (const RoleRow& role : roles()) {
        const auto at = placed.find(role.key);
        if (at != placed.end() && !at->second.piece.empty())
            all.push_back(at->second.piece);
    }
    all.insert(all.end(), also.begin(), also.end());
    return all;
}

std::string keyOf(const std::string& name) {
    std::string key;
    for (const char c : name) {
        const bool capital = c >= 'A' && c <= 'Z';
        if (capital || (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9'))
            key += capital ? static_cast<char>(c - 'A' + 'a') : c;
        else if (!key.empty() && key.back() != '-')
            key += '-';
    }
    while (!key.empty() && key.back() == '-')
        key.pop_back();
    return key;
}

Result<SetupFile> setupFromJson(const std::string& text, const std::string& place) {
    const auto json = parseObject(text, place, kSetupFormat);
    if (!json)
        return tl::unexpected(json.error());
    std::optional<Problem> wrong;
    Fields f(*json, place + ": ", wrong);
    SetupFile s;
    (void)f.text("format");
    (void)f.number("version", 1.0, 1.0);
    s.key = f.text("key");
    s.name = f.text("name");
    Fields instruments = f.part("instruments");
    for (const std::string& role : instruments.keys()) {
        if (!roleNamed(role)) {
            std::string all;
            for (const std::string& r : roleKeys())
                all += (all.empty() ? "" : ", ") + r;
            instruments.wrong(role, "an instrument has no such role.", "Roles are " + all + ".");
            break;
        }
        Fields one = instruments.part(role.c_str());
        s.placed[role] = {one.text("profile"), one.text("address"), one.text("piece", "")};
        one.finish();
    }
    s.also = f.texts("also");
    f.finish();
    if (wrong)
        return tl::unexpected(*wrong);
    return s;
}

std::string toJson(const SetupFile& s) {
    nlohmann::ordered_json j{{"format", kSetupFormat}, {"version", 1}, {"key", s.key}, {"name", s.name}};
    j["instruments"] = nlohmann::ordered_json::object();
    for (const auto& [role, at] : s.placed) {
        auto& one = j["instruments"][role];
        one["profile"] = at.profile;
        one["address"] = at.address;
        if (!at.piece.empty())
            one["piece"] = at.piece;
    }
    if (!s.also.empty())
        j["also"] = s.also;
    return j.dump(2, ' ', false, nlohmann::json::error_handler_t::replace) + "\n";
}

} // namespace otterstone::bench
