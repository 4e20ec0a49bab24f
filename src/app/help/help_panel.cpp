#include "app/help/help_panel.h"

#include <QAction>
#include <QFile>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QPushButton>
#include <QRegularExpression>
#include <QTextBlock>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "app/theme.h"

// Out of a static library resources come only when they are called for; Qt wants that outside of any namespace.
static void callForGuide() { Q_INIT_RESOURCE(guide); }

namespace otterstone::app {

namespace {

constexpr const char* kGuide = "guide.md";

// Reads the pages out of the program, links between them included.
class Pages : public QTextBrowser {
public:
    using QTextBrowser::QTextBrowser;
    [[nodiscard]] QVariant loadResource(int type, const QUrl& name) override {
        const QString page = guidePage(name.fileName());
        return page.isEmpty() ? QTextBrowser::loadResource(type, name) : QVariant(page);
    }
};

// Keys that belong to a place and stand in no menu.
struct PlaceKey {
    const char *place, *keys, *does;
};
constexpr PlaceKey kPlaceKeys[] = {
    {QT_TR_NOOP("Everywhere"), "Tab, Space", QT_TR_NOOP("to a figure; opens its working")},
    {QT_TR_NOOP("Everywhere"), "Esc", QT_TR_NOOP("closes the panel and the message")},
    {QT_TR_NOOP("Ribbon"), "← →, Return", QT_TR_NOOP("choose gear, open it")},
    {QT_TR_NOOP("Ribbon"), "↑, then ← →", QT_TR_NOOP("takes the figure's notch; refers it to another point")},
    {QT_TR_NOOP("Curve"), "P L I U T R E D N",
     QT_TR_NOOP("stamp: percent, LEDs, in, out, temperature, trip, its own estimate, device, note")},
    {QT_TR_NOOP("Curve"), "X, Y", QT_TR_NOOP("change the axes")},
    {QT_TR_NOOP("Curve"), "+ −, Shift+← →, ← →, 0", QT_TR_NOOP("zoom, move, read values, show all")},
    {QT_TR_NOOP("Verdicts"), "Space, Return, P",
     QT_TR_NOOP("open the sum, go to the run, put what would settle it into the plan")},
    {QT_TR_NOOP("Notebook"), "Ctrl+E, Ctrl+K", QT_TR_NOOP("a column for a device; spare columns")},
    {QT_TR_NOOP("Plan"), "↑ ↓, ← →, Shift+← →",
     QT_TR_NOOP("from run to run; move one by a quarter of an hour, by an hour")},
    {QT_TR_NOOP("Plan"), "P, F, D, Delete", QT_TR_NOOP("pin, first of all, a day of its own, take out")},
    {QT_TR_NOOP("Plan"), "A, G, N", QT_TR_NOOP("aims and hours, agree on it, from now")},
};

void listActions(const QMenu& menu, const QString& place, QString& rows) {
    for (const QAction* action : menu.actions()) {
        if (action->menu()) {
            listActions(*action->menu(), place, rows);
            continue;
        }
        QStringList keys;
        for (const QKeySequence& key : action->shortcuts())
            keys << key.toString(QKeySequence::NativeText);
        if (keys.isEmpty())
            continue;
        QString text = action->text();
        text.remove(QLatin1Char('&'));
        rows += QStringLiteral("<tr><td>%1</td><td><b>%2</b></td><td>%3</td></tr>")
                    .arg(place.toHtmlEscaped(), keys.join(QStringLiteral(", ")).toHtmlEscaped(), text.toHtmlEscaped());
    }
}

} // namespace

QString guidePage(const QString& name) {
    callForGuide();
    QFile file(QStringLiteral(":/guide/") + name);
    if (name.isEmpty() || !file.open(QIODevice::ReadOnly))
        return {};
    QString text = QString::fromUtf8(file.readAll());
    static const QRegularExpression kLead(QStringLiteral("^\\*\\*([^*\\n]+?)\\.?\\*\\* ?"),
                                          QRegularExpression::MultilineOption);
    return text.replace(kLead, QStringLiteral("### \\1\n\n"));
}

QStringList HelpPanel::sections() {
    QStringList titles;
    const QString guide = guidePage(QLatin1String(kGuide));
    for (const QString& line : guide.split(QLatin1Char('\n'))) {
        if (line.startsWith(QStringLiteral("### ")))
            titles << line.mid(4);
    }
    return titles;
}

HelpPanel::HelpPanel(QWidget* parent) : SidePanel(tr("Help"), parent), find_(new QLineEdit), pages_(new Pages) {
    auto* line = new QHBoxLayout;
    find_->setPlaceholderText(tr("Find in the guide"));
    find_->setAccessibleName(tr("Find in the guide"));
    find_->setClearButtonEnabled(true);
    find_->installEventFilter(this);
    auto* guide = new QPushButton(tr("Guide"));
    auto* keys = new QPushButton(tr("Keys"));
    for (QPushButton* b : {guide, keys})
        b->setObjectName(QStringLiteral("quiet"));
    line->addWidget(find_, 1);
    line->addWidget(guide);
    line->addWidget(keys);
    body()->addLayout(line);
    pages_->setAccessibleName(tr("Guide"));
    pages_->setFrameShape(QFrame::NoFrame);
    pages_->setOpenExternalLinks(false);
    pages_->setMinimumHeight(200);
    body()->addWidget(pages_, 1);
    setFocusProxy(find_);
    connect(find_, &QLineEdit::textChanged, this, [this] { findNext(true); });
    connect(guide, &QPushButton::clicked, this, [this] { showSection({}); });
    connect(keys, &QPushButton::clicked, this, &HelpPanel::keysWanted);
}

bool HelpPanel::eventFilter(QObject* watched, QEvent* event) {
    if (watched == find_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            findNext(false);
            return true;
        }
    }
    return SidePanel::eventFilter(watched, event);
}

