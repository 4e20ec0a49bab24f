#include "core/quantity/say.h"

#include <fmt/args.h>
#include <fmt/format.h>

namespace otterstone {

std::string sayAll(std::string_view pattern, std::span<const std::string_view> words) {
    fmt::dynamic_format_arg_store<fmt::format_context> store;
    for (const std::string_view w : words)
        store.push_back(fmt::string_view(w.data(), w.size()));
    return fmt::vformat(fmt::string_view(pattern.data(), pattern.size()), store);
}

} // namespace otterstone
