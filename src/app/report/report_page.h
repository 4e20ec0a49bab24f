// The sheet as it will be published: its preview, and writing it as a file.
#pragma once

#include <memory>

#include <QTextDocument>
#include <QWidget>

#include "app/book_session.h"
#include "app/report/pictures.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QPrinter;
class QTextBrowser;

namespace otterstone::app {

class ReportPage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit ReportPage(BookSession& session, QWidget* parent = nullptr);
    /// The sheet of one bank.
    void showBank(records::Id bank);
    /// The comparison of these.
    void showComparison(const std::vector<records::Id>& banks);
    [[nodiscard]] const report::Content& content() const { return content_; }
    /// Writes the file, and what the boxes ask for beside it; says how it went.
    bool write(const QString& file);
    [[nodiscard]] QCheckBox* bundle() const { return bundle_; }
    [[nodiscard]] QCheckBox* publish() const { return publish_; }

Q_SIGNALS:
    void problem(const QString& sentence);
    void done(const QString& sentence);

private:
    void open();
    void take(const report::Material& material, const report::Content& content);
    void chooseFile(const QString& ending);
    void preview();

    BookSession& session_;
    std::vector<records::Id> banks_; ///< one, or those compared
    records::Id bank_ = records::kNew;
    bool comparison_ = false;
    report::Material material_;
    report::Content content_;
    std::map<std::string, Drawing> pictures_;
    std::unique_ptr<QTextDocument> document_;
    QComboBox* what_;
    QCheckBox *bundle_, *publish_;
    QTextBrowser* paper_;
    QLabel* last_;
    std::vector<QWidget*> buttons_;
};

} // namespace otterstone::app
