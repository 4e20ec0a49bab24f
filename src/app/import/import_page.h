// A log on its way into the book: what was recognised and why, a preview, mapping by hand, and where it shall go.
#pragma once

#include <memory>

#include <QWidget>

#include "app/book_session.h"
#include "logs/log.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;
class QRadioButton;
class QTableWidget;

namespace otterstone::app {

class EndsFields;
class MappingEditor;

class ImportPage : public QWidget {
    Q_OBJECT

public:
    ImportPage(BookSession& session, QWidget* parent = nullptr);
    ~ImportPage() override;
    /// Looks at a file or a text; a problem when it cannot even be opened.
    Result<void> look(const QString& path, records::Id bank);
    /// The next log goes to a run that is there, as a trace read at another point; kNew for a run of its own again.
    void addTo(records::Id run) { addTo_ = run; }
    Result<void> lookAtText(const QString& text, records::Id bank);

Q_SIGNALS:
    void taken(long long run);
    void left();

private:
    Result<void> begin(Result<logs::OpenedLog> opened, records::Id bank);
    void recognise();
    void fillPreview(const logs::Recognition& layout);
    void fillTargets(records::Id bank);
    void kindChosen();
    void fillPoints();
    void addTrace(const logs::Log& log);
    void take();
    void setBusy(bool busy);

    BookSession& session_;
    std::shared_ptr<logs::OpenedLog> log_;
    std::shared_ptr<logs::Progress> progress_;
    logs::Mapping hand_;
    logs::Recognition layout_;
    bool remembered_ = false;
    records::Id addTo_ = records::kNew;

    QLabel* title_;
    QLabel* reasons_;
    QLabel* problem_;
    MappingEditor* mapping_;
    QTableWidget* preview_;
    QComboBox* bank_;
    QRadioButton* drain_;
    QRadioButton* recharge_;
    QLineEdit* runTitle_;
    QComboBox* meter_;
    QComboBox* point_;
    EndsFields* ends_;
    QPushButton* take_;
    QPushButton* leave_;
    QProgressBar* bar_;
    QTimer* tick_;
};

} // namespace otterstone::app
