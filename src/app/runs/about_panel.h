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
class QPushButton;
class QVBoxLayout;

namespace otterstone::app {

class AttachedStrip;
class EndsFields;

class AboutPanel : public SidePanel {
    Q_OBJECT

public:
    AboutPanel(BookSession& session, QWidget* parent = nullptr);
    void open(records::Id run);

Q_SIGNALS:
    /// A stretch that no ribbon shows: trigger, thermometer, device, and of a sheet all.
    void gearWanted(long long run, int place);
    void traceWanted(long long run);

private:
    void fill();
    void keep();
    void fillTraces(const records::Run& run);
    void fillGear(const records::Run& run);

    struct Piece {
        QPushButton* button;
        std::optional<records::Id> records::Run::*piece;
        QString words;
        bool onRibbon; ///< of a run with a trace
    };

    BookSession& session_;
    records::Id run_ = records::kNew;
    QFormLayout* form_;
    QLineEdit *title_, *started_, *ambient_, *targetStart_, *targetEnd_, *targetEfficiency_, *notes_, *conditions_;
    QComboBox *port_, *point_, *target_;
    QCheckBox *settling_, *display_;
    EndsFields* ends_;
    QLabel* wrong_;
    QWidget* ofTraces_;
    QVBoxLayout* traces_;
    AttachedStrip* attached_;
    std::vector<Piece> gear_;
};

} // namespace otterstone::app
