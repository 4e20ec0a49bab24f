#include "app/theme.h"
#include "app/text_size.h"

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

#include <QApplication>
#include <QBrush>
#include <QFontDatabase>
#include <QHeaderView>
#include <QPainter>
#include <QPalette>
#include <QPixmap>
#include <QPixmapCache>
#include <QPointer>
#include <QSettings>
#include <QTableView>
#include <QWidget>

#include "app/widgets/indicator_style.h"
#include "app/widgets/style_when_shown.h"

namespace otterstone::app {

namespace {

Theme make(ThemeKind kind) {
    if (kind == ThemeKind::Light)
        return {kind,
                QColor(0xF4, 0xF1, 0xEA),
                QColor(0xFD, 0xFC, 0xF9),
                QColor(0x22, 0x27, 0x2B),
                QColor(0x5F, 0x66, 0x6B),
                QColor(0xD5, 0xCF, 0xC2),
                QColor(0x1B, 0x66, 0x8E),
                QColor(0xA6, 0x53, 0x08),
                QColor(0x8A, 0x86, 0x7C),
                QColor(0xA3, 0x2A, 0x1E),
                QColor(0x1B, 0x66, 0x8E),
                false};
    return {kind,
            QColor(0x12, 0x15, 0x18),
            QColor(0x1B, 0x1F, 0x23),
            QColor(0xE8, 0xE6, 0xE0),
            QColor(0xA2, 0xA8, 0xAC),
            QColor(0x38, 0x3E, 0x44),
            QColor(0x62, 0xB5, 0xDF),
            QColor(0xF0, 0xA0, 0x4B),
            QColor(0x9A, 0x97, 0x8F),
            QColor(0xFF, 0x8A, 0x7A),
            QColor(0x62, 0xB5, 0xDF),
            false};
}

Theme current = make(ThemeKind::Light);
constexpr double kBodyPoints = 10.0;
constexpr const char* kTextSize = "textSize"; // in the settings

constexpr const char* kUnderSheet = "_q_styleSheetWidgetFont"; // where Qt's style sheets keep a widget's own font

double& askedSize() {
    static double share =
        std::clamp(QSettings().value(QLatin1String(kTextSize), 1.0).toDouble(), kLeastText, kMostText);
    return share;
}

QString styleSheet(const Theme& t) {
    return QStringLiteral(R"(
        QWidget { color: %1; }
        QMainWindow, QStackedWidget, QScrollArea, QScrollArea > QWidget > QWidget { background: %2; }
        QToolTip { color: %1; background: %3; border: 1px solid %4; padding: 4px; }
        QFrame#sheet { background: %3; border: 1px solid %4; border-radius: 4px; }
        QLabel#faint { color: %5; }
        QLabel#problem { color: %6; }
        QFrame#message { border: none; border-left: 3px solid %4; } QFrame#message[look="asks"] { border-left-color: %7; } QFrame#message[look="wrong"] { border-left-color: %6; }
        QFrame#message QLabel[look="told"] { color: %5; } QFrame#message QLabel[look="asks"] { color: %1; } QFrame#message QLabel[look="wrong"] { color: %6; }
        QLineEdit, QPlainTextEdit, QTableWidget, QAbstractSpinBox {
            background: %3; border: 1px solid %4; border-radius: 3px; padding: 4px 6px; selection-background-color: %7; selection-color: %3; }
        QLineEdit:focus, QPlainTextEdit:focus, QTableWidget:focus, QAbstractSpinBox:focus { border: 2px solid %7; padding: 3px 5px; }
        QLineEdit[wrong="true"] { border: 2px solid %6; padding: 3px 5px; }
        QPushButton { background: %3; border: 1px solid %4; border-radius: 3px; padding: 6px 14px; }
        QPushButton:hover { border-color: %5; }
        QPushButton:focus { border: 2px solid %7; padding: 5px 13px; }
        QPushButton:disabled { color: %5; }
        QPushButton#primary { background: %7; color: %3; border-color: %7; font-weight: 600; }
        QPushButton#primary:focus { border: 2px solid %1; }
        QPushButton#primary:disabled { background: %4; border-color: %4; color: %5; }
        QPushButton#stage { background: transparent; border: none; border-bottom: 3px solid transparent; border-radius: 0; padding: 8px 4px 5px 4px; margin-right: 16px; }
        QPushButton#stage:checked { border-bottom-color: %7; font-weight: 600; }
        QPushButton#stage:focus { background: %4; }
        QPushButton#quiet { background: transparent; border: 1px solid transparent; padding: 3px 8px; color: %5; }
        QPushButton#quiet:hover, QPushButton#quiet:checked { color: %1; border-color: %4; }
        QPushButton#quiet:focus { border: 1px solid %7; color: %1; }
        QHeaderView::section { background: %2; border: none; border-bottom: 1px solid %4; padding: 4px; }
        QTableWidget { gridline-color: %4; }
        QTableWidget#roomy::item { padding: 2px 8px; border: none; } QTableWidget#roomy QHeaderView::section { padding: 4px 12px; } QTableWidget#roomy::item:selected { background: %7; color: %3; }
        QAbstractScrollArea::corner { background: transparent; border: none; }
        QTextBrowser { background: %3; border: 1px solid %4; }
        QListView#shelf { background: %2; border: none; outline: none; }
        QListView#recipes { background: %2; border: none; outline: none; } QListView#recipes::item { padding: 4px 8px; border-left: 3px solid transparent; }
        QListView#recipes::item:selected { background: %3; color: %1; border-left: 3px solid %7; }
        QListView#recipes:focus { border: 1px solid %7; }
        QCheckBox:focus, QRadioButton:focus { color: %7; }
        QMenuBar, QMenu { background: %2; } QMenuBar::item:selected, QMenu::item:selected { background: %4; }
        QWidget#shelfSide { border-right: 1px solid %4; }
        QScrollArea#clear, QWidget#inside { background: transparent; } QPushButton[reads="true"] { text-align: left; }
        QScrollBar:vertical { background: transparent; width: 10px; margin: 0; } QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
        QScrollBar::handle { background: %4; border-radius: 4px; min-height: 24px; min-width: 24px; margin: 1px; } QScrollBar::handle:hover { background: %5; }
        QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; } QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
        QSplitter::handle { background: %4; }
        QProgressBar { border: 1px solid %4; border-radius: 3px; text-align: center; background: %3; } QProgressBar::chunk { background: %7; }
    )")
        .arg(t.ink.name(), t.paper.name(), t.sheet.name(), t.line.name(), t.faint.name(), t.warn.name(),
             t.focus.name());
}

} // namespace

