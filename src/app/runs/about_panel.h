// Beside the run: what is known of it besides its samples. Title, ambient, port, where it was read, what it was poured
// into, settling.
#pragma once

#include "app/book_session.h"
#include "app/widgets/side_panel.h"

class QCheckBox;
class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QVBoxLayout;

namespace otterstone::app {

class AboutPanel : public SidePanel {
    Q_OBJECT

public:
    AboutPanel(BookSession& session, QWidget* parent = nullptr);
    void open(records::Id run);

Q_SIGNALS:
    /// A stretch that the ribbon does not show: trigger, thermometer, device.
    void gearWanted(long long run, int place);
    void traceWanted(long long run);

private:
    void fill();
    void keep();
    void fillTraces(const records::Run& run);

    BookSession& session_;
    records::Id run_ = records::kNew;
    QFormLayout* form_;
    QLineEdit *title_, *started_, *ambient_, *targetStart_, *targetEnd_, *targetEfficiency_, *notes_;
    QComboBox *port_, *point_, *target_;
    QCheckBox *settling_, *display_;
    QLabel* wrong_;
    QVBoxLayout* traces_;
};

} // namespace otterstone::app
