// A stand-in of its own, a book, and a session: what tests of the live bench begin with. Everything goes over the real
// pseudo-terminal and TCP.
#pragma once

#include <QProcess>
#include <QSignalSpy>
#include <QTcpSocket>
#include <QTemporaryDir>
#include <QTest>

#include <nlohmann/json.hpp>

#include "bench/runner/session.h"
#include "book/store/book.h"
#include "core/model/bank_json.h"
#include "where.h"

namespace otterstone::testing {

class Standin {
public:
    explicit Standin(const QStringList& options = {}, const QString& bank = QStringLiteral("Pebble 5")) {
        start({QStringLiteral("--demo"), bank}, options);
    }
    /// With a bank of one's own.
    Standin(const QStringList& options, const model::Bank& bank) {
        QFile file(folder_.filePath(QStringLiteral("bank.json")));
        if (file.open(QIODevice::WriteOnly) && file.write(QByteArray::fromStdString(model::toJson(bank).dump())) > 0)
            file.close();
        start({QStringLiteral("--bank"), file.fileName()}, options);
    }
    ~Standin() {
        process_.terminate();
        process_.waitForFinished(3000);
    }

    [[nodiscard]] bool ok() const { return where_.is_object(); }
    [[nodiscard]] double speed() const { return where_.at("speed"); }
    [[nodiscard]] bench::Address at(const char* key) const {
        const auto& v = where_.at(key);
        return {v.is_string() ? QString::fromStdString(v.get<std::string>())
                              : QStringLiteral("127.0.0.1:%1").arg(v.get<int>())};
    }
    /// Says something to the bench's hands, or to one of its instruments, and returns the answer.
    QByteArray say(const QByteArray& line, const char* to = "control") {
        QTcpSocket socket;
        socket.connectToHost(QStringLiteral("127.0.0.1"), static_cast<quint16>(where_.at(to).get<int>()));
        if (!socket.waitForConnected(3000))
            return {};
        socket.write(line + '\n');
        while (!socket.canReadLine()) {
            if (!socket.waitForReadyRead(3000))
                return {};
        }
        return socket.readLine().trimmed();
    }
    [[nodiscard]] nlohmann::json truth() { return nlohmann::json::parse(say("TRUTh?").toStdString(), nullptr, false); }

private:
    void start(const QStringList& bank, const QStringList& options) {
        process_.start(where::standin(), QStringList{QStringLiteral("--folder"), folder_.path()} + bank + options);
        if (process_.waitForReadyRead(10000))
            where_ = nlohmann::json::parse(process_.readLine().toStdString(), nullptr, false);
    }
    QTemporaryDir folder_;
    QProcess process_;
    nlohmann::json where_;
};

inline bench::Profile builtin(const char* key) {
    for (const bench::Profile& p : bench::builtinProfiles()) {
        if (p.key == key)
            return p;
    }
    return {};
}

inline bench::Recipe recipe(const char* key) {
    for (const auto& r : bench::builtinRecipes()) {
        if (r.recipe.key == key)
            return r.recipe;
    }
    return {};
}

/// A new book with one bank.
struct OneBank {
    QTemporaryDir folder;
    QString path = folder.filePath(QStringLiteral("live.otterstone"));
    std::unique_ptr<book::Book> book;
    records::Id bank = records::kNew;
    OneBank() {
        book = std::move(*book::Book::create(path));
        records::Bank b;
        b.name = "Pebble 5";
        b.label.energy = WattHours(18.5);
        b.label.ports = {{"A", label::Direction::Out, {{Volts(5.0), Volts(5.0), Amps(2.4)}}, {}, {}}};
        bank = *book->save(b);
    }
};

/// A plan for this recipe on a stand-in. `rehearsed`: hands and clock of the stand-in are used.
inline bench::Plan planFor(const bench::Recipe& recipe, const OneBank& book, const Standin& standin,
                           bool rehearsed = true) {
    bench::Plan plan;
    plan.recipe = recipe;
    plan.book = book.path;
    plan.run.bank = book.bank;
    plan.label = book.book->bank(book.bank)->label;
    plan.rescueFolder = book.folder.path();
    const std::pair<const char*, const char*> all[] = {
        {"meter", "printing-meter"},        {"input meter", "printing-meter"}, {"load", "scpi-load"},
        {"second load", "scpi-load"},       {"trigger", "scpi-trigger"},       {"second trigger", "scpi-trigger"},
        {"thermometer", "scpi-thermometer"}};
    for (const auto& [role, profile] : all) {
        const auto names = [role = role](const std::vector<std::string>& list) {
            return std::find(list.begin(), list.end(), role) != list.end();
        };
        if (names(recipe.needs) || names(recipe.uses)) {
            std::string key = role;
            std::replace(key.begin(), key.end(), ' ', '_');
            plan.instruments[role] = {builtin(profile), standin.at(key.c_str())};
        }
    }
    if (rehearsed)
        plan.rehearsal = bench::Rehearsal{standin.at("control").text, standin.speed()};
    return plan;
}

/// Runs it to its end.
inline bench::Outcome runToEnd(bench::Session& session, const bench::Plan& plan, int milliseconds = 60000) {
    QSignalSpy ended(&session, &bench::Session::finished);
    session.start(plan);
    if (!ended.wait(milliseconds))
        return {};
    return qvariant_cast<bench::Outcome>(ended.first().first());
}

} // namespace otterstone::testing
