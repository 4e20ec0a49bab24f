#include "core/quantity/screen_form.h"

#include <charconv>
#include <cmath>
#include <optional>

#include "core/quantity/characters.h"
#include "core/quantity/format.h"

namespace otterstone {

namespace {

constexpr std::string_view kMinus = "−", kPlusMinus = " ± ", kDegrees = "°C";
constexpr std::string_view kNumberSpaces[] = {" ", "\u00A0", "\u202F"};

bool isWordy(char c) { return isLetter(c) || c == '_'; }

// A number as it stands in a text: digits, and perhaps a point and digits.
struct Figure {
    std::string_view digits;
    int decimals = 0;

    [[nodiscard]] double value() const {
        double v = 0.0;
        std::from_chars(digits.data(), digits.data() + digits.size(), v);
        return v;
    }
};

// Nothing where what begins there is no figure but a name, a version, an address, a piece of a path.
std::optional<Figure> figureAt(std::string_view text, std::size_t from) {
    std::size_t end = from;
    while (end < text.size() && isDigit(text[end]))
        ++end;
    Figure f;
    if (end + 1 < text.size() && text[end] == '.' && isDigit(text[end + 1])) {
        const std::size_t point = end++;
        while (end < text.size() && isDigit(text[end]))
            ++end;
        f.decimals = static_cast<int>(end - point - 1);
    }
    f.digits = text.substr(from, end - from);
    if (end < text.size() && isWordy(text[end]))
        return std::nullopt;
    if (end + 1 < text.size() && (text[end] == '.' || text[end] == '-') &&
        (isWordy(text[end + 1]) || isDigit(text[end + 1])))
        return std::nullopt;
    return f;
}

bool namesBefore(std::string_view before) {
    if (before.empty())
        return false;
    const char last = before.back();
    if (last == '-' && before.size() > 1)
        return isWordy(before[before.size() - 2]) || before[before.size() - 2] == '.';
    if (last == ',' && before.size() > 1)
        return isDigit(before[before.size() - 2]); // written so already
    return isWordy(last) || last == '.' || last == '/' || last == '\\' || last == '@';
}

// How long what belongs together is from there on: all of a version, an address, a word.
std::size_t nameLength(std::string_view rest) {
    std::size_t n = 0;
    while (n < rest.size() && (isDigit(rest[n]) || isWordy(rest[n]) ||
                               ((rest[n] == '.' || rest[n] == '-') && n + 1 < rest.size() &&
                                (isDigit(rest[n + 1]) || isWordy(rest[n + 1])))))
        ++n;
    return n;
}

// The length of a space and "°C" that begin there; 0 where they do not.
std::size_t degreesAt(std::string_view rest) {
    for (const std::string_view space : kNumberSpaces) {
        if (rest.starts_with(space) && rest.substr(space.size()).starts_with(kDegrees))
            return space.size() + kDegrees.size();
    }
    return 0;
}

// The sign that a figure at the end of `out` would have: a minus that no figure stands before.
std::string_view signAtEnd(const std::string& out) {
    const std::string_view all(out);
    for (const std::string_view minus : {kMinus, std::string_view("-")}) {
        if (all.ends_with(minus) && (all.size() == minus.size() || !isDigit(all[all.size() - minus.size() - 1])))
            return minus;
    }
    return {};
}

class InForm {
public:
    InForm(std::string_view text, const ScreenForm& form) : text_(text), form_(form) {}

    std::string whole() {
        while (at_ < text_.size()) {
            if (!isDigit(text_[at_])) {
                out_ += text_[at_++];
                continue;
            }
            const auto figure = namesBefore(text_.substr(0, at_)) ? std::nullopt : figureAt(text_, at_);
            if (!figure)
                take(nameLength(text_.substr(at_)));
            else if (!form_.fahrenheit || !takeDegrees(*figure))
                take(*figure);
        }
        return std::move(out_);
    }

private:
    void take(std::size_t length) {
        out_ += text_.substr(at_, length);
        at_ += length;
    }
    void take(const Figure& figure) {
        put(figure.digits);
        at_ += figure.digits.size();
    }
    void put(std::string_view digits) {
        for (const char c : digits)
            out_ += c == '.' ? form_.decimal : c;
    }
    // A temperature, with its ± where one is told.
    bool takeDegrees(const Figure& figure) {
        std::size_t after = at_ + figure.digits.size();
        std::optional<Figure> doubt;
        if (text_.substr(after).starts_with(kPlusMinus)) {
            const std::size_t from = after + kPlusMinus.size();
            if (from < text_.size() && isDigit(text_[from]))
                doubt = figureAt(text_, from);
            if (doubt)
                after = from + doubt->digits.size();
        }
        const std::size_t degrees = degreesAt(text_.substr(after));
        if (degrees == 0)
            return false;
        const std::string_view minus = signAtEnd(out_);
        const double value = fahrenheitOf(minus.empty() ? figure.value() : -figure.value());
        out_.resize(out_.size() - minus.size());
        const std::string digits = plainDigits(std::fabs(value), figure.decimals);
        if (value < 0.0 && digits.find_first_not_of("0.") != std::string::npos) // no "−0"
            out_ += kMinus;
        put(digits);
        if (doubt) {
            out_ += kPlusMinus;
            put(plainDigits(doubt->value() * 9.0 / 5.0, doubt->decimals));
        }
        out_ += text_.substr(after, degrees - 1);
        out_ += 'F';
        at_ = after + degrees;
        return true;
    }

    std::string_view text_;
    ScreenForm form_;
    std::size_t at_ = 0;
    std::string out_;
};

} // namespace

std::string inForm(std::string_view text, const ScreenForm& form) {
    return form.isPlain() ? std::string(text) : InForm(text, form).whole();
}

} // namespace otterstone
