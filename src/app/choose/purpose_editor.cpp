#include "app/choose/purpose_editor.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>

#include "app/theme.h"
#include "core/judgement/figure_keys.h"
#include "core/kinds/pass_through/pass_through.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

namespace {

// What most people ask of a bank before they weigh anything.
const std::vector<judgement::Gate>& commonGates() {
    static const std::vector<judgement::Gate> kAll = {
        {fig::flight, {"carry-on"}, {}, {}, "must fly in the cabin without asking"},
        {fig::passThrough, kinds::passingKeys(), {}, {}, "must give while it is charged"},
        {fig::wattsAlone, {}, 40.0, {}, "must give 40 W on one port"},
    };
    return kAll;
}

} // namespace

QString anchorText(const judgement::FigureKind& kind, double value) {
    if (kind.unit == Unit::Second)
        return qs(showDuration(value));
    return qs(showNumber(kind.unit == Unit::Share ? value * 100.0 : value));
}

Result<double> readAnchor(const judgement::FigureKind& kind, const std::string& text) {
    if (kind.unit == Unit::Second)
        return parseDuration(text, kind.words, 3600.0);
    const auto number = parseNumber(text, kind.words);
    return number && kind.unit == Unit::Share ? Result<double>(*number / 100.0) : number;
}

PurposeEditor::PurposeEditor(QWidget* parent) : QWidget(parent), problem_(new QLabel) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    problem_->setObjectName(QStringLiteral("problem"));
    problem_->setWordWrap(true);
    problem_->hide();
    all->addWidget(problem_);
}

void PurposeEditor::show(const judgement::Purpose& purpose) {
    // What is being typed stays while its own change comes back.
    if (body_ && purpose == purpose_)
        return;
    purpose_ = purpose;
    rebuild();
}

void PurposeEditor::tell(judgement::Purpose next) {
    problem_->hide();
    next.key = "own";
    next.words = "Own";
    next.about = "The house's own gates, anchors and weights.";
    Q_EMIT changed(next);
}

QLineEdit* PurposeEditor::field(const QString& text, const QString& name,
                                const std::function<Result<void>(const std::string&)>& read) {
    auto* edit = new QLineEdit(text);
    edit->setAccessibleName(name);
    edit->setFixedWidth(96);
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, text, read] {
        if (edit->text() == text)
            return;
        if (auto done = read(edit->text().toStdString()); !done) {
            problem_->setText(qs(done.error().sentence()));
            problem_->show();
        }
    });
    return edit;
}

void PurposeEditor::addScaleRow(QGridLayout* grid, std::size_t k) {
    const judgement::Scale& scale = purpose_.scales[k];
    const judgement::FigureKind& kind = *judgement::figureKind(scale.figure);
    const int row = static_cast<int>(k) + 1;
    const QString name = qs(kind.words);
    grid->addWidget(new QLabel(name), row, 0);
    const auto anchor = [this, k, &kind](double judgement::Scale::*which) {
        return [this, k, &kind, which](const std::string& text) -> Result<void> {
            const auto value = readAnchor(kind, text);
            if (!value)
                return tl::unexpected(value.error());
            judgement::Purpose next = purpose_;
            next.scales[k].*which = *value;
            if (next.scales[k].worst == next.scales[k].best)
                return problem("same_anchors", kind.words, "both anchors are the same.",
                               "Give what counts nothing and what counts fully.");
            tell(std::move(next));
            return {};
        };
    };
    grid->addWidget(field(qs(showNumber(scale.weight, 3)), tr("Weight of %1").arg(name),
                          [this, k](const std::string& text) -> Result<void> {
                              judgement::Purpose next = purpose_;
                              const auto value =
                                  trimmed(text).empty() ? Result<double>(0.0) : parseNumber(text, "weight");
                              if (!value)
                                  return tl::unexpected(value.error());
                              if (*value < 0.0)
                                  return problem("negative_weight", "weight", "a weight is not negative.",
                                                 "Swap the anchors when less is better.");
                              if (*value > 0.0)
                                  next.scales[k].weight = *value;
                              else if (next.scales.size() > 1)
                                  next.scales.erase(next.scales.begin() + static_cast<std::ptrdiff_t>(k));
                              else
                                  return problem("last_scale", "weight", "one figure at least must be weighed.",
                                                 "Add another first.");
                              tell(std::move(next));
                              return {};
                          }),
                    row, 1);
    grid->addWidget(
        field(anchorText(kind, scale.worst), tr("%1 that counts nothing").arg(name), anchor(&judgement::Scale::worst)),
        row, 2);
    grid->addWidget(
        field(anchorText(kind, scale.best), tr("%1 that counts fully").arg(name), anchor(&judgement::Scale::best)), row,
        3);
    auto* unit = new QLabel(kind.unit == Unit::Second ? QString() : qs(symbol(kind.unit)));
    unit->setObjectName(QStringLiteral("faint"));
    grid->addWidget(unit, row, 4);
}

