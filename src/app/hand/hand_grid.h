// The grid of readings by hand: the rhythm of times goes on by itself.
#pragma once

#include "app/widgets/typing_grid.h"

namespace otterstone::app {

class HandModel;

class HandGrid : public TypingGrid {
    Q_OBJECT

public:
    explicit HandGrid(HandModel* model, QWidget* parent = nullptr);

protected:
    void nextRow() override;

private:
    HandModel* model_;
};

} // namespace otterstone::app
