#include "app/live/recipe_panel.h"

#include <QFontDatabase>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "app/widgets/on_screen.h"

namespace otterstone::app {

RecipePanel::RecipePanel(LiveBench& live, QWidget* parent)
    : SidePanel(tr("Recipe"), parent), live_(live), text_(new QPlainTextEdit), wrong_(new QLabel), will_(new QLabel),
      save_(new QPushButton(tr("Keep it"))) {
    auto* words = new QLabel(tr(
        "Change what you like; give it a new “key” and “name” to keep the one it came from. docs/live-bench.md explains every word."));
    words->setWordWrap(true);
    words->setObjectName(QStringLiteral("faint"));
    body()->addWidget(words);
    text_->setFont(QFontDatabase::systemFont(QFontDatabase::FixedFont));
    text_->setAccessibleName(tr("The recipe's text"));
    text_->setTabChangesFocus(true);
    text_->setMinimumSize(300, 160);
    body()->addWidget(text_, 1);
    wrong_->setObjectName(QStringLiteral("problem"));
    for (QLabel* l : {wrong_, will_}) {
        l->setWordWrap(true);
        body()->addWidget(l);
    }
    save_->setObjectName(QStringLiteral("primary"));
    body()->addWidget(save_, 0, Qt::AlignLeft);
    connect(text_, &QPlainTextEdit::textChanged, this, &RecipePanel::check);
    connect(save_, &QPushButton::clicked, this, [this] {
        const std::string json = text_->toPlainText().toStdString();
        if (auto saved = live_.saveRecipe(json); !saved) {
            Q_EMIT problem(qs(saved.error().sentence()));
        } else {
            Q_EMIT kept(bench::recipeFromJson(json, "recipe")->key);
            Q_EMIT closed();
        }
    });
}

void RecipePanel::open(const QString& json, const records::Bank& bank) {
    bank_ = bank;
    text_->setPlainText(json);
    text_->setFocus();
}

void RecipePanel::check() {
    const auto recipe = bench::recipeFromJson(text_->toPlainText().toStdString(), "recipe");
    wrong_->setText(recipe ? QString() : qs(recipe.error().sentence()));
    wrong_->setVisible(!recipe);
    save_->setEnabled(recipe.has_value());
    will_->setVisible(recipe.has_value());
    if (!recipe)
        return;
    QStringList lines;
    for (const std::string& sentence : bench::describe(*recipe, bank_.label))
        lines << QStringLiteral("%1.  %2").arg(lines.size() + 1).arg(onScreen(sentence));
    will_->setText(lines.join(QLatin1Char('\n')));
}

} // namespace otterstone::app
