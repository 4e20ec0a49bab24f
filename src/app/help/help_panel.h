// The guide inside the window, at the place where one is, searchable; and all keys, read from the menus themselves.
#pragma once

#include "app/widgets/side_panel.h"

class QLineEdit;
class QMenuBar;
class QTextBrowser;

namespace otterstone::app {

class HelpPanel : public SidePanel {
    Q_OBJECT

public:
    explicit HelpPanel(QWidget* parent = nullptr);
    /// The guide from the section of this title on; from its beginning when there is none.
    void showSection(const QString& title);
    void showKeys(const QMenuBar& menus);

    [[nodiscard]] QTextBrowser* pages() const { return pages_; }
    [[nodiscard]] QLineEdit* findLine() const { return find_; }
    /// The titles of the guide's sections, in its order.
    [[nodiscard]] static QStringList sections();

Q_SIGNALS:
    void keysWanted();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void findNext(bool fromHere);
    void openGuide();

    QLineEdit* find_;
    QTextBrowser* pages_;
};

/// A page of docs/ as it is shown: what stands bold at the beginning of a paragraph is a heading. Empty for no page.
[[nodiscard]] QString guidePage(const QString& name);

} // namespace otterstone::app