void PurposeEditor::addGates(QGridLayout* grid, int row) {
    std::vector<judgement::Gate> all = purpose_.gates;
    for (const judgement::Gate& g : commonGates()) {
        if (std::none_of(all.begin(), all.end(), [&](const judgement::Gate& mine) { return mine.figure == g.figure; }))
            all.push_back(g);
    }
    for (const judgement::Gate& g : all) {
        auto* box = new QCheckBox(qs(g.words));
        box->setChecked(std::find(purpose_.gates.begin(), purpose_.gates.end(), g) != purpose_.gates.end());
        connect(box, &QCheckBox::clicked, this, [this, g](bool on) {
            judgement::Purpose next = purpose_;
            std::erase_if(next.gates, [&](const judgement::Gate& mine) { return mine.figure == g.figure; });
            if (on)
                next.gates.push_back(g);
            tell(std::move(next));
        });
        grid->addWidget(box, row++, 0, 1, 5);
    }
}

void PurposeEditor::rebuild() {
    if (body_) { // one of its fields may be what was just left
        body_->hide();
        body_->deleteLater();
    }
    body_ = new QWidget;
    auto* grid = new QGridLayout(body_);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(kGrid / 2);
    int column = 0;
    for (const QString& words : {tr("Weighed"), tr("weight"), tr("counts nothing"), tr("counts fully")}) {
        auto* heading = new QLabel(words);
        heading->setObjectName(QStringLiteral("faint"));
        grid->addWidget(heading, 0, column++);
    }
    for (std::size_t k = 0; k < purpose_.scales.size(); ++k)
        addScaleRow(grid, k);
    int row = static_cast<int>(purpose_.scales.size()) + 1;
    auto* add = new QComboBox;
    add->setAccessibleName(tr("Weigh one more figure"));
    add->addItem(tr("weigh one more…"));
    for (const judgement::FigureKind& kind : judgement::figureKinds()) {
        const bool there = std::any_of(purpose_.scales.begin(), purpose_.scales.end(),
                                       [&](const judgement::Scale& s) { return s.figure == kind.key; });
        if (!there && kind.better != judgement::Better::Neither)
            add->addItem(qs(kind.words), qs(kind.key));
    }
    connect(add, &QComboBox::activated, this, [this, add](int k) {
        const judgement::FigureKind* kind = judgement::figureKind(add->itemData(k).toString().toStdString());
        if (!kind)
            return;
        // Anchors to begin with, from a purpose that weighs it, else from nothing to one.
        judgement::Scale scale{kind->key, kind->better == judgement::Better::More ? 0.0 : 1.0,
                               kind->better == judgement::Better::More ? 1.0 : 0.0, 1.0};
        for (const judgement::Purpose& p : judgement::purposes()) {
            for (const judgement::Scale& s : p.scales) {
                if (s.figure == kind->key)
                    scale = {kind->key, s.worst, s.best, 1.0};
            }
        }
        judgement::Purpose next = purpose_;
        next.scales.push_back(scale);
        tell(std::move(next));
    });
    grid->addWidget(add, row++, 0);
    auto* gates = new QLabel(tr("Gates: without these a bank is out"));
    gates->setObjectName(QStringLiteral("faint"));
    grid->addWidget(gates, row++, 0, 1, 5);
    addGates(grid, row);
    grid->setColumnStretch(5, 1);
    layout()->addWidget(body_);
}

} // namespace otterstone::app
