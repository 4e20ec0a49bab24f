// The piece of gear on one stretch of a run's path: chosen, or written down, beside the run.
#pragma once

#include <QFrame>

#include "app/book_session.h"

class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;

namespace otterstone::app {

class GearPanel : public QFrame {
    Q_OBJECT

public:
    GearPanel(BookSession& session, QWidget* parent = nullptr);
    void open(book::Id run, book::GearKind kind);

Q_SIGNALS:
    void closed();
    void problem(const QString& sentence);

private:
    void fill();
    void choose(int index);
    void keep();
    [[nodiscard]] std::optional<book::Gear> current() const;

    BookSession& session_;
    book::Id run_ = book::kNew;
    book::GearKind kind_ = book::GearKind::Meter;
    QLabel* title_;
    QLabel* hint_;
    QLabel* wrong_;
    QComboBox* piece_;
    QFormLayout* form_;
    QLineEdit *name_, *watts_, *ohms_, *accuracy_, *clock_;
};

} // namespace otterstone::app
