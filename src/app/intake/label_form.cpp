#include "app/intake/label_form.h"

#include <algorithm>

#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QStyle>
#include <QVBoxLayout>

#include "app/intake/port_table.h"
#include "app/theme.h"
#include "core/label/size_text.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/records/tags.h"

namespace otterstone::app {

namespace {

using Write = std::function<Result<void>(records::Bank&, const std::string&)>;
using Read = std::function<QString(const records::Bank&)>;

// An optional positive number of the label: empty text clears it. `scale` is what one unit of the field is in the
// label's.
template<class T>
std::pair<Read, Write> number(std::optional<T> label::Label::*member, const char* name, double scale = 1.0,
                              Expect expect = Expect::AnyNumber) {
    const auto plain = [](const T& v) {
        if constexpr (requires { v.value; })
            return v.value;
        else
            return static_cast<double>(v);
    };
    return {[=](const records::Bank& b) {
                const auto& v = b.label.*member;
                return v ? qs(showNumber(plain(*v) / scale, 7)) : QString();
            },
            [=](records::Bank& b, const std::string& text) -> Result<void> {
                if (trimmed(text).empty()) {
                    (b.label.*member).reset();
                    return {};
                }
                const auto v = parseNumber(text, name, expect);
                if (!v)
                    return tl::unexpected(v.error());
                if (*v <= 0.0)
                    return problem("not_positive", name, "must be greater than 0.");
                b.label.*member = T(*v * scale);
                return {};
            }};
}

// Words of how it was bought, as typed.
std::pair<Read, Write> words(std::string records::Bought::*member) {
    return {[=](const records::Bank& b) { return qs(b.past.bought.*member); },
            [=](records::Bank& b, const std::string& text) -> Result<void> {
                b.past.bought.*member = std::string(trimmed(text));
                return {};
            }};
}

QString sizeText(const std::optional<label::SizeMm>& s) { return s ? qs(label::showSize(*s)) : QString(); }

Result<void> readSize(std::optional<label::SizeMm>& into, const std::string& text) {
    if (trimmed(text).empty()) {
        into.reset();
        return {};
    }
    const auto size = label::parseSize(text, "size");
    if (!size)
        return tl::unexpected(size.error());
    into = *size;
    return {};
}

Result<void> readRecharge(records::Bank& b, const std::string& text) {
    if (trimmed(text).empty()) {
        b.label.rechargeTime.reset();
        return {};
    }
    const auto seconds = parseDuration(text, "recharge time", 3600.0);
    if (!seconds)
        return tl::unexpected(seconds.error());
    b.label.rechargeTime = Hours(*seconds / 3600.0);
    return {};
}

QLabel* heading(const QString& words) {
    auto* label = new QLabel(words);
    label->setFont(app::font(1.05, QFont::DemiBold));
    label->setContentsMargins(0, kGrid, 0, 0);
    return label;
}

// Of fields: name, field, unit; name, field, unit.
QGridLayout* twoColumns() {
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(kGrid);
    grid->setVerticalSpacing(kGrid / 2);
    grid->setColumnStretch(1, 1);
    grid->setColumnStretch(4, 1);
    return grid;
}

} // namespace

LabelForm::LabelForm(QWidget* parent)
    : QWidget(parent), ports_(new PortTable),
      passThrough_(new QCheckBox(tr("charges and gives at once (pass-through)"))),
      lowCurrent_(new QCheckBox(tr("a low-current mode"))), notes_(new QPlainTextEdit), problem_(new QLabel) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid);
    QGridLayout* grid = twoColumns();
    const auto add = [&](int row, int column, const QString& name, const QString& unit, const QString& example,
                         std::pair<Read, Write> rw) {
        addField(grid, row, column, name, unit, example, std::move(rw.first), std::move(rw.second));
    };
    using L = label::Label;
    add(0, 0, tr("Name"), {}, tr("e.g. Pebble 5"),
        {[](const records::Bank& b) { return qs(b.name); },
         [](records::Bank& b, const std::string& text) -> Result<void> {
             if (trimmed(text).empty())
                 return problem("no_name", "name", "a bank needs a name.",
                                "Any name will do; you can change it later.");
             b.name = std::string(trimmed(text));
             return {};
         }});
    add(0, 3, tr("Also printed"), {}, tr("e.g. 15.4V 18.5Wh"),
        {[](const records::Bank& b) { return qs(b.label.alsoPrinted); },
         [](records::Bank& b, const std::string& text) -> Result<void> {
             b.label.alsoPrinted = text;
             return {};
         }});
    add(1, 0, tr("Capacity"), tr("mAh"), tr("of the cells"),
        number(&L::capacity, "capacity", 1e-3, Expect::WholeNumber));
    add(1, 3, tr("Cell voltage"), tr("V"), tr("usually 3.7"), number(&L::cellVolts, "cell voltage"));
    add(2, 0, tr("Energy"), tr("Wh"), tr("if printed"), number(&L::energy, "energy"));
    add(2, 3, tr("Total output"), tr("W"), {}, number(&L::totalWatts, "total output"));
    add(3, 0, tr("Rated output"), tr("mAh"), {}, number(&L::outputCapacity, "rated output", 1e-3, Expect::WholeNumber));
    add(3, 3, tr("stated at"), tr("V"), tr("usually 5"), number(&L::outputVolts, "rated output voltage"));
    add(4, 0, tr("Recharge claim"), {}, tr("e.g. 1h50, 2.4 h"),
        {[](const records::Bank& b) {
             return b.label.rechargeTime ? qs(showDuration(b.label.rechargeTime->value * 3600.0)) : QString();
         },
         readRecharge});
    add(4, 3, tr("with input of"), tr("W"), {}, number(&L::inputWatts, "input watts"));
    add(5, 0, tr("Weight"), tr("g"), {}, number(&L::weightGrams, "weight"));
    add(5, 3, tr("Size"), tr("mm"), tr("106 × 68 × 25"),
        {[](const records::Bank& b) { return sizeText(b.label.size); },
         [](records::Bank& b, const std::string& text) { return readSize(b.label.size, text); }});
    add(6, 0, tr("Price"), {}, {}, number(&L::price, "price"));
    add(6, 3, tr("Warranty"), tr("months"), {}, number(&L::warrantyMonths, "warranty"));
    add(7, 0, tr("Together"), {}, tr("C1 45 W + A 15 W; …"),
        {[](const records::Bank& b) { return qs(label::showShared(b.label.shared)); },
         [](records::Bank& b, const std::string& text) -> Result<void> {
             auto shared = label::parseShared(text, "together");
             if (!shared)
                 return tl::unexpected(shared.error());
             b.label.shared = std::move(*shared);
             return {};
         }});
    add(7, 3, tr("Charges"), {}, tr("4 × 12.4 Wh tablet; 9 × torch"),
        {[](const records::Bank& b) { return qs(label::showCharges(b.label.charges)); },
         [](records::Bank& b, const std::string& text) -> Result<void> {
             if (trimmed(text).empty()) {
                 b.label.charges.clear();
                 return {};
             }
             auto charges = label::parseCharges(text, "charges");
             if (!charges)
                 return tl::unexpected(charges.error());
             b.label.charges = std::move(*charges);
             return {};
         }});
    add(8, 0, tr("On the scale"), tr("g"), tr("e.g. 352 ± 1"),
        {[](const records::Bank& b) {
             return b.scale.grams ? qs(showNumber(b.scale.grams->value)) +
                                        (b.scale.grams->expanded
                                             ? QStringLiteral(" ± ") + qs(showNumber(*b.scale.grams->expanded))
                                             : QString())
                                  : QString();
         },
         [](records::Bank& b, const std::string& text) -> Result<void> {
             if (trimmed(text).empty()) {
                 b.scale.grams.reset();
                 return {};
             }
             const auto grams = parseMeasured(text, "on the scale", ErrorSource::ofBench("", "the scale"));
             if (!grams)
                 return tl::unexpected(grams.error());
             if (grams->value() <= 0.0)
                 return problem("not_positive", "on the scale", "must be greater than 0.");
             b.scale.grams = Stated::of(*grams);
             return {};
         }});
    add(8, 3, tr("By the rule"), tr("mm"), tr("106 × 68 × 25"),
        {[](const records::Bank& b) { return sizeText(b.scale.size); },
         [](records::Bank& b, const std::string& text) { return readSize(b.scale.size, text); }});
    add(9, 0, tr("Total current"), tr("A"), tr("if printed"), number(&L::totalAmps, "total current"));
    all->addLayout(grid);
    problem_->setObjectName(QStringLiteral("problem"));
    problem_->setWordWrap(true);
    problem_->hide();
    all->addWidget(problem_);
    all->addWidget(heading(tr("Ports and their tiers")));
    all->addWidget(ports_, 1);
    all->addWidget(heading(tr("It also claims")));
    auto* claims = new QHBoxLayout;
    claims->addWidget(passThrough_);
    claims->addWidget(lowCurrent_);
    claims->addStretch();
    all->addLayout(claims);
    all->addWidget(heading(tr("How it came")));
    grid = twoColumns();
    using B = records::Bought;
    add(0, 0, tr("Bought at"), {}, tr("the shop"), words(&B::where));
    add(0, 3, tr("Paid"), {}, tr("e.g. 54.90 EUR"),
        {[](const records::Bank& b) { return qs(records::showPaid(b.past.bought)); },
         [](records::Bank& b, const std::string& text) { return records::parsePaid(text, "paid", b.past.bought); }});
    add(1, 0, tr("Ordered"), {}, tr("e.g. 2026-03-28"),
        {[](const records::Bank& b) { return qs(b.past.bought.orderedOn); },
         [](records::Bank& b, const std::string& text) {
             return records::parseDay(text, "ordered").map([&](std::string on) {
                 b.past.bought.orderedOn = std::move(on);
             });
         }});
    add(1, 3, tr("It came"), {}, tr("e.g. 2026-04-02 at 58 %"),
        {[](const records::Bank& b) { return qs(records::showCame(b.past)); },
         [](records::Bank& b, const std::string& text) { return records::parseCame(text, "it came", b.past); }});
    add(2, 0, tr("Model number"), {}, tr("on the plate or box"), words(&B::model));
    add(2, 3, tr("Markings"), {}, tr("e.g. CE, UN 38.3"), words(&B::markings));
    add(3, 0, tr("In the box"), {}, tr("cable 28 g; bag 12 g; leaflet"),
        {[](const records::Bank& b) { return qs(records::showContents(b.past.bought.contents)); },
         [](records::Bank& b, const std::string& text) {
             return records::parseContents(text, "in the box").map([&](std::vector<records::Content> contents) {
                 b.past.bought.contents = std::move(contents);
             });
         }});
    add(3, 3, tr("Specimen of"), {}, tr("another bank's name"),
        {[this](const records::Bank& b) { return nameOf(b.past.specimenOf); },
         [this](records::Bank& b, const std::string& text) { return readSpecimen(b, text); }});
    add(4, 0, tr("It counts itself"), {}, tr("2026-04-02: 312 Wh out, 41 cycles"),
        {[](const records::Bank& b) { return qs(records::showCounts(b.past.counts)); },
         [](records::Bank& b, const std::string& text) -> Result<void> {
             auto counts = records::parseCounts(text, "it counts itself");
             if (!counts)
                 return tl::unexpected(counts.error());
             b.past.counts = std::move(*counts);
             return {};
         }});
    const std::size_t counts = fields_.size() - 1;
    add(5, 0, tr("Tags"), {}, tr("loan; cabin"),
        {[](const records::Bank& b) { return qs(records::showTags(b.tags)); },
         [](records::Bank& b, const std::string& text) -> Result<void> {
             b.tags = records::parseTags(text);
             return {};
         }});
    QLineEdit* sentence = fields_[counts].edit; // no number: it has the room of both columns
    grid->removeWidget(sentence);
    grid->addWidget(sentence, 4, 1, 1, 4);
    all->addLayout(grid);
    all->addWidget(heading(tr("Notes")));
    notes_->setAccessibleName(tr("Notes"));
    notes_->setTabChangesFocus(true);
    notes_->setFixedHeight(56);
    all->addWidget(notes_);

    connect(ports_, &PortTable::edited, this, [this] {
        bank_.label.ports = ports_->ports();
        Q_EMIT typed();
        Q_EMIT committed();
    });
    for (QCheckBox* box : {passThrough_, lowCurrent_}) {
        connect(box, &QCheckBox::clicked, this, [this] {
            bank_.label.claimsPassThrough = passThrough_->isChecked();
            bank_.label.claimsLowCurrentMode = lowCurrent_->isChecked();
            Q_EMIT committed();
        });
    }
    connect(notes_, &QPlainTextEdit::textChanged, this, [this] {
        bank_.notes = notes_->toPlainText().toStdString();
        Q_EMIT committed();
    });
}

