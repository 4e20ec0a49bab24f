// Whether every temperature that guards a run is still one: a thermometer that says nothing, nothing that can be true,
// or always the same guards nobody. Pure; Stops feeds it.
#pragma once

#include <map>
#include <optional>
#include <string>

namespace otterstone::bench {

class HeatWatch {
public:
    /// From `now` on this source must speak, at least so often. Sources are told apart by what they are called: "the
    /// thermometer".
    void expect(const std::string& source, double now, double silentSeconds);
    /// Another bound for a source that is expected; nothing for others.
    void allowSilence(const std::string& source, double silentSeconds);
    [[nodiscard]] bool expects(const std::string& source) const { return sources_.contains(source); }
    /// Whether what a source said can be true: 45 °C a second after 25 °C cannot. What cannot does not count as having
    /// spoken.
    [[nodiscard]] bool believable(const std::string& source, double celsius, double at);
    /// Power flows, so that a bank warms: W.
    void flowing(double watts, double now);
    /// Why a source guards no more, in words; nothing while all do.
    [[nodiscard]] std::optional<std::string> broken(double now) const;
    /// For a while nobody could have heard anything.
    void listenAnew(double now);

private:
    struct Source {
        double silentSeconds = 5.0;
        double heardAt = 0.0; ///< the last believable one
        std::optional<double> celsius;
        double saidAt = 0.0;
        double sameSince = 0.0;            ///< the same to every digit
        double finest = 1e300;             ///< the smallest step it was seen to make
        std::optional<std::string> oddity; ///< what it said since, that nobody believes
        std::optional<double> jumpedTo;    ///< the last of that
        double jumpedAt = 0.0;             ///< the first of those that are like it
        bool cameOff = false;              ///< it stays there
    };
    std::map<std::string, Source> sources_;
    std::optional<double> flowingSince_;
};

} // namespace otterstone::bench