// From the place on that is shown, and from the top once the end is reached.
void HelpPanel::findNext(bool fromHere) {
    const QString words = find_->text();
    if (words.isEmpty())
        return title()->setText(tr("Help"));
    if (fromHere) {
        QTextCursor at = pages_->textCursor();
        at.setPosition(at.selectionStart());
        pages_->setTextCursor(at);
    }
    if (!pages_->find(words)) {
        pages_->moveCursor(QTextCursor::Start);
        if (!pages_->find(words)) {
            pages_->moveCursor(QTextCursor::Start);
            return title()->setText(tr("Help: “%1” is not in it").arg(words));
        }
    }
    title()->setText(tr("Help"));
}

void HelpPanel::openGuide() {
    if (pages_->source().fileName() == QLatin1String(kGuide))
        return;
    QTextDocument& document = *pages_->document();
    document.setLayoutEnabled(false); // Qt lays out what was read so far with each word that it reads
    pages_->setSource(QUrl(QLatin1String(kGuide)), QTextDocument::MarkdownResource);
    document.setLayoutEnabled(true);
    document.setTextWidth(document.textWidth());
}

void HelpPanel::showSection(const QString& title) {
    openGuide();
    pages_->moveCursor(QTextCursor::End); // so that what is found comes to stand at the top
    QTextBlock block = pages_->document()->begin();
    while (block.isValid() && !title.isEmpty() && !(block.blockFormat().headingLevel() > 0 && block.text() == title))
        block = block.next();
    pages_->setTextCursor(QTextCursor(block.isValid() ? block : pages_->document()->begin()));
    pages_->ensureCursorVisible();
}

void HelpPanel::showKeys(const QMenuBar& menus) {
    QString rows;
    for (const QAction* menu : menus.actions()) {
        QString place = menu->text();
        place.remove(QLatin1Char('&'));
        if (menu->menu())
            listActions(*menu->menu(), place, rows);
    }
    for (const PlaceKey& key : kPlaceKeys)
        rows += QStringLiteral("<tr><td>%1</td><td><b>%2</b></td><td>%3</td></tr>")
                    .arg(tr(key.place), QString::fromUtf8(key.keys).toHtmlEscaped(), tr(key.does));
    pages_->setSource({});
    pages_->setHtml(QStringLiteral("<h3>%1</h3><table cellpadding=\"3\">%2</table>").arg(tr("Keys"), rows));
}

} // namespace otterstone::app
