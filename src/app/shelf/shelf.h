// The shelf of banks: always at hand, with a compact sign per bank of what has been looked at.
#pragma once

#include <QWidget>

#include "app/book_session.h"

class QListWidget;

namespace otterstone::app {

class Shelf : public QWidget {
    Q_OBJECT

public:
    Shelf(BookSession& session, QWidget* parent = nullptr);
    [[nodiscard]] records::Id selected() const;
    void select(records::Id bank); ///< without chosen()

Q_SIGNALS:
    void chosen(long long bank);
    void newBankWanted();

private:
    void refresh();

    BookSession& session_;
    QListWidget* list_;
};

} // namespace otterstone::app
