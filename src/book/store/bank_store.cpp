#include <algorithm>

#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "book/store/record_store.h"

namespace otterstone::book {

namespace {

constexpr const char* kBankColumns =
    "SELECT id, name, notes, capacity_ah, cell_volts, energy_wh, output_capacity_ah, output_volts, also_printed, total_watts,"
    " total_amps, weight_g, length_mm, width_mm, height_mm, recharge_h, input_watts, price, currency, warranty_months,"
    " claims_pass_through, claims_low_current, shared, charges, measured_g, measured_g_expanded, measured_length_mm, measured_width_mm, measured_height_mm, past"
    " FROM bank WHERE removed = 0";

template<class T>
void read(std::optional<T>& into, std::optional<double> number) {
    if (number)
        into = T(*number);
}

template<class Tag>
std::optional<double> plain(const std::optional<Amount<Tag>>& a) {
    return a ? std::optional(a->value) : std::nullopt;
}

std::vector<label::Port> loadPorts(Connection& c, Id bank) {
    std::vector<label::Port> ports;
    QSqlQuery q = c.run(
        "SELECT id, name, direction, watts, shared_watts, in_tiers, in_watts FROM port WHERE bank_id = ? ORDER BY position",
        bank);
    const Row row(q);
    while (q.next()) {
        label::Port p;
        p.name = row.text(1);
        p.direction = directionFromKey(row.text(2));
        read(p.watts, row.maybe(3));
        read(p.sharedWatts, row.maybe(4));
        if (auto taken = label::parseTiers(row.text(5), "in_tiers"))
            p.inTiers = std::move(*taken);
        else
            throw Damage("in_tiers", taken.error().text);
        read(p.inWatts, row.maybe(6));
        QSqlQuery t =
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
    int position = 0;
    for (const label::Port& p : ports) {
        const Id id =
            c.run(
                 "INSERT INTO port (bank_id, position, name, direction, watts, shared_watts, in_tiers, in_watts) VALUES (?,?,?,?,?,?,?,?)",
                 bank, position++, p.name, directionKey(p.direction), plain(p.watts), plain(p.sharedWatts),
                 label::showTiers(p.inTiers), plain(p.inWatts))
                .lastInsertId()
                .toLongLong();
        int tier = 0;
        for (const label::Tier& t : p.tiers)
            c.run("INSERT INTO tier VALUES (?,?,?,?,?)", id, tier++, t.low.value, t.high.value, t.amps.value);
    }
}

std::optional<label::SizeMm> sizeAt(const Row& row, int first) {
    return row.empty(first)
               ? std::nullopt
               : std::optional(label::SizeMm{row.number(first), row.number(first + 1), row.number(first + 2)});
}

Bank readBank(Connection& c, const Row& row) {
    Bank b;
    b.id = row.whole(0);
    b.name = row.text(1);
    b.notes = row.text(2);
    label::Label& l = b.label;
    read(l.capacity, row.maybe(3));
    read(l.cellVolts, row.maybe(4));
    read(l.energy, row.maybe(5));
    read(l.outputCapacity, row.maybe(6));
    read(l.outputVolts, row.maybe(7));
    l.alsoPrinted = row.text(8);
    read(l.totalWatts, row.maybe(9));
    read(l.totalAmps, row.maybe(10));
    l.weightGrams = row.maybe(11);
    l.size = sizeAt(row, 12);
    read(l.rechargeTime, row.maybe(15));
    read(l.inputWatts, row.maybe(16));
    l.price = row.maybe(17);
    l.currency = row.text(18);
    if (const auto months = row.maybeWhole(19))
        l.warrantyMonths = static_cast<int>(std::clamp(*months, 0LL, 12'000LL));
    l.claimsPassThrough = row.flag(20);
    l.claimsLowCurrentMode = row.flag(21);
    l.shared = label::parseShared(row.text(22), "shared").value_or(std::vector<label::SharedLimit>{});
    if (const auto charges = label::parseCharges(row.text(23), "charges"))
        l.charges = *charges;
    if (const auto grams = row.maybe(24))
        b.scale.grams = Stated(*grams, row.maybe(25));
    b.scale.size = sizeAt(row, 26);
    b.past = pastFrom(objectIn(row.text(29), "past"));
    l.ports = loadPorts(c, b.id);
    return b;
}

} // namespace

std::vector<Bank> loadBanks(Connection& c) {
    std::vector<Bank> banks;
    QSqlQuery q = c.run((std::string(kBankColumns) + " ORDER BY id").c_str());
    const Row row(q);
    while (q.next()) {
        try {
            banks.push_back(readBank(c, row));
        } catch (const Damage& damage) {
            c.passOver("bank " + text(q.value(0)), damage);
        }
    }
    return banks;
}

std::optional<Bank> loadBank(Connection& c, Id id) {
    QSqlQuery q = c.run((std::string(kBankColumns) + " AND id = ?").c_str(), id);
    const Row row(q);
    return q.next() ? std::optional(readBank(c, row)) : std::nullopt;
}

Id storeBank(Connection& c, const Bank& b) {
    const label::Label& l = b.label;
    Id id = b.id;
    if (id == kNew)
        id = c.run("INSERT INTO bank (name) VALUES ('')").lastInsertId().toLongLong();
    const auto side = [](const std::optional<label::SizeMm>& s, double label::SizeMm::*which) {
        return s ? std::optional((*s).*which) : std::nullopt;
    };
    const auto size = [&](double label::SizeMm::*which) { return side(l.size, which); };
    c.run(
        "UPDATE bank SET name=?, notes=?, capacity_ah=?, cell_volts=?, energy_wh=?, output_capacity_ah=?, output_volts=?,"
        " also_printed=?, total_watts=?, total_amps=?, weight_g=?, length_mm=?, width_mm=?, height_mm=?, recharge_h=?,"
        " input_watts=?, price=?, currency=?, warranty_months=?, claims_pass_through=?, claims_low_current=?, shared=?,"
        " charges=?, measured_g=?, measured_g_expanded=?, measured_length_mm=?, measured_width_mm=?, measured_height_mm=?, past=? WHERE id=?",
        b.name, b.notes, plain(l.capacity), plain(l.cellVolts), plain(l.energy), plain(l.outputCapacity),
        plain(l.outputVolts), l.alsoPrinted, plain(l.totalWatts), plain(l.totalAmps), l.weightGrams,
        size(&label::SizeMm::length), size(&label::SizeMm::width), size(&label::SizeMm::height), plain(l.rechargeTime),
        plain(l.inputWatts), l.price, l.currency, l.warrantyMonths, l.claimsPassThrough, l.claimsLowCurrentMode,
        label::showShared(l.shared), label::showCharges(l.charges),
        b.scale.grams ? std::optional(b.scale.grams->value) : std::nullopt,
        b.scale.grams ? b.scale.grams->expanded : std::nullopt, side(b.scale.size, &label::SizeMm::length),
        side(b.scale.size, &label::SizeMm::width), side(b.scale.size, &label::SizeMm::height),
        jsonText(pastJson(b.past)), id);
    storePorts(c, id, l.ports);
    return id;
}

} // namespace otterstone::book
