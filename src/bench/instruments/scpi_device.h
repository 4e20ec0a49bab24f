// An instrument that speaks SCPI: sets, asks, and knows which answer belongs to which question. One that is a load can
// be relied on to be off, or to be said not to be.
#pragma once

#include <deque>
#include <functional>
#include <optional>

#include <QObject>
#include <QTimer>

#include "bench/instruments/link.h"

namespace otterstone::bench {

class ScpiDevice : public QObject {
    Q_OBJECT

public:
    ScpiDevice(const Profile& profile, Address address, QObject* parent = nullptr);

    [[nodiscard]] Link& link() { return link_; }
    [[nodiscard]] const Profile& profile() const { return profile_; }
    [[nodiscard]] const QString& identity() const { return identity_; }
    /// It is a stand-in's, which goes with the program: nobody need switch it off afterwards.
    void beSimulated() { simulated_ = true; }

    /// Sends an action's command. Actions the instrument has no command for do nothing.
    void set(const std::string& action, std::optional<double> value = std::nullopt);
    using Got = std::function<void(std::optional<double>)>;
    /// Asks for a number; `got` hears nothing when the answer fails to come, is none, or is one this instrument cannot
    /// give (its profile's range).
    void ask(const std::string& action, Got got);
    /// Before everything that waits, again and again until it is confirmed, and first thing when a lost instrument
    /// comes back.
    void switchOff();
    /// It said so itself since it was last told: its input is off, and it draws no more than it reads idle. A load that
    /// can say neither counts as off when the command reached it and it complained of nothing.
    [[nodiscard]] bool isOff() const { return off_ == Off::Confirmed; }
    /// It was off, and is on without having been told so from here: somebody else is at it.
    [[nodiscard]] bool foundOn() const { return off_ == Off::FoundOn; }
    /// Asks whether its input is on, where it knows that question: for one that should be off, and stays watched.
    void look();
    /// It talks without being asked: nothing that it says is an answer.
    [[nodiscard]] bool babbles() const { return babbles_; }
    /// Whether there is anything by which it could say that it is off.
    [[nodiscard]] bool canSayOff() const {
        return saysState_ || !profile_.command("amps").empty() || !profile_.command("error").empty();
    }
    /// It said that it is on since it was told to be off.
    [[nodiscard]] bool saysOn() const;
    /// Real milliseconds since it was told to be off, unconfirmed; 0 when it is off, or was told to be on.
    [[nodiscard]] qint64 offOverdue() const { return off_ == Off::Told ? toldOff_.elapsed() : 0; }
    /// Why it does not count as off, in words: "it cannot be reached", "it still draws 1 A".
    [[nodiscard]] QString whyNotOff() const;
    /// Asks for what went wrong since the last time; refused() follows where something did. Until it is answered
    /// waiting() is not 0.
    void checkErrors();
    /// It can be asked for its volts or amperes: one that can't is heard only while it is told something.
    [[nodiscard]] bool measures() const {
        return !profile_.command("volts").empty() || !profile_.command("amps").empty();
    }
    /// How many questions wait for their answers.
    [[nodiscard]] std::size_t waiting() const { return questions_.size(); }
    /// Real milliseconds since it last answered anything that was an answer.
    [[nodiscard]] qint64 unheard() const { return heard_.elapsed(); }

    /// For a while nobody could have heard it.
    void listenAnew() { heard_.restart(); }

Q_SIGNALS:
    /// It is off, confirmed.
    void switchedOff();
    /// What SYSTem:ERRor? said, when that was an error.
    void refused(const QString& what);

private:
    struct Question {
        Got got;
        std::function<void(const QByteArray&)> text;
        long since; ///< checks before it was asked
        std::string action;
        bool ofOff = false; ///< whether it is off, after it was told to be
    };
    enum class Off { Unknown, Told, Confirmed, On, FoundOn };
    /// What it said of itself since it was told to be off.
    struct Said {
        std::optional<bool> inputOff;
        std::optional<double> amps;
        QString complaint; ///< about the last "off"
    };
    /// What it said last: while it is asked again, what it said before.
    [[nodiscard]] Said lastSaid() const;
    void answered(const QByteArray& line);
    void checkLate();
    void giveUpQuestions();
    void cameUp();
    void sayOff();
    void put(const std::string& action, Got got, bool ofOff);
    void askBack();
    void concludeOff();
    void confirmOff();
    void readsWhileOff(double amps);
    void findOn();
    [[nodiscard]] bool isGuarded() const { return profile_.kind == Kind::Load && !simulated_; }

    Profile profile_;
    Link link_;
    QString identity_;
    std::deque<Question> questions_;
    QTimer late_;
    QElapsedTimer heard_, toldOff_;
    long checks_ = 0; ///< how often it was looked for late answers: a computer that stood still asks for no patience
    Off off_ = Off::Unknown;   ///< whoever just connected doesn't know in what state a load was left
    int telling_ = 0;          ///< counts the times it was told to be off, repeats apart
    Said said_;                ///< since it was last told
    Said before_;              ///< when it was told the time before, of the same telling
    bool errorsHeard_ = false; ///< it said since then whether it complains
    bool saysState_ = true;    ///< its input can be asked for; found out when it first does not answer
    bool refusesOff_ = false;
    bool simulated_ = false;
    int drewWhileOff_ = 0; ///< readings in a row that are not idle, of one that is off
    int unasked_ = 0;      ///< lines since the last check that nobody asked for
    bool babbles_ = false;
    bool seemsOff_ = false; ///< it said so; it is believed when it says nothing more by the next check
};

} // namespace otterstone::bench
