#include <array>
#include <cerrno>
#include <iostream>
#include <streambuf>
#include <utility>

#include <fcntl.h>
#include <poll.h>
#include <unistd.h>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "core/quantity/json_text.h"
#include "core/quantity/working.h"

namespace otterstone::cli {

namespace {

constexpr std::size_t kLargest = 64 << 20;
constexpr int kPatienceMs = 10'000;

// Passes bytes on but for control characters: new lines, tabs and the bell stay. Of UTF-8 the second control block
// begins with C2.
class PlainBuffer : public std::streambuf {
public:
    explicit PlainBuffer(std::ostream& stream) : stream_(stream), to_(stream.rdbuf(this)) {}
    ~PlainBuffer() override { stream_.rdbuf(to_); }
    PlainBuffer(const PlainBuffer&) = delete;
    PlainBuffer& operator=(const PlainBuffer&) = delete;

protected:
    int_type overflow(int_type given) override {
        if (given == traits_type::eof())
            return traits_type::not_eof(given);
        const auto c = static_cast<unsigned char>(given);
        if (std::exchange(c2_, false))
            return c >= 0x80 && c < 0xa0                                  ? instead()
                   : put('\xc2') && put(traits_type::to_char_type(given)) ? given
                                                                          : traits_type::eof();
        if (c == 0xc2) {
            c2_ = true;
            return given;
        }
        const bool control = (c < 0x20 && c != '\n' && c != '\t' && c != '\r' && c != '\a') || c == 0x7f;
        return control ? instead() : put(traits_type::to_char_type(given)) ? given : traits_type::eof();
    }
    int sync() override { return to_->pubsync(); }

private:
    bool put(char c) { return to_->sputc(c) != traits_type::eof(); }
    int_type instead() { return put('\xef') && put('\xbf') && put('\xbd') ? 0 : traits_type::eof(); }
    std::ostream& stream_;
    std::streambuf* to_;
    bool c2_ = false;
};

} // namespace

std::optional<std::string> contentsOf(const std::string& path) {
    const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
    if (descriptor < 0)
        return std::nullopt;
    std::string text;
    std::array<char, 65536> block;
    std::optional<std::string> whole;
    for (;;) {
        const ssize_t n = ::read(descriptor, block.data(), block.size());
        if (n > 0) {
            text.append(block.data(), static_cast<std::size_t>(n));
            if (text.size() > kLargest)
                break;
            continue;
        }
        if (n == 0)
            whole = std::move(text);
        pollfd waits{descriptor, POLLIN, 0};
        if (n == 0 || errno != EAGAIN || ::poll(&waits, 1, kPatienceMs) <= 0)
            break;
    }
    ::close(descriptor);
    return whole;
}

void printPlainly() { static PlainBuffer out(std::cout), err(std::cerr); }

int complain(const Problem& problem, int code) {
    std::cerr << "otterstone-cli: " << problem.sentence() << "\n";
    return code;
}

nlohmann::json shownJson(const Working& w) {
    auto parts = nlohmann::json::array(), others = nlohmann::json::array();
    for (const Working& p : w.parts)
        parts.push_back(shownJson(p));
    for (const Working& o : w.others)
        others.push_back(shownJson(o));
    nlohmann::json j{{"key", w.key},     {"label", w.label}, {"formula", w.formula},
                     {"point", w.point}, {"note", w.note},   {"parts", parts}};
    if (!w.isText) {
        j["value"] = w.value.value();
        j["u"] = w.value.hasDoubt() && !w.partialDoubt ? nlohmann::json(w.value.expanded()) : nlohmann::json(nullptr);
        j["shown"] = w.shown();
    }
    if (!w.question.empty()) {
        j["question"] = w.question;
        j["school"] = w.school;
        j["others"] = others;
    }
    return j;
}

int print(const nlohmann::json& value) {
    std::cout << jsonText(value, 2) << "\n";
    return finish(kDone);
}

int finish(int code) {
    std::cout.flush();
    if (std::cout.good())
        return code;
    std::cerr << "otterstone-cli: the result could not be written to standard output.\n";
    return kOutput;
}

} // namespace otterstone::cli
