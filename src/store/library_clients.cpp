// Clients in the record: found, joined, and what there is of them; where their sets stand.
#include "store/library_impl.h"

namespace zevo::store {

Result<std::vector<ClientSummary>> Library::findClients(const QString& text, bool archived) const {
    // One row a client: his newest set is the largest by day, then by place.
    QString sql = QString(
                      "SELECT %1, n.held_on, n.headline, (SELECT count(*) FROM sets s JOIN sessions e ON e.id = "
                      "s.session_id WHERE e.client_id = k.id AND NOT s.hidden) FROM clients k LEFT JOIN (SELECT "
                      "e.client_id, e.held_on, s.headline, row_number() OVER (PARTITION BY e.client_id ORDER BY "
                      "e.held_on DESC, s.position DESC, s.id DESC) AS place FROM sets s JOIN sessions e ON e.id = "
                      "s.session_id WHERE NOT s.hidden) n ON n.client_id = k.id AND n.place = 1 WHERE k.archived = ?")
                      .arg(Impl::kClientColumns);
    QVariantList values{archived};
    for (QString word : text.split(' ', Qt::SkipEmptyParts)) {
        // Typed signs stand for themselves.
        word.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_");
        const QString like = '%' + word + '%';
        sql +=
            " AND (k.name LIKE ? ESCAPE '\\' OR k.goals LIKE ? ESCAPE '\\' OR k.note LIKE ? ESCAPE '\\' OR EXISTS "
            "(SELECT 1 FROM sets s JOIN sessions e ON e.id = s.session_id WHERE e.client_id = k.id AND NOT s.hidden "
            "AND s.headline LIKE ? ESCAPE '\\'))";
        for (int i = 0; i < 4; ++i) values.append(like);
    }
    sql += " ORDER BY n.held_on IS NULL, n.held_on DESC, k.name COLLATE NOCASE, k.id";
    auto q = m_impl->read(sql, values);
    if (!q) return q.error();
    std::vector<ClientSummary> out;
    constexpr int kAfter = Impl::kClientColumnCount;
    while (q->next()) {
        ClientSummary c{Impl::clientFrom(*q), {}, q->value(kAfter + 1).toString(), q->value(kAfter + 2).toInt()};
        if (!q->value(kAfter).isNull()) c.lastOn = QDate::fromString(q->value(kAfter).toString(), Qt::ISODate);
        out.push_back(std::move(c));
    }
    for (ClientSummary& c : out)
        if (auto read = m_impl->readFlags(c.client); !read) return read.error();
    return out;
}

Result<void> Library::mergeClients(ClientId from, ClientId into) {
    if (from == into) return Error{"A client cannot be merged with himself.", std::to_string(number(from))};
    auto source = client(from), target = client(into);
    if (!source) return source.error();
    if (!target) return target.error();
    return m_impl->transaction([&]() -> Result<void> {
        auto sessions = m_impl->read("SELECT id, held_on FROM sessions WHERE client_id = ?", {number(from)});
        if (!sessions) return sessions.error();
        std::vector<std::pair<qint64, QDate>> days;
        while (sessions->next())
            days.emplace_back(sessions->value(0).toLongLong(),
                              QDate::fromString(sessions->value(1).toString(), Qt::ISODate));
        sessions->finish();
        for (const auto& [session, day] : days) {
            const auto there = m_impl->session(into, day);
            if (!there) return there.error();
            if (auto r = m_impl->change("UPDATE sets SET session_id = ? WHERE session_id = ?", {*there, session}); !r)
                return r;
        }
        if (auto r = m_impl->change("UPDATE OR IGNORE complaints SET client_id = ? WHERE client_id = ?",
                                    {number(into), number(from)});
            !r)
            return r;
        Client joined = *target;
        // A flag that stands at either stands at both.
        for (const ClientFlag& f : source->flags)
            if (std::find(joined.flags.begin(), joined.flags.end(), f) == joined.flags.end()) joined.flags.push_back(f);
        for (const Target& t : source->targets)
            if (std::none_of(joined.targets.begin(), joined.targets.end(),
                             [&](const Target& o) { return o.movement == t.movement && o.measure == t.measure; }))
                joined.targets.push_back(t);
        auto fill = [](auto& into, const auto& with, const auto& empty) {
            if (into == empty) into = with;
        };
        fill(joined.statureCm, source->statureCm, 0.0), fill(joined.massKg, source->massKg, 0.0);
        fill(joined.goals, source->goals, QString()), fill(joined.emphasis, source->emphasis, QString());
        fill(joined.equipment, source->equipment, QString());
        if (!source->note.isEmpty() && joined.note != source->note)
            joined.note += (joined.note.isEmpty() ? "" : "\n") + source->note;
        // Pain that was told later is what counts now.
        const auto asked = [](const Client& c) { return c.complaint.askedOn.value_or(QDate(1, 1, 1)); };
        if (asked(*source) > asked(joined)) joined.complaint = source->complaint;
        if (auto r = m_impl->writeClient(joined); !r) return r;
        return m_impl->change("DELETE FROM clients WHERE id = ?", {number(from)});
    });
}

Result<std::vector<Complaint>> Library::complaints(ClientId client) const {
    auto q =
        m_impl->read("SELECT asked_on, score, place, sharp FROM complaints WHERE client_id = ? ORDER BY asked_on DESC",
                     {number(client)});
    if (!q) return q.error();
    std::vector<Complaint> out;
    while (q->next())
        out.push_back({q->value(1).toInt(), q->value(2).toString(), q->value(3).toBool(),
                       QDate::fromString(q->value(0).toString(), Qt::ISODate)});
    return out;
}

Result<Holdings> Library::holdings(ClientId client) const {
    const QVariantList id{number(client)};
    const QString sets = "FROM sets s JOIN sessions e ON e.id = s.session_id WHERE e.client_id = ?";
    Holdings out;
    auto count = [&](const QString& sql, int& into) -> Result<void> {
        auto q = m_impl->read(sql, id);
        if (!q) return q.error();
        if (q->next()) into = q->value(0).toInt();
        return {};
    };
    for (auto [sql, into] :
         {std::pair{QString("SELECT count(DISTINCT e.id) ") + sets, &out.sessions},
          std::pair{QString("SELECT count(*) ") + sets, &out.sets},
          std::pair{QString("SELECT count(*) FROM measurements WHERE set_id IN (SELECT s.id ") + sets + ")",
                    &out.values},
          std::pair{QString("SELECT count(*) FROM complaints WHERE client_id = ?"), &out.complaints}})
        if (auto r = count(sql, *into); !r) return r.error();
    auto clips = m_impl->read(
        "SELECT DISTINCT c.path, c.filmed FROM clips c JOIN observations o ON o.clip_id = c.id "
        "WHERE o.set_id IN (SELECT s.id " +
            sets + ") ORDER BY c.path",
        id);
    if (!clips) return clips.error();
    while (clips->next()) (clips->value(1).toBool() ? out.filmed : out.elsewhere).append(clips->value(0).toString());
    return out;
}

Result<SetPlace> Library::placeOf(SetId id) const {
    auto q = m_impl->read(
        "SELECT e.client_id, e.held_on, s.position FROM sets s JOIN sessions e ON e.id = s.session_id WHERE s.id = ?",
        {number(id)});
    if (!q) return q.error();
    if (!q->next()) return Error{"This set is not in the library any more.", std::to_string(number(id))};
    return SetPlace{ClientId(q->value(0).toLongLong()), QDate::fromString(q->value(1).toString(), Qt::ISODate),
                    q->value(2).toDouble()};
}

Result<void> Library::putSet(SetId id, const SetPlace& place) {
    return m_impl->transaction([&]() -> Result<void> {
        const auto session = m_impl->session(place.client, place.heldOn);
        if (!session) return session.error();
        return m_impl->change("UPDATE sets SET session_id = ?, position = ? WHERE id = ?",
                              {*session, place.position, number(id)});
    });
}

Result<std::vector<LoggedSet>> Library::log(ClientId client, const QString& movement) const {
    const QString which =
        "FROM sets s JOIN sessions e ON e.id = s.session_id %1 WHERE e.client_id = ? AND NOT s.hidden AND (? = '' OR "
        "s.movement = ?) ORDER BY e.held_on, s.position, s.id";
    const QVariantList values{number(client), notNull(movement), notNull(movement)};
    auto q = m_impl->read(
        "SELECT s.id, e.held_on, s.movement, s.headline, s.reps, c.width || 'x' || c.height || ' ' || o.model || ' ' "
        "|| "
        "s.engine " +
            which.arg("LEFT JOIN observations o ON o.set_id = s.id AND o.position = 0 LEFT JOIN clips c ON c.id = "
                      "o.clip_id"),
        values);
    if (!q) return q.error();
    std::vector<LoggedSet> out;
    while (q->next()) {
        LoggedSet s;
        s.id = SetId(q->value(0).toLongLong());
        s.heldOn = QDate::fromString(q->value(1).toString(), Qt::ISODate);
        s.movement = q->value(2).toString(), s.headline = q->value(3).toString();
        s.measured = q->value(4).toInt() > 0;
        s.seenBy = q->value(5).toString();
        out.push_back(std::move(s));
    }
    auto edits = m_impl->read(
        "SELECT s.id, d.kind, d.payload " + which.arg("JOIN edits d ON d.set_id = s.id") + ", d.position", values);
    if (!edits) return edits.error();
    auto at = out.begin();  // both lists are in the same order
    while (edits->next()) {
        while (at != out.end() && at->id != SetId(edits->value(0).toLongLong())) ++at;
        auto edit = readEdit(edits->value(1).toString().toStdString(), edits->value(2).toString().toStdString());
        if (!edit) return edit.error();
        if (at != out.end()) at->edits.push_back(std::move(*edit));
    }
    return out;
}

Result<void> Library::readRepetitions(std::vector<LoggedSet>& log,
                                      const std::function<bool(const LoggedSet&)>& wanted) const {
    std::vector<qint64> sets;
    for (const LoggedSet& s : log)
        if (!wanted || wanted(s)) sets.push_back(number(s.id));
    if (sets.empty()) return {};
    auto reps = m_impl->readReps(sets, false);
    if (!reps) return reps.error();
    for (LoggedSet& s : log)
        if (const auto found = reps->find(number(s.id)); found != reps->end()) s.reps = std::move(found->second);
    return {};
}

}  // namespace zevo::store
