#include <array>
#include <cerrno>
#include <iostream>
#include <utility>

#include <fcntl.h>
#include <poll.h>
#include <unistd.h>

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "core/quantity/json_text.h"
#include "core/quantity/working.h"

namespace otterstone::cli {

namespace {

constexpr std::size_t kLargest = 64 << 20;
constexpr int kPatienceMs = 10'000;

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
        if (n == 0) {
            whole = std::move(text);
            break;
        }
        pollfd waits{descriptor, POLLIN, 0};
        if (errno != EAGAIN || ::poll(&waits, 1, kPatienceMs) <= 0)
            break;
    }
    ::close(descriptor);
    return whole;
}

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

int obeyed(CLI::App& app, int argc, char** argv, const int& code) {
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        // Help was asked for: 0. Anything else is wrong usage, whatever number the library has for it.
        return app.exit(error, std::cout, std::cerr) == 0 ? kDone : kUsage;
    } catch (const std::exception& error) {
        std::cerr << "otterstone-cli: " << error.what() << "\n";
        return kInput;
    }
    return code;
}

} // namespace otterstone::cli
