// An instrument that answers SCPI: questions one after the other, what must be set in order, and a switch-off that goes before all else.
#pragma once

#include <deque>
#include <functional>
#include <optional>

#include "bench/link.h"

namespace otterstone::bench {

class ScpiDevice : public QObject {
    Q_OBJECT

public:
    ScpiDevice(const Profile& profile, Address address, QObject* parent = nullptr);

    [[nodiscard]] Link& link() { return link_; }
    [[nodiscard]] const Profile& profile() const { return profile_; }
    [[nodiscard]] const QString& identity() const { return identity_; }

    /// Sends an action's command. Actions the instrument has no command for do nothing.
    void set(const std::string& action, std::optional<double> value = std::nullopt);
    /// Asks for a number; `got` hears nothing when the answer fails to come or is none.
    void ask(const std::string& action, std::function<void(std::optional<double>)> got);
    /// Before everything that waits, and dropping it. Remembered until the instrument is back when it is not there.
    void switchOff();
    /// Asks for what went wrong since the last time; refused() follows where something did. Until it is answered waiting() is not 0.
    void checkErrors();
    /// How many questions wait for their answers.
    [[nodiscard]] std::size_t waiting() const { return questions_.size(); }

Q_SIGNALS:
    /// It was switched off, or the command for it has at least left.
    void switchedOff();
    /// What SYSTem:ERRor? said, when that was an error.
    void refused(const QString& what);

private:
    struct Question {
        std::function<void(std::optional<double>)> got;
        std::function<void(const QByteArray&)> text;
        long since; ///< checks before it was asked
    };
    void answered(const QByteArray& line);
    void checkLate();
    void cameUp();

    Profile profile_;
    Link link_;
    QString identity_;
    std::deque<Question> questions_;
    QTimer late_;
    long checks_ = 0;     ///< how often it was looked for late answers: a computer that stood still asks for no patience
    bool offOwed_ = true; ///< whoever just connected doesn't know in what state a load was left
};

} // namespace otterstone::bench
