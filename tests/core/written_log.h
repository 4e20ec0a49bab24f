// Logs as a tester would tell them, for the tables of tests/cases.
#pragma once

#include <cmath>
#include <random>

#include <QStringList>

#include "core/quantity/parse.h"
#include "core/trace/trace.h"

namespace otterstone::tests {

/// Samples of a log as the tables write it: see the head of tests/cases/phases.txt.
class WrittenLog {
public:
    explicit WrittenLog(const QString& text) {
        const QStringList pieces = text.split(QLatin1Char(';'));
        for (const QString& piece : pieces)
            add(piece.split(QLatin1Char(' '), Qt::SkipEmptyParts));
    }
    [[nodiscard]] const trace::Trace& trace() const { return t_; }
    [[nodiscard]] bool good() const { return good_; }

private:
    struct Line {
        double from = 0.0, to = 0.0, decay = 0.0; ///< decay: seconds
        [[nodiscard]] double at(double x, double length) const {
            return decay > 0.0 ? from * std::exp(-x / decay) : from + (to - from) * (length > 0.0 ? x / length : 0.0);
        }
    };
    double seconds(const QString& text) {
        const auto s = parseDuration(text.toStdString(), {}, 1.0);
        good_ = good_ && s.has_value();
        return s.value_or(0.0);
    }
    Line line(QString word) {
        const qsizetype wave = word.indexOf(QLatin1Char('~'));
        Line l;
        if (wave >= 0)
            l.decay = seconds(word.mid(wave + 1));
        word = wave >= 0 ? word.left(wave) : word;
        word.chop(1); // its unit
        const QStringList ends = word.split(QLatin1Char('>'));
        l.from = ends.first().toDouble();
        l.to = ends.last().toDouble();
        return l;
    }
    void add(QStringList words) {
        double noise = 0.0;
        for (qsizetype k = words.size() - 1; k >= 0; --k) {
            if (words[k] == QStringLiteral("every")) {
                step_ = seconds(words[k + 1]);
                words.remove(k, 2);
            } else if (words[k].startsWith(QLatin1Char('n'))) {
                noise = words[k].mid(1).chopped(1).toDouble() / 100.0;
                words.removeAt(k);
            }
        }
        if (words.size() != 3) {
            good_ = false;
            return;
        }
        const bool counted = words[0].endsWith(QLatin1Char('x'));
        const double length = counted ? words[0].chopped(1).toDouble() * step_ : seconds(words[0]);
        const Line volts = line(words[1]), amps = line(words[2]);
        std::normal_distribution<double> scatter(1.0, noise > 0.0 ? noise : 1.0);
        for (double x = 0.0; x < length - step_ * 1e-6; x += step_) {
            t_.time.push_back(next_);
            next_ += step_;
            t_.volts.push_back(volts.at(x, length));
            t_.amps.push_back(amps.at(x, length) * (noise > 0.0 ? scatter(random_) : 1.0));
        }
    }

    trace::Trace t_;
    double step_ = 1.0, next_ = 0.0;
    std::mt19937 random_{7};
    bool good_ = true;
};

} // namespace otterstone::tests