const Theme& theme() { return current; }

PaperScope::PaperScope() : before_(current) {
    current = make(ThemeKind::Light);
    current.paper = current.sheet = Qt::white;
    current.onPaper = true;
}
PaperScope::~PaperScope() { current = before_; }

ThemeKind systemTheme() {
    const QPalette p = QGuiApplication::palette();
    return p.color(QPalette::Window).lightnessF() < p.color(QPalette::WindowText).lightnessF() ? ThemeKind::Dark
                                                                                               : ThemeKind::Light;
}

namespace {

void setPaletteAndFont() {
    if (!dynamic_cast<IndicatorStyle*>(QApplication::style()))
        QApplication::setStyle(new IndicatorStyle); // it asks theme() as it draws
    QPalette p;
    p.setColor(QPalette::Window, current.paper);
    p.setColor(QPalette::Base, current.sheet);
    p.setColor(QPalette::AlternateBase, current.paper);
    p.setColor(QPalette::Button, current.sheet);
    p.setColor(QPalette::Text, current.ink);
    p.setColor(QPalette::WindowText, current.ink);
    p.setColor(QPalette::ButtonText, current.ink);
    p.setColor(QPalette::PlaceholderText, current.faint);
    p.setColor(QPalette::ToolTipBase, current.sheet);
    p.setColor(QPalette::ToolTipText, current.ink);
    p.setColor(QPalette::Highlight, current.focus);
    p.setColor(QPalette::HighlightedText, current.sheet);
    p.setColor(QPalette::Mid, current.line);
    QApplication::setPalette(p);
    QApplication::setFont(font(1.0));
}

// The windows that wear the theme's sheet.
std::vector<QPointer<QWidget>>& dressed() {
    static std::vector<QPointer<QWidget>> windows;
    return windows;
}

// While it lives no window wears its sheet: under one, each step of a change has all its widgets measured anew.
class Undressed {
public:
    Undressed() {
        std::erase_if(dressed(), [](const auto& w) { return w.isNull(); });
        for (const auto& w : dressed())
            w->setStyleSheet({});
    }
    ~Undressed() {
        told_.tellSeen();
        for (const auto& w : dressed())
            w->setStyleSheet(styleSheet(current));
    }
    Undressed(const Undressed&) = delete;
    Undressed& operator=(const Undressed&) = delete;

private:
    StyleWhenShown told_;
};

} // namespace

