// Whose error it is: what decides whether two figures share it.
#pragma once

#include <compare>
#include <memory>
#include <string>

namespace otterstone {

enum class Scope {
    Run,        ///< of one run alone: what its sampling, digits and gaps leave open
    Instrument, ///< of a meter, in every run that it reads
    Bench,      ///< of a cable, a charger, a device, or of a rule of practice: the same wherever it is used
    Bank,       ///< of a bank: a fit through its runs, their scatter
};

/// Two contributions are one and the same error only if scope, id, what and near agree.
struct ErrorSource {
    Scope scope = Scope::Bench;
    std::string id;   ///< which run, instrument, piece or bank
    std::string what; ///< "volts gain", as a budget names it
    std::string near =
        {}; ///< the operating point at which alone it counts (path/meter_errors.h); empty: wherever it is used

    [[nodiscard]] static ErrorSource ofRun(std::string run, std::string what) {
        return {Scope::Run, std::move(run), std::move(what)};
    }
    [[nodiscard]] static ErrorSource ofInstrument(std::string name, std::string what) {
        return {Scope::Instrument, std::move(name), std::move(what)};
    }
    [[nodiscard]] static ErrorSource ofBench(std::string piece, std::string what) {
        return {Scope::Bench, std::move(piece), std::move(what)};
    }
    [[nodiscard]] static ErrorSource ofBank(std::string bank, std::string what) {
        return {Scope::Bank, std::move(bank), std::move(what)};
    }

    /// The scatter of several runs: what more of them would make smaller.
    [[nodiscard]] static ErrorSource scatterOf(std::string runs) { return {Scope::Bank, std::move(runs), kScatter}; }
    [[nodiscard]] bool isScatter() const { return scope == Scope::Bank && what == kScatter; }
    static constexpr const char* kScatter = "scatter of the repeats";

    auto operator<=>(const ErrorSource&) const = default;
    /// True where two banks that were tested with the same things have it in common.
    [[nodiscard]] bool sharedBetweenBanks() const { return scope == Scope::Instrument || scope == Scope::Bench; }
    /// "Pocket meter: volts gain"; of a run or bank only what it is, since the figure belongs to it.
    [[nodiscard]] std::string words() const;
};

/// A source that many figures name: written once, however many contributions of however many figures are of it.
class SharedSource {
public:
    SharedSource(ErrorSource source) // NOLINT(google-explicit-constructor): the same thing, held
        : source_(std::make_shared<const ErrorSource>(std::move(source))) {}
    [[nodiscard]] const ErrorSource& operator*() const { return *source_; }
    [[nodiscard]] const ErrorSource* operator->() const { return source_.get(); }
    bool operator==(const SharedSource& o) const { return source_ == o.source_ || *source_ == *o.source_; }
    bool operator<(const SharedSource& o) const { return source_ != o.source_ && *source_ < *o.source_; }

private:
    std::shared_ptr<const ErrorSource> source_;
};

/// "run", "instrument", "bench", "bank": as in --json.
[[nodiscard]] inline std::string scopeKey(Scope s) {
    return s == Scope::Run ? "run" : s == Scope::Instrument ? "instrument" : s == Scope::Bench ? "bench" : "bank";
}

} // namespace otterstone
