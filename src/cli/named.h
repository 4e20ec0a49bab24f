// What a book holds, by the name or number that is typed.
#pragma once

#include <algorithm>
#include <string>
#include <vector>

#include "core/quantity/problem.h"

namespace otterstone::cli {

/// By its name, or by its number; nothing when there is none.
template<class T>
const T* named(const std::vector<T>& all, const std::string& name) {
    const auto at = std::find_if(all.begin(), all.end(), [&](const T& t) { return t.name == name; });
    if (at != all.end())
        return &*at;
    const auto id = std::find_if(all.begin(), all.end(), [&](const T& t) { return std::to_string(t.id) == name; });
    return id == all.end() ? nullptr : &*id;
}

inline Problem noBank(const std::string& book, const std::string& name) {
    return {"no_bank", book, "there is no bank “" + name + "” in this book.", "“list BOOK banks” shows them."};
}

} // namespace otterstone::cli