void applyTheme(ThemeKind kind) {
    static bool applied = false; // each of the calls below walks every widget of every window
    if (std::exchange(applied, true) && current.kind == kind)
        return;
    const Undressed meanwhile;
    current = make(kind);
    setPaletteAndFont();
}

void wearTheme(QWidget& window) {
    dressed().emplace_back(&window);
    window.setStyleSheet(styleSheet(current));
}

double textSize() { return askedSize(); }

void setTextSize(double share) {
    share = std::clamp(share, kLeastText, kMostText);
    const double by = share / std::exchange(askedSize(), share);
    QSettings().setValue(QLatin1String(kTextSize), share);
    if (by == 1.0)
        return;
    {
        const Undressed meanwhile;
        QApplication::setFont(font(1.0));
        for (const auto& w : dressed()) { // Qt would tell them when they wear their sheet again
            QEvent changed(QEvent::ApplicationFontChange);
            QCoreApplication::sendEvent(w, &changed);
        }
        for (QWidget* w : QApplication::allWidgets()) {
            if (!w->testAttribute(Qt::WA_SetFont))
                continue;
            QFont f = w->font();
            f.setPointSizeF(f.pointSizeF() * by);
            w->setFont(f);
            if (w->property(kUnderSheet).isValid()) // else the sheet gives it back the font that it had
                w->setProperty(kUnderSheet, f);
        }
    }
    for (QWidget* w : QApplication::allWidgets()) {
        if (auto* table = qobject_cast<QTableView*>(w)) {
            QHeaderView* rows = table->verticalHeader();
            rows->setDefaultSectionSize(static_cast<int>(std::lround(rows->defaultSectionSize() * by)));
        }
    }
}

QFont font(double scale, QFont::Weight weight) {
    // Inter from Debian's fonts-inter; fontconfig's sans where it is missing.
    QFont f(QStringList{QStringLiteral("Inter"), QStringLiteral("DejaVu Sans"), QStringLiteral("sans-serif")});
    f.setPointSizeF(kBodyPoints * scale * (current.onPaper ? 1.0 : askedSize()));
    f.setWeight(weight);
    return f;
}

QBrush hatching(const QColor& colour, bool dense) {
    if (current.onPaper)
        return QBrush(colour, Qt::BDiagPattern);
    const QString key = QStringLiteral("hatching/%1/%2").arg(colour.rgba()).arg(dense);
    QPixmap tile;
    if (QPixmapCache::find(key, &tile)) // a picture asks for each of its pieces
        return QBrush(tile);
    const int size = dense ? 6 : 10;
    tile = QPixmap(size, size);
    tile.fill(Qt::transparent);
    QPainter painter(&tile);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(colour, 1.3));
    for (const int shift : {-size, 0, size})
        painter.drawLine(shift, size, shift + size, 0);
    painter.end();
    QPixmapCache::insert(key, tile);
    return QBrush(tile);
}

} // namespace otterstone::app
