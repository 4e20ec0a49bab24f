// A recipe as its text, checked while it is typed, with what it would do below.
#pragma once

#include "app/live/live_bench.h"
#include "app/widgets/side_panel.h"

class QPlainTextEdit;
class QPushButton;

namespace otterstone::app {

class RecipePanel : public SidePanel {
    Q_OBJECT

public:
    explicit RecipePanel(LiveBench& live, QWidget* parent = nullptr);
    void open(const QString& json, const records::Bank& bank);
    [[nodiscard]] QPlainTextEdit* text() const { return text_; }
    [[nodiscard]] QPushButton* saveButton() const { return save_; }

Q_SIGNALS:
    void kept(const std::string& key);

private:
    void check();
    LiveBench& live_;
    records::Bank bank_;
    QPlainTextEdit* text_;
    QLabel *wrong_, *will_;
    QPushButton* save_;
};

} // namespace otterstone::app
