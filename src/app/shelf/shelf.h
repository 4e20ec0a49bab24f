// The shelf of banks: always at hand, with a compact sign per bank of what has been looked at.
#pragma once

#include <QWidget>

#include "app/book_session.h"

class QComboBox;
class QLineEdit;
class QListWidget;

namespace otterstone::app {

class Shelf : public QWidget {
    Q_OBJECT

public:
    Shelf(BookSession& session, QWidget* parent = nullptr);
    [[nodiscard]] records::Id selected() const;
    void select(records::Id bank); ///< without chosen()
    /// Into its list. A proxy would keep Tab from the buttons above that.
    void takeKeyboard();
    /// The line in which a bank is looked for as one types; shown once there are more banks than fit, or when asked
    /// for.
    void find();
    [[nodiscard]] QLineEdit* findLine() const { return find_; }
    [[nodiscard]] QComboBox* order() const { return order_; }

Q_SIGNALS:
    void chosen(long long bank);
    void newBankWanted();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void refresh();
    void filter();

    BookSession& session_;
    QWidget* tools_;
    QLineEdit* find_;
    QComboBox* order_;
    QListWidget* list_;
};

} // namespace otterstone::app
