#include <algorithm>

#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "book/store/record_store.h"
#include "core/label/members.h"
#include "core/quantity/say.h"
#include "core/records/tags.h"

namespace otterstone::book {

namespace {

constexpr int kFirstOfLabel = 10; // the columns before it are named in each statement

// The columns of a member; a size has one for each side.
template<class T>
void addColumns(std::vector<std::string>& all, const char* key, const T&) {
    all.emplace_back(key);
}
void addColumns(std::vector<std::string>& all, const char*, const std::optional<label::SizeMm>&) {
    all.insert(all.end(), {"length_mm", "width_mm", "height_mm"});
}

// What is printed on a bank or a port has its columns in the order of its list, each followed by `then`: ", a, b",
// ", a=?, b=?".
template<class Printed>
std::string columnsOf(const char* then = "") {
    std::vector<std::string> all;
    const Printed blank;
    label::eachMember(blank, [&](const char* key, const auto& member) { addColumns(all, key, member); });
    std::string text;
    for (const std::string& column : all)
        text += ", " + column + then;
    return text;
}

std::string selectBanks() {
    return "SELECT id, name, notes, past, measured_g, measured_g_expanded, measured_length_mm, measured_width_mm,"
           " measured_height_mm, tags" +
           columnsOf<label::Label>() + " FROM bank WHERE removed = 0";
}

template<class T>
void read(std::optional<T>& into, std::optional<double> number) {
    if (number)
        into = T(*number);
}

template<class Tag>
std::optional<double> plain(const std::optional<Amount<Tag>>& a) {
    return a ? std::optional(a->value) : std::nullopt;
}

std::optional<label::SizeMm> sizeAt(const Row& row, int first) {
    return row.empty(first)
               ? std::nullopt
               : std::optional(label::SizeMm{row.number(first), row.number(first + 1), row.number(first + 2)});
}

// One member after the other, each from its cells.
class FromRow {
public:
    FromRow(const Row& row, int first) : row_(row), at_(first) {}

