#include "core/quantity/say.h"

#include <atomic>

#include <fmt/args.h>
#include <fmt/format.h>

#include "core/quantity/speech.h"

namespace otterstone {

namespace {

std::atomic<Speech> spoken{nullptr};

// Empty where it is the house's own language that is spoken.
std::string inOther(std::string_view pattern) {
    const Speech speech = spoken.load(std::memory_order_relaxed);
    return speech ? speech(pattern) : std::string();
}

} // namespace

void speak(Speech other) { spoken = other; }

std::string sayAsItStands(std::string_view text) {
    std::string other = text.empty() ? std::string() : inOther(text);
    return other.empty() ? std::string(text) : other;
}

std::string sayAll(std::string_view pattern, std::span<const std::string_view> words) {
    const std::string other = inOther(pattern);
    const std::string_view text = other.empty() ? pattern : std::string_view(other);
    fmt::dynamic_format_arg_store<fmt::format_context> store;
    for (const std::string_view w : words)
        store.push_back(fmt::string_view(w.data(), w.size()));
    return fmt::vformat(fmt::string_view(text.data(), text.size()), store);
}

} // namespace otterstone
