#include <cstdio>
#include <iostream>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "core/json_text.h"

namespace otterstone::cli {

int complain(const Problem& problem, int code) {
    std::cerr << "otterstone-cli: " << problem.sentence() << "\n";
    return code;
}

int print(const nlohmann::json& json) {
    std::cout << jsonText(json, 2) << "\n";
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
