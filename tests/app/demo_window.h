// The real window on a copy of the demo book of its own for each test.
#pragma once

#include <memory>

#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTest>

#include "app/main_window.h"
#include "app/theme.h"
#include "book/demo/demo.h"

namespace otterstone::testing {

class DemoWindow {
public:
    /// Once for all tests: the demo is made, and its findings are worked out if `warm`.
    [[nodiscard]] bool prepare(bool warm) {
        QStandardPaths::setTestModeEnabled(true);
        QCoreApplication::setOrganizationName(QStringLiteral("otterstone-test"));
        app::applyTheme(app::ThemeKind::Light);
        qputenv(
            "OTTERSTONE_SEED",
            "7"); // ± is for 95 %: with other errors each time, one rehearsal in twenty would rightly miss the truth
        const auto demo = book::makeDemo(file(QStringLiteral("demo.otterstone")));
        if (!demo)
            return false;
        for (const records::Bank& b : (*demo)->banks()) {
            for (const records::Run& r : (*demo)->runs(b.id)) {
                if (warm && !(*demo)->finding(r.id))
                    return false;
            }
        }
        return true;
    }
    [[nodiscard]] bool openCopy() {
        const QString path = file(QStringLiteral("demo-%1.otterstone").arg(++copies_));
        return QFile::copy(file(QStringLiteral("demo.otterstone")), path) && open(path);
    }
    [[nodiscard]] bool open(const QString& path) {
        window_ = std::make_unique<app::MainWindow>();
        window_->resize(1280, 800); // the offscreen platform's own screen is smaller; fit_test tries small ones
        window_->show();
        return window_->openBook(path) && QTest::qWaitForWindowActive(window_.get());
    }
    void close() { window_.reset(); }

    [[nodiscard]] QString file(const QString& name) const { return folder_.filePath(name); }
    [[nodiscard]] app::MainWindow* get() const { return window_.get(); }
    app::MainWindow* operator->() const { return window_.get(); }
    [[nodiscard]] book::Book& book() const { return window_->session().book(); }
    [[nodiscard]] records::Id bankNamed(const std::string& name) const {
        for (const records::Bank& b : book().banks()) {
            if (b.name == name)
                return b.id;
        }
        return records::kNew;
    }

private:
    QTemporaryDir folder_;
    std::unique_ptr<app::MainWindow> window_;
    int copies_ = 0;
};

} // namespace otterstone::testing
