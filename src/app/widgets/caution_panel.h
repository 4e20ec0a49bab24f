// The cautions that stand where a run begins.
#pragma once

#include <QFrame>

namespace otterstone::app {

class CautionPanel : public QFrame {
    Q_OBJECT

public:
    explicit CautionPanel(QWidget* parent = nullptr);
};

} // namespace otterstone::app
