// What a set comes to: repetitions and values, written and read in lots.
#include "store/library_impl.h"

namespace zevo::store {

Result<void> Library::Impl::writeReps(SetId set, const std::vector<MeasuredRep>& reps, bool second, int engine) const {
    QSqlQuery values(db);
    values.prepare(kInsertMeasurement);
    for (const auto& r : reps) {
        if (auto done = change("INSERT INTO repetitions VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                               {key(set), second, r.index, text(repKindName(r.kind)), r.startS, r.arriveS, r.bottomS,
                                r.leaveS, r.endS, r.leg ? QVariant(text(sideName(*r.leg))) : QVariant()});
            !done)
            return done;
        for (const auto& m : r.measures) {
            for (const QVariant& v :
                 QVariantList{key(set), second, r.index, text(m.measure.name()), m.value, m.pm90, m.confidence, m.atS,
                              m.second, engine, m.withoutManual ? QVariant(*m.withoutManual) : QVariant()})
                values.addBindValue(v);
            if (!values.exec()) return Error{kNotWritten, values.lastError().text().toStdString()};
        }
    }
    return {};
}

Result<void> Library::Impl::writeOutcome(SetId set, const Outcome& o) const {
    if (auto r = change("UPDATE sets SET movement = ?, variation = ?, standard = ?, reps = ?, headline = ?, engine = "
                        "?, seen_from = ? WHERE id = ?",
                        {notNull(o.movement), notNull(o.variation), notNull(o.standard), o.reps, notNull(o.headline),
                         o.engine, text(writeSeenFrom(o.seenFrom)), key(set)});
        !r)
        return r;
    for (const char* table : {"repetitions", "measurements"})
        if (auto r = change(QString("DELETE FROM %1 WHERE set_id = ?").arg(table), {key(set)}); !r) return r;
    if (auto r = writeReps(set, o.measured, false, o.engine); !r) return r;
    return writeReps(set, o.second, true, o.engine);
}

Result<std::map<SetId, std::vector<MeasuredRep>>> Library::Impl::readReps(const std::vector<SetId>& sets,
                                                                          bool second) const {
    std::map<SetId, std::vector<MeasuredRep>> out;
    // In lots: a statement takes only so many values.
    constexpr std::size_t kLot = 500;
    for (std::size_t from = 0; from < sets.size(); from += kLot) {
        const std::vector<SetId> lot(sets.begin() + static_cast<std::ptrdiff_t>(from),
                                     sets.begin() + static_cast<std::ptrdiff_t>(std::min(sets.size(), from + kLot)));
        if (auto done = readSomeReps(lot, second, out); !done) return done.error();
    }
    return out;
}

Result<void> Library::Impl::readSomeReps(const std::vector<SetId>& sets, bool second,
                                         std::map<SetId, std::vector<MeasuredRep>>& out) const {
    QStringList marks;
    QVariantList keys;
    for (const SetId& set : sets) marks.append("?"), keys.append(key(set));
    const QString among = " IN (" + marks.join(',') + ")";
    const QVariantList values = keys + QVariantList{second};
    auto q = read(
        "SELECT set_id, number, kind, start_s, arrive_s, bottom_s, leave_s, end_s, leg FROM repetitions "
        "WHERE set_id" +
            among + " AND second = ? ORDER BY set_id, number",
        values);
    if (!q) return q.error();
    while (q->next()) {
        MeasuredRep r;
        r.index = q->value(1).toInt();
        const QString kind = q->value(2).toString();
        r.kind = kind == "partial" ? RepKind::Partial : kind == "double" ? RepKind::Double : RepKind::Full;
        r.startS = q->value(3).toDouble(), r.arriveS = q->value(4).toDouble(), r.bottomS = q->value(5).toDouble();
        r.leaveS = q->value(6).toDouble(), r.endS = q->value(7).toDouble();
        if (!q->value(8).isNull()) r.leg = q->value(8).toString() == "left" ? Side::Left : Side::Right;
        out[SetId::fromBytes(q->value(0).toByteArray())].push_back(std::move(r));
    }
    auto measured = read(
        "SELECT set_id, number, measure, value, pm90, confidence, at_s, second, as_seen FROM "
        "measurements WHERE set_id" +
            among + " AND view = ? ORDER BY set_id",
        values);
    if (!measured) return measured.error();
    QHash<QString, MeasureId> known;
    QByteArray lastKey;
    std::vector<MeasuredRep>* reps = nullptr;
    while (measured->next()) {
        // A measure that this Zevo does not know any more is not shown.
        const QString name = measured->value(2).toString();
        auto id = known.find(name);
        if (id == known.end()) id = known.insert(name, MeasureId::named(name.toStdString()));
        if (!*id) continue;
        if (const QByteArray of = measured->value(0).toByteArray(); !reps || of != lastKey)
            lastKey = of, reps = &out[SetId::fromBytes(of)];
        for (MeasuredRep& r : *reps)
            if (r.index == measured->value(1).toInt())
                r.measures.push_back(
                    {*id, measured->value(3).toDouble(), measured->value(4).toDouble(), measured->value(5).toDouble(),
                     measured->value(6).toDouble(), measured->value(7).toBool(),
                     measured->value(8).isNull() ? std::nullopt : std::optional(measured->value(8).toDouble())});
    }
    for (const SetId& set : sets)
        for (MeasuredRep& r : out[set])
            std::sort(r.measures.begin(), r.measures.end(),
                      [](const Measurement& a, const Measurement& b) { return a.measure < b.measure; });
    return {};
}

}  // namespace zevo::store