void LabelForm::addField(QGridLayout* grid, int row, int column, const QString& name, const QString& unit,
                         const QString& example, Read read, Write write) {
    auto* label = new QLabel(name);
    auto* edit = new QLineEdit;
    label->setBuddy(edit);
    edit->setPlaceholderText(example);
    edit->setAccessibleName(unit.isEmpty() ? name : name + QStringLiteral(", ") + unit);
    edit->setObjectName(name);
    grid->addWidget(label, row, column);
    grid->addWidget(edit, row, column + 1);
    auto* unitLabel = new QLabel(unit);
    unitLabel->setObjectName(QStringLiteral("faint"));
    unitLabel->setMinimumWidth(column == 0 ? 44 : 56);
    grid->addWidget(unitLabel, row, column + 2);
    fields_.push_back({edit, std::move(read), std::move(write)});
    const std::size_t at = fields_.size() - 1;
    connect(edit, &QLineEdit::textEdited, this, [this, at] { understand(fields_[at]); });
    connect(edit, &QLineEdit::editingFinished, this, [this, edit] {
        if (!problems_.contains(edit))
            Q_EMIT committed();
    });
}

QString LabelForm::nameOf(std::optional<records::Id> bank) const {
    const auto at =
        std::find_if(others_.begin(), others_.end(), [&](const auto& other) { return other.first == bank; });
    return at == others_.end() ? QString() : qs(at->second);
}

