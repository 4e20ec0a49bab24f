#include "book/json_records.h"
#include "book/record_store.h"

namespace otterstone::book {

namespace {

constexpr const char* kBankColumns =
    "SELECT id, name, notes, capacity_ah, cell_volts, energy_wh, output_capacity_ah, output_volts, also_printed, total_watts,"
    " total_amps, weight_g, length_mm, width_mm, height_mm, recharge_h, input_watts, price, currency, warranty_months,"
    " claims_pass_through, claims_low_current, shared, charges, measured_g, measured_g_expanded, measured_length_mm, measured_width_mm, measured_height_mm"
    " FROM bank WHERE removed = 0";

template<class T>
void read(std::optional<T>& into, const QVariant& v) {
    if (!v.isNull())
        into = T(v.toDouble());
}

template<class Tag>
std::optional<double> plain(const std::optional<Amount<Tag>>& a) {
    return a ? std::optional(a->value) : std::nullopt;
}

std::vector<label::Port> loadPorts(Connection& c, Id bank) {
    std::vector<label::Port> ports;
    QSqlQuery q = c.run("SELECT id, name, direction, watts, shared_watts FROM port WHERE bank_id = ? ORDER BY position", bank);
    while (q.next()) {
        label::Port p;
        p.name = text(q.value(1));
        p.direction = directionFromKey(text(q.value(2)));
        read(p.watts, q.value(3));
        read(p.sharedWatts, q.value(4));
        QSqlQuery t = c.run("SELECT low_volts, high_volts, amps FROM tier WHERE port_id = ? ORDER BY position", q.value(0));
        while (t.next())
            p.tiers.push_back({Volts(t.value(0).toDouble()), Volts(t.value(1).toDouble()), Amps(t.value(2).toDouble())});
        ports.push_back(std::move(p));
    }
    return ports;
}

void storePorts(Connection& c, Id bank, const std::vector<label::Port>& ports) {
    c.run("DELETE FROM port WHERE bank_id = ?", bank);
    int position = 0;
    for (const label::Port& p : ports) {
        const Id id = c.run("INSERT INTO port (bank_id, position, name, direction, watts, shared_watts) VALUES (?,?,?,?,?,?)", bank,
                            position++, p.name, directionKey(p.direction), plain(p.watts), plain(p.sharedWatts))
                          .lastInsertId()
                          .toLongLong();
        int tier = 0;
        for (const label::Tier& t : p.tiers)
            c.run("INSERT INTO tier VALUES (?,?,?,?,?)", id, tier++, t.low.value, t.high.value, t.amps.value);
    }
}

Bank readBank(Connection& c, const QSqlQuery& q) {
    Bank b;
    b.id = q.value(0).toLongLong();
    b.name = text(q.value(1));
    b.notes = text(q.value(2));
    label::Label& l = b.label;
    read(l.capacity, q.value(3));
    read(l.cellVolts, q.value(4));
    read(l.energy, q.value(5));
    read(l.outputCapacity, q.value(6));
    read(l.outputVolts, q.value(7));
    l.alsoPrinted = text(q.value(8));
    read(l.totalWatts, q.value(9));
    read(l.totalAmps, q.value(10));
    l.weightGrams = optionalDouble(q.value(11));
    if (!q.value(12).isNull())
        l.size = label::SizeMm{q.value(12).toDouble(), q.value(13).toDouble(), q.value(14).toDouble()};
    read(l.rechargeTime, q.value(15));
    read(l.inputWatts, q.value(16));
    l.price = optionalDouble(q.value(17));
    l.currency = text(q.value(18));
    if (!q.value(19).isNull())
        l.warrantyMonths = q.value(19).toInt();
    l.claimsPassThrough = q.value(20).toBool();
    l.claimsLowCurrentMode = q.value(21).toBool();
    l.shared = label::parseShared(text(q.value(22)), "shared").value_or(std::vector<label::SharedLimit>{});
    if (const auto charges = label::parseCharges(text(q.value(23)), "charges"))
        l.charges = *charges;
    if (!q.value(24).isNull())
        b.scale.grams = Stated(q.value(24).toDouble(), optionalDouble(q.value(25)));
    if (!q.value(26).isNull())
        b.scale.size = label::SizeMm{q.value(26).toDouble(), q.value(27).toDouble(), q.value(28).toDouble()};
    l.ports = loadPorts(c, b.id);
    return b;
}

} // namespace

std::vector<Bank> loadBanks(Connection& c) {
    std::vector<Bank> banks;
    QSqlQuery q = c.run((std::string(kBankColumns) + " ORDER BY id").c_str());
    while (q.next())
        banks.push_back(readBank(c, q));
    return banks;
}

std::optional<Bank> loadBank(Connection& c, Id id) {
    QSqlQuery q = c.run((std::string(kBankColumns) + " AND id = ?").c_str(), id);
    return q.next() ? std::optional(readBank(c, q)) : std::nullopt;
}

Id storeBank(Connection& c, const Bank& b) {
    const label::Label& l = b.label;
    Id id = b.id;
    if (id == kNew)
        id = c.run("INSERT INTO bank (name) VALUES ('')").lastInsertId().toLongLong();
    const auto side = [](const std::optional<label::SizeMm>& s, double label::SizeMm::*which) { return s ? std::optional((*s).*which) : std::nullopt; };
    const auto size = [&](double label::SizeMm::*which) { return side(l.size, which); };
    c.run("UPDATE bank SET name=?, notes=?, capacity_ah=?, cell_volts=?, energy_wh=?, output_capacity_ah=?, output_volts=?,"
          " also_printed=?, total_watts=?, total_amps=?, weight_g=?, length_mm=?, width_mm=?, height_mm=?, recharge_h=?,"
          " input_watts=?, price=?, currency=?, warranty_months=?, claims_pass_through=?, claims_low_current=?, shared=?,"
          " charges=?, measured_g=?, measured_g_expanded=?, measured_length_mm=?, measured_width_mm=?, measured_height_mm=? WHERE id=?",
          b.name, b.notes, plain(l.capacity), plain(l.cellVolts), plain(l.energy), plain(l.outputCapacity), plain(l.outputVolts),
          l.alsoPrinted, plain(l.totalWatts), plain(l.totalAmps), l.weightGrams, size(&label::SizeMm::length),
          size(&label::SizeMm::width), size(&label::SizeMm::height), plain(l.rechargeTime), plain(l.inputWatts), l.price, l.currency,
          l.warrantyMonths, l.claimsPassThrough, l.claimsLowCurrentMode, label::showShared(l.shared), l.charges ? label::showCharges(*l.charges) : std::string(),
          b.scale.grams ? std::optional(b.scale.grams->value) : std::nullopt, b.scale.grams ? b.scale.grams->expanded : std::nullopt, side(b.scale.size, &label::SizeMm::length),
          side(b.scale.size, &label::SizeMm::width), side(b.scale.size, &label::SizeMm::height), id);
    storePorts(c, id, l.ports);
    return id;
}

} // namespace otterstone::book
