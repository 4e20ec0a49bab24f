// Options as typed, turned into figures; a wrong one is thrown as Wrong and leaves as wrong usage.
#pragma once

#include <string>

#include "cli/commands.h"
#include "core/quantity/parse.h"
#include "core/quantity/problem.h"

namespace otterstone::cli {

// A wrong option is wrong usage, not unreadable input; the two leave with different codes.
struct Wrong {
    Problem problem;
};

template<class T>
T orWrong(Result<T> result) {
    if (!result)
        throw Wrong{result.error()};
    return std::move(*result);
}

inline void orWrong(const Result<void>& result) {
    if (!result)
        throw Wrong{result.error()};
}

/// Runs what a subcommand does; a wrong option is told as wrong usage.
template<class F>
int guard(F f) {
    try {
        return f();
    } catch (const Wrong& wrong) {
        return complain(wrong.problem, kUsage);
    }
}

inline double number(const std::string& text, const char* option, Expect expect = Expect::AnyNumber) {
    return orWrong(parseNumber(text, option, expect));
}

inline double positive(const std::string& text, const char* option, Expect expect = Expect::AnyNumber) {
    const double value = number(text, option, expect);
    if (!(value > 0.0))
        throw Wrong{{"not_positive", option, "must be greater than 0.", ""}};
    return value;
}

inline double timeOption(const std::string& text, const char* option) {
    return orWrong(parseDuration(text, option, 1.0));
}

} // namespace otterstone::cli
