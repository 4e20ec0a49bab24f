#include "watcher/guard.h"

#include <charconv>
#include <vector>

namespace otterstone::watcher {

namespace {

constexpr char kBetween = '\n'; // no field holds one: bytes of a wire go as hexadecimal digits
constexpr std::size_t kFields = 10;

std::string hex(const std::string& bytes) {
    constexpr char digits[] = "0123456789abcdef";
    std::string text;
    for (const char c : bytes) {
        text += digits[static_cast<unsigned char>(c) >> 4];
        text += digits[static_cast<unsigned char>(c) & 15];
    }
    return text;
}

template<class Number>
bool read(const std::string& text, Number& value, int base = 10) {
    const char* end = text.data() + text.size();
    if constexpr (std::is_floating_point_v<Number>)
        return std::from_chars(text.data(), end, value).ptr == end && !text.empty();
    else
        return std::from_chars(text.data(), end, value, base).ptr == end && !text.empty();
}

bool bytes(const std::string& text, std::string& into) {
    for (std::size_t k = 0; k + 1 < text.size(); k += 2) {
        int value = 0;
        if (!read(text.substr(k, 2), value, 16))
            return false;
        into += static_cast<char>(value);
    }
    return text.size() % 2 == 0;
}

} // namespace

std::string encode(const Message& m) {
    const Guard& g = m.guard;
    std::string text = std::to_string(static_cast<int>(m.what)) + kBetween + std::to_string(m.id);
    if (m.what != Message::What::Guard)
        return text;
    for (const std::string& field :
         {std::to_string(static_cast<int>(g.by)), hex(g.where), std::to_string(g.port), hex(g.parity), hex(g.off),
          hex(g.question), std::to_string(static_cast<int>(g.proof)), std::to_string(g.idleAmps)})
        text += kBetween + field;
    return text;
}

std::optional<Message> decode(const std::string& text) {
    std::vector<std::string> fields;
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t end = std::min(text.find(kBetween, from), text.size());
        fields.push_back(text.substr(from, end - from));
        from = end + 1;
    }
    Message m;
    Guard& g = m.guard;
    int what = 0, by = 0, proof = 0;
    if (fields.size() < 2 || !read(fields[0], what) || what < 0 || what > 2 || !read(fields[1], m.id))
        return std::nullopt;
    m.what = static_cast<Message::What>(what);
    if (m.what != Message::What::Guard)
        return m;
    if (fields.size() != kFields || !read(fields[2], by) || by < 0 || by > 2 || !bytes(fields[3], g.where) ||
        !read(fields[4], g.port) || !bytes(fields[5], g.parity) || !bytes(fields[6], g.off) ||
        !bytes(fields[7], g.question) || !read(fields[8], proof) || proof < 0 || proof > 3 ||
        !read(fields[9], g.idleAmps))
        return std::nullopt;
    g.by = static_cast<Guard::By>(by);
    g.proof = static_cast<Guard::Proof>(proof);
    return m;
}

} // namespace otterstone::watcher
