// What an instrument speaks that is neither lines of its own nor SCPI, as data of its profile: members of a web page's
// JSON, or Modbus registers.
#pragma once

#include <map>
#include <optional>
#include <string>

#include "core/quantity/json_fields.h"
#include "logs/live_lines.h"

namespace otterstone::bench {

/// A page that is asked for again and again, and where its JSON holds what is read.
struct WebPage {
    std::string path = "/";                    ///< behind the address
    double every = 1.0;                        ///< s
    std::map<logs::Role, std::string> members; ///< "meters.0.power"
    std::optional<double> volts;               ///< of the mains, where the page does not say
    /// Its lines as the reader makes them: volts, amperes, then what else there is.
    [[nodiscard]] logs::LineFormat lines() const;
    bool operator==(const WebPage&) const = default;
};

/// One register, or two that hold one number, or a coil.
struct Register {
    enum class Table { Holding, Input, Coil } table = Table::Holding;
    enum class Type { Uint16, Int16, Uint32, Int32, Float32 } type = Type::Uint16;
    bool write = false;
    int address = 0;
    double scale = 1.0;          ///< what is read is multiplied with it, what is written divided by it
    std::optional<double> value; ///< written as it is: a mode, a switch
    [[nodiscard]] int words() const { return type == Type::Uint16 || type == Type::Int16 ? 1 : 2; }
    bool operator==(const Register&) const = default;
};

struct Registers {
    int unit = 1;
    bool lowWordFirst = false;
    std::map<std::string, Register> actions; ///< by the profile's action
    bool operator==(const Registers&) const = default;
};

/// Problems go into `fields`.
[[nodiscard]] WebPage readWebPage(Fields fields);
[[nodiscard]] nlohmann::ordered_json toJson(const WebPage& page);
/// `asks`: whether an action asks for something, and so reads.
[[nodiscard]] Registers readRegisters(Fields fields, const std::map<std::string, std::string>& known);
[[nodiscard]] nlohmann::ordered_json toJson(const Registers& registers);

/// The reading in a page's JSON as one line of its LineFormat, or why there is none.
[[nodiscard]] tl::expected<std::string, std::string> lineOf(const WebPage& page, const std::string& json);

/// A number as registers hold it, and back. Nothing: it does not fit, or there are too few.
[[nodiscard]] std::optional<std::vector<std::uint16_t>> wordsOf(const Register& r, double value, bool lowWordFirst);
[[nodiscard]] std::optional<double> numberOf(const Register& r, const std::vector<std::uint16_t>& words,
                                             bool lowWordFirst);

} // namespace otterstone::bench
