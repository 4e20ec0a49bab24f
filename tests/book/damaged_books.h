// Copies of the demo book as strangers and dying disks leave them: bits that flipped, files that were cut, cells of
// another kind, foreign schemas. The same five hundred each time; the command line and the window are both given them.
#pragma once

#include <functional>
#include <random>

#include <QFile>
#include <QFileInfo>
#include <QTemporaryDir>
#include <QTest>

#include "book/attached/attachments.h"
#include "book/demo/demo.h"
#include "book/store/sql.h"
#include "core/setup/method.h"

namespace otterstone::testing {

class DamagedBooks {
public:
    struct Copy {
        QString path; ///< of a name of its own; whoever visits it may change it
        QString what; ///< was done to it
        int number;   ///< within its kind
    };
    /// Looks at one copy; false ends the walk.
    using Visit = std::function<bool(const Copy&)>;
    struct Schema {
        const char* name;
        QStringList statements;
        const char* says; ///< what is said of it when it is refused
    };

    /// The demo, with something in every table.
    [[nodiscard]] bool prepare() {
        whole_ = folder_.filePath(QStringLiteral("whole.otterstone"));
        auto demo = book::makeDemo(whole_);
        return demo &&
               (*demo)->save(records::PlannedRun{records::kNew, (*demo)->banks().front().id, records::Kind::Drain, "",
                                                 "", "by hand", false}) &&
               (*demo)->publish({records::kNew, "comparison", "2026-05-01", setup::kMethodVersion,
                                 "{\"figures\": [], \"means\": {}}"}) &&
               book::attach(**demo, {{records::kNew, (*demo)->banks().front().id, records::kNew, "label.jpg", "",
                                      "image/jpeg", 8, 8, 4, "", true},
                                     "none",
                                     "none"}) &&
               (*demo)->setChoice("needs", "{\"needs\": [], \"days\": 1}") && (*demo)->rememberMapping("t,v,a", {});
    }
    [[nodiscard]] QString whole() const { return whole_; }

    /// A copy of its own name; the one before is taken away, though perhaps still open (after a crash the last one is
    /// there to be looked at).
    [[nodiscard]] QString copy() {
        for (const char* part : {"", "-journal", "-wal", "-shm"})
            QFile::remove(last_ + QLatin1String(part));
        last_ = folder_.filePath(QStringLiteral("damaged-%1.otterstone").arg(++copies_));
        QFile::copy(whole_, last_);
        return last_;
    }
    /// With foreign keys and checks off: what a stranger's tool can write. False where SQLite itself has nothing of it.
    static bool change(const QString& path, const QStringList& statements) {
        try {
            book::Connection c(path, book::Connection::Mode::ReadWrite);
            c.run("PRAGMA foreign_keys = OFF");
            c.run("PRAGMA ignore_check_constraints = ON");
            for (const QString& s : statements)
                c.run(s.toUtf8().constData());
            return true;
        } catch (const book::SqlError&) {
            return false;
        }
    }

