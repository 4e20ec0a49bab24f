// Which instrument plays which role, where it is connected, and a helper that listens and proposes a meter's profile.
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
    explicit InstrumentPanel(LiveBench& live, QWidget* parent = nullptr);
    void open();

    // Its parts, for tests.
    [[nodiscard]] QComboBox* profile(const bench::Role& role) const { return rows_.at(role).profile; }
    [[nodiscard]] QComboBox* address(const bench::Role& role) const { return rows_.at(role).address; }
    [[nodiscard]] QPushButton* listenButton() const { return listen_; }
    [[nodiscard]] QPushButton* keepButton() const { return keep_; }
    [[nodiscard]] QLineEdit* name() const { return name_; }

private:
    struct Row {
        QComboBox* profile = nullptr;
        QComboBox* address = nullptr;
    };
    void fill(const bench::Role& role);
    void keepRow(const bench::Role& role);
    void listen();
    void heard(const bench::Heard& heard);
    void keepHeard();

    LiveBench& live_;
    OwnProfiles own_;
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
