// The cache's JSON as it is read: a view upon what simdjson has parsed, with the words nlohmann's has for it; internal
// to this folder. A finding is some ten kilobytes, a book holds thousands, and a tree of nodes and strings that is
// thrown away at once took most of the time in which they were read.
#pragma once

#include <concepts>
#include <string>
#include <string_view>
#include <vector>

#include <simdjson.h>

namespace otterstone::kinds {

/// All of it throws simdjson::simdjson_error of what is not there or of another kind.
class CacheJson {
public:
    CacheJson(simdjson::dom::element e) : e_(e) {} // NOLINT(google-explicit-constructor): as its iterators give it
    [[nodiscard]] CacheJson at(std::string_view key) const { return e_.at_key(key).value(); }
    [[nodiscard]] CacheJson at(std::size_t place) const { return e_.at(place).value(); }
    [[nodiscard]] bool isNull() const { return e_.is_null(); }
    [[nodiscard]] bool contains(std::string_view key) const { return e_.at_key(key).error() == simdjson::SUCCESS; }
    [[nodiscard]] simdjson::dom::array list() const { return e_.get_array().value(); }
    [[nodiscard]] std::size_t size() const { return list().size(); }

    template<class T>
    [[nodiscard]] T get() const {
        if constexpr (std::same_as<T, bool>)
            return e_.get_bool().value();
        else if constexpr (std::signed_integral<T>)
            return static_cast<T>(e_.get_int64().value());
        else if constexpr (std::unsigned_integral<T>)
            return static_cast<T>(e_.get_uint64().value());
        else if constexpr (std::floating_point<T>)
            return e_.get_double().value();
        else
            return T(e_.get_string().value());
    }
    template<class T>
    void getTo(T& into) const {
        into = get<T>();
    }
    template<class T>
    void getTo(std::vector<T>& into) const {
        into.clear();
        for (const CacheJson one : list())
            into.push_back(one.get<T>());
    }

private:
    simdjson::dom::element e_;
};

} // namespace otterstone::kinds
