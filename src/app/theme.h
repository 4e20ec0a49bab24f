// Colours, fonts and spacing of the window: a paper-like light theme and a true dark one.
#pragma once

#include <QColor>
#include <QFont>
#include <QString>

class QBrush;
class QWidget;

namespace otterstone::app {

enum class ThemeKind { Light, Dark };

struct Theme {
    ThemeKind kind = ThemeKind::Light;
    QColor paper, sheet, ink, faint, line; ///< window, raised surface, text, secondary text, hairlines
    QColor in, out;                        ///< energy into the bank, energy out of it
    QColor loss;                           ///< always hatched as well
    QColor warn;                           ///< always with words as well
    QColor focus;
    bool onPaper = false; ///< hatching by the painter's own pattern, which vector formats keep
};

inline constexpr int kGrid = 8; ///< pixels; all spacing is a multiple

[[nodiscard]] const Theme& theme();
/// As the desktop has its windows: light ink on a dark ground, or the other way. Before applyTheme() sets its own.
[[nodiscard]] ThemeKind systemTheme();
/// Sets palette and font of the whole application, and the style sheet of the windows that wear the theme.
void applyTheme(ThemeKind kind);
/// The window wears the theme's style sheet from now on. The sheet is the window's and not the application's: what is
/// built without a parent, and put into the window then, is polished once; under a sheet each step of a widget into its
/// parent polishes all that is below it anew.
void wearTheme(QWidget& window);
/// While it lives, what is painted is painted as on white paper, by lines that survive in SVG and PDF; the widgets keep
/// their theme.
class PaperScope {
public:
    PaperScope();
    ~PaperScope();
    PaperScope(const PaperScope&) = delete;
    PaperScope& operator=(const PaperScope&) = delete;

private:
    Theme before_;
};
/// The interface's font at a size in points relative to the body's.
[[nodiscard]] QFont font(double scale, QFont::Weight weight = QFont::Normal);
/// Loss or the unknown: never a plain colour.
[[nodiscard]] QBrush hatching(const QColor& colour, bool dense);
[[nodiscard]] inline QString qs(const std::string& s) { return QString::fromStdString(s); }

} // namespace otterstone::app