    template<class T>
    void operator()(const char*, std::optional<T>& into) {
        read(into, row_.maybe(at_++));
    }
    void operator()(const char*, std::optional<int>& months) {
        if (const auto whole = row_.maybeWhole(at_++))
            months = static_cast<int>(std::clamp(*whole, 0LL, 12'000LL));
    }
    void operator()(const char*, std::optional<label::SizeMm>& size) {
        size = sizeAt(row_, at_);
        at_ += 3;
    }
    void operator()(const char*, std::string& text) { text = row_.text(at_++); }
    void operator()(const char*, bool& yes) { yes = row_.flag(at_++); }
    void operator()(const char* key, std::vector<label::Tier>& tiers) {
        readLine(row_.text(at_++), key, label::parseTiers, tiers);
    }
    void operator()(const char* key, std::vector<label::SharedLimit>& shared) {
        readLine(row_.text(at_++), key, label::parseShared, shared);
    }
    void operator()(const char* key, std::vector<label::ChargesClaim>& charges) {
        readLine(row_.text(at_++), key, label::parseCharges, charges);
    }

private:
    const Row& row_;
    int at_;
};

// The same, into a statement.
class Bound {
public:
    explicit Bound(Answer& into) : into_(into) {}

    template<class T>
    void operator()(const char*, const std::optional<T>& value) {
        add(value);
    }
    template<class Tag>
    void operator()(const char*, const std::optional<Amount<Tag>>& value) {
        add(plain(value));
    }
    void operator()(const char*, const std::optional<label::SizeMm>& size) {
        for (const auto side : {&label::SizeMm::length, &label::SizeMm::width, &label::SizeMm::height})
            add(size ? std::optional((*size).*side) : std::nullopt);
    }
    void operator()(const char*, const std::string& text) { add(text); }
    void operator()(const char*, bool yes) { add(yes); }
    void operator()(const char*, const std::vector<label::Tier>& tiers) { add(label::showTiers(tiers)); }
    void operator()(const char*, const std::vector<label::SharedLimit>& shared) { add(label::showShared(shared)); }
    void operator()(const char*, const std::vector<label::ChargesClaim>& charges) { add(label::showCharges(charges)); }
    template<class T>
    void add(const T& value) {
        into_.bind(value);
    }

private:
    Answer& into_;
};

std::vector<label::Port> loadPorts(Connection& c, Id bank) {
    std::vector<label::Port> ports;
    Answer q = c.run(
        ("SELECT id, name, direction" + columnsOf<label::Port>() + " FROM port WHERE bank_id = ? ORDER BY position")
            .c_str(),
        bank);
    const Row row(q);
    while (q.next()) {
        label::Port p;
        p.name = row.text(1);
        p.direction = directionFromKey(row.text(2));
        label::eachMember(p, FromRow(row, 3));
        Answer t =
            c.run("SELECT low_volts, high_volts, amps FROM tier WHERE port_id = ? ORDER BY position", row.whole(0));
        const Row tier(t);
        while (t.next())
            p.tiers.push_back({Volts(tier.number(0)), Volts(tier.number(1)), Amps(tier.number(2))});
        ports.push_back(std::move(p));
    }
    return ports;
}

void storePorts(Connection& c, Id bank, const std::vector<label::Port>& ports) {
    c.run("DELETE FROM port WHERE bank_id = ?", bank);
    const std::string columns = columnsOf<label::Port>();
    std::string places;
    for (auto left = std::count(columns.begin(), columns.end(), ','); left > 0; --left)
        places += ",?";
    const std::string insert =
        "INSERT INTO port (bank_id, position, name, direction" + columns + ") VALUES (?,?,?,?" + places + ")";
    int position = 0;
    for (const label::Port& p : ports) {
        Answer q = c.prepare(insert.c_str());
        Bound bound(q);
        bound.add(bank);
        bound.add(position++);
        bound.add(p.name);
        bound.add(directionKey(p.direction));
        label::eachMember(p, bound);
        q.execute();
        const Id id = q.lastInsertId();
        int tier = 0;
        for (const label::Tier& t : p.tiers)
            c.run("INSERT INTO tier VALUES (?,?,?,?,?)", id, tier++, t.low.value, t.high.value, t.amps.value);
    }
}

Bank readBank(Connection& c, const Row& row) {
    Bank b;
    b.id = row.whole(0);
    b.name = row.text(1);
    b.notes = row.text(2);
    b.past = pastFrom(objectIn(row.text(3), "past"));
    if (const auto grams = row.maybe(4))
        b.scale.grams = Stated(*grams, row.maybe(5));
    b.scale.size = sizeAt(row, 6);
    b.tags = records::parseTags(row.text(9));
    label::eachMember(b.label, FromRow(row, kFirstOfLabel));
    b.label.ports = loadPorts(c, b.id);
    return b;
}

} // namespace

std::vector<Bank> loadBanks(Connection& c) {
    std::vector<Bank> banks;
    Answer q = c.run((selectBanks() + " ORDER BY id").c_str());
    const Row row(q);
    while (q.next()) {
        try {
            banks.push_back(readBank(c, row));
        } catch (const Damage& damage) {
            c.passOver(say("bank {}", q.value(0).text()), damage);
        }
    }
    return banks;
}

std::optional<Bank> loadBank(Connection& c, Id id) {
    Answer q = c.run((selectBanks() + " AND id = ?").c_str(), id);
    const Row row(q);
    return q.next() ? std::optional(readBank(c, row)) : std::nullopt;
}

Id storeBank(Connection& c, const Bank& b) {
    Id id = b.id;
    if (id == kNew)
        id = c.run("INSERT INTO bank (name) VALUES ('')").lastInsertId();
    Answer q = c.prepare(("UPDATE bank SET name=?, notes=?, past=?, measured_g=?, measured_g_expanded=?,"
                          " measured_length_mm=?, measured_width_mm=?, measured_height_mm=?, tags=?" +
                          columnsOf<label::Label>("=?") + " WHERE id=?")
                             .c_str());
    Bound bound(q);
    bound.add(b.name);
    bound.add(b.notes);
    bound.add(jsonText(pastJson(b.past)));
    bound.add(b.scale.grams ? std::optional(b.scale.grams->value) : std::nullopt);
    bound.add(b.scale.grams ? b.scale.grams->expanded : std::nullopt);
    bound("", b.scale.size);
    bound.add(records::showTags(b.tags));
    label::eachMember(b.label, bound);
    bound.add(id);
    q.execute();
    storePorts(c, id, b.label.ports);
    return id;
}

} // namespace otterstone::book