    void flipped(int many, const Visit& visit) {
        for (int k = 0; k < many; ++k) {
            const QString path = copy();
            QFile file(path);
            if (!file.open(QIODevice::ReadWrite))
                return;
            QByteArray bytes = file.readAll();
            const unsigned bits = 1 + any(20);
            for (unsigned n = 0; n < bits; ++n) {
                const auto at =
                    static_cast<qsizetype>(k % 3 == 0 ? any(4096) : any(static_cast<std::size_t>(bytes.size())));
                bytes[at] = static_cast<char>(bytes[at] ^ (1 << any(8)));
            }
            file.seek(0);
            file.write(bytes);
            file.close();
            if (!visit({path, QStringLiteral("flipped %1").arg(k), k}))
                return;
        }
    }
    void cut(int many, const Visit& visit) {
        for (int k = 0; k < many; ++k) {
            const QString path = copy();
            if (!QFile::resize(path, static_cast<qint64>(any(static_cast<std::size_t>(QFileInfo(path).size())))) ||
                !visit({path, QStringLiteral("cut %1").arg(k), k}))
                return;
        }
    }
    /// Rows of a test that walks them in so many parts: each row has Qt Test's five minutes, also on a slow machine.
    static void rounds(int many) {
        QTest::addColumn<int>("round");
        for (int k = 0; k < many; ++k)
            QTest::addRow("round %d", k + 1) << k;
    }
    static constexpr int kRounds = 6;
    /// Every second column of each table with something that it should not hold, the others in the next round, then
    /// something else; the number of copies made.
    int cells(int round, const Visit& visit) {
        std::vector<std::pair<QString, QString>> columns;
        {
            book::Connection c(whole_, book::Connection::Mode::ReadOnly);
            auto q = c.run(
                "SELECT m.name, x.name FROM sqlite_master m, pragma_table_xinfo(m.name) x WHERE m.type = 'table' AND m.name NOT LIKE 'sqlite%'");
            while (q.next())
                columns.emplace_back(QString::fromStdString(q.value(0).text()),
                                     QString::fromStdString(q.value(1).text()));
        }
        const QStringList wrong{"'nonsense'",
                                "x'ff00'",
                                "1e308",
                                "-9223372036854775807",
                                "NULL",
                                "'[1, {\"a\": 1e400}]'",
                                "'{\"clock_factor\": 1e308, \"point\": 3, \"target\": [], \"recipe\": {}}'",
                                "zeroblob(3000000)",
                                "9e999"};
        int made = 0;
        for (auto k = static_cast<std::size_t>(round % 2); k < columns.size(); k += 2) {
            const QString& value = wrong[static_cast<qsizetype>((k + static_cast<std::size_t>(round / 2) * 4) %
                                                                static_cast<std::size_t>(wrong.size()))];
            const QString path = copy();
            const auto& [table, column] = columns[k];
            if (!change(path,
                        {QStringLiteral("UPDATE \"%1\" SET \"%2\" = %3 WHERE rowid = (SELECT min(rowid) FROM \"%1\")")
                             .arg(table, column, value)}) &&
                !change(path, {QStringLiteral("UPDATE \"%1\" SET \"%2\" = %3")
                                   .arg(table, column, QString(value).replace("3000000", "3000"))}))
                continue;
            if (!visit({path, table + "." + column + " = " + value, made++}))
                return made;
        }
        return made;
    }
    static const std::vector<Schema>& schemas() {
        static const std::vector<Schema> all{
            {"a trigger", {"CREATE TRIGGER t AFTER DELETE ON run BEGIN DELETE FROM bank; END"}, "trigger"},
            {"a view for a table",
             {"ALTER TABLE gear RENAME TO other", "CREATE VIEW gear AS SELECT * FROM other"},
             "which no book has"},
            {"a view without end for a table",
             {"DROP TABLE mark",
              "CREATE VIEW mark AS WITH RECURSIVE n(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n) SELECT x AS run_id, x AS position, 1.0 AS at_s, 'note' AS what, 1 AS number, '' AS text FROM n"},
             "mark"},
            {"a virtual table",
             {"DROP TABLE mark", "CREATE VIRTUAL TABLE mark USING fts5(run_id, position, at_s, what, number, text)"},
             "which no book has"},
            {"a table less", {"DROP TABLE house"}, "has no table “house”"},
            {"a table more", {"CREATE TABLE extra (x)"}, "which no book has"},
            {"a column less", {"ALTER TABLE bank DROP COLUMN price"}, "bank"},
            {"a column more", {"ALTER TABLE bank ADD COLUMN secret"}, "bank"},
            {"a computed column",
             {"ALTER TABLE bank DROP COLUMN price", "ALTER TABLE bank ADD COLUMN price AS (abs(-1))"},
             "bank"},
            {"another view",
             {"DROP VIEW run_overview", "CREATE VIEW run_overview AS SELECT randomblob(1000000) AS run FROM run"},
             "run_overview"},
            {"a version of none of ours", {"PRAGMA user_version = 0"}, ""},
            {"another application's", {"PRAGMA application_id = 7"}, "not an Otterstone book"},
            {"a version to come", {"PRAGMA user_version = 1000"}, "newer"},
        };
        return all;
    }

private:
    unsigned any(std::size_t below) {
        return std::uniform_int_distribution<unsigned>(0, static_cast<unsigned>(below) - 1)(random_);
    }

    QTemporaryDir folder_;
    QString whole_, last_;
    int copies_ = 0;
    std::mt19937 random_{14};
};

} // namespace otterstone::testing