Result<void> LabelForm::readSpecimen(records::Bank& b, const std::string& text) const {
    if (trimmed(text).empty()) {
        b.past.specimenOf.reset();
        return {};
    }
    const auto at =
        std::find_if(others_.begin(), others_.end(), [&](const auto& other) { return other.second == trimmed(text); });
    if (at == others_.end() || at->first == b.id)
        return problem("no_bank", "specimen of", "no other bank on the shelf is called “" + text + "”.",
                       "Write its name as the shelf has it.");
    b.past.specimenOf = at->first;
    return {};
}

void LabelForm::show(const records::Bank& bank, std::vector<std::pair<records::Id, std::string>> others) {
    others_ = std::move(others);
    const bool same = bank.id == bank_.id;
    bank_ = bank;
    for (const Field& f : fields_) {
        // What is being typed right now is left alone.
        if (same && f.edit->hasFocus())
            continue;
        const QString text = f.read(bank);
        if (f.edit->text() != text)
            f.edit->setText(text);
        if (!same || !problems_.contains(f.edit)) {
            problems_.erase(f.edit);
            f.edit->setProperty("wrong", false);
        }
    }
    const QSignalBlocker a(passThrough_);
    const QSignalBlocker b(lowCurrent_);
    const QSignalBlocker c(notes_);
    passThrough_->setChecked(bank.label.claimsPassThrough);
    lowCurrent_->setChecked(bank.label.claimsLowCurrentMode);
    if (notes_->toPlainText() != qs(bank.notes))
        notes_->setPlainText(qs(bank.notes));
    ports_->show(bank.label.ports);
    showProblem();
}

void LabelForm::focusName() {
    fields_.front().edit->setFocus();
    fields_.front().edit->selectAll();
}

void LabelForm::understand(const Field& field) {
    const auto result = field.write(bank_, field.edit->text().toStdString());
    if (result)
        problems_.erase(field.edit);
    else
        problems_[field.edit] = qs(result.error().sentence());
    field.edit->setProperty("wrong", !result.has_value());
    field.edit->style()->unpolish(field.edit);
    field.edit->style()->polish(field.edit);
    showProblem();
    if (result)
        Q_EMIT typed();
}

void LabelForm::showProblem() {
    problem_->setVisible(!problems_.empty());
    problem_->setText(problems_.empty() ? QString() : problems_.begin()->second);
}

} // namespace otterstone::app
