// Stamping a moment of a run: one key each, what is typed for it, and the list of what was stamped.
#pragma once

#include <functional>

#include <QWidget>

#include "app/book_session.h"

class QLineEdit;

namespace otterstone::app {

class FlowLayout;
class StampEntry;

class StampBar : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    StampBar(BookSession& session, QWidget* parent = nullptr);
    void show(records::Id run);
    /// Begins a stamp at a moment on the trace's clock; one that asks nothing is set at once.
    void begin(records::Mark::What what, double at);
    [[nodiscard]] QLineEdit* line() const;

Q_SIGNALS:
    /// A button was pressed; the page knows the moment.
    void wanted(otterstone::records::Mark::What what);
    void done();
    void problem(const QString& sentence);

private:
    void take(const records::Mark& mark);
    void keep(const records::Run& run, const QString& what);
    void fillMarks();
    void edit(std::size_t mark);

    BookSession& session_;
    records::Id run_ = records::kNew;
    std::optional<std::size_t> editing_;
    StampEntry* entry_;
    QWidget* marks_;
    FlowLayout* markRow_;
};

} // namespace otterstone::app
