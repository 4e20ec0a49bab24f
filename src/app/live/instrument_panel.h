// The set-ups: which instrument plays which role, where it is connected, which piece of the drawer it is; and a helper
// that listens and proposes a meter's profile.
#pragma once

#include <map>

#include "app/live/live_bench.h"
#include "app/widgets/side_panel.h"
#include "bench/instruments/listener.h"

class QComboBox;
class QLineEdit;
class QPushButton;

namespace otterstone::app {

class InstrumentPanel : public SidePanel {
    Q_OBJECT

public:
    InstrumentPanel(BookSession& session, LiveBench& live, QWidget* parent = nullptr);
    void open();

    // Its parts, for tests.
    [[nodiscard]] QComboBox* profile(const bench::Role& role) const { return rows_.at(role).profile; }
    [[nodiscard]] QComboBox* address(const bench::Role& role) const { return rows_.at(role).address; }
    [[nodiscard]] QComboBox* piece(const bench::Role& role) const { return rows_.at(role).piece; }
    [[nodiscard]] QComboBox* setups() const { return setups_; }
    [[nodiscard]] QLineEdit* setupName() const { return setupName_; }
    [[nodiscard]] QPushButton* addSetup() const { return add_; }
    [[nodiscard]] QPushButton* removeSetup() const { return remove_; }
    [[nodiscard]] QComboBox* also(records::GearKind kind) const { return also_.at(kind); }
    [[nodiscard]] QPushButton* listenButton() const { return listen_; }
    [[nodiscard]] QPushButton* keepButton() const { return keep_; }
    [[nodiscard]] QLineEdit* name() const { return name_; }

private:
    struct Row {
        QComboBox* profile = nullptr;
        QComboBox* address = nullptr;
        QComboBox* piece = nullptr;
    };
    void buildSetups();
    void buildAlso();
    void fillSetups();
    /// "not said", then all of the drawer of one kind; `chosen` even when the drawer has none of this name.
    void fillPieces(QComboBox* box, records::GearKind kind, const std::string& chosen);
    void keepAlso(records::GearKind kind);
    void fill(const bench::Role& role);
    void keepRow(const bench::Role& role);
    void listen();
    void heard(const bench::Heard& heard);
    void keepHeard();

    BookSession& session_;
    LiveBench& live_;
    OwnProfiles own_;
    QComboBox* setups_;
    QLineEdit* setupName_;
    QPushButton *add_, *remove_;
    std::map<records::GearKind, QComboBox*> also_;
    std::map<bench::Role, Row> rows_;
    bench::Listener listener_;
    std::optional<bench::Heard> heard_;
    QPushButton *listen_, *keep_;
    QLabel *words_, *wrong_;
    QLineEdit* name_;
    QWidget* keepRowWidget_;
    bool filling_ = false;
};

} // namespace otterstone::app
