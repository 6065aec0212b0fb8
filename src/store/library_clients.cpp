// Clients in the record: found, joined, and what there is of them; where their sets stand.
#include "store/library_impl.h"

namespace zevo::store {

Result<void> Library::Impl::readFlags(Client& c) const {
    auto q = read(
        "SELECT flag, since, cleared_on, cleared_by, limits, cleared_until, over_on, over_by FROM "
        "client_flags WHERE client_id = ? ORDER BY position",
        {key(c.id)});
    if (!q) return q.error();
    while (q->next())
        c.flags.push_back({q->value(0).toString(), dayAt(*q, 1).value_or(QDate()), dayAt(*q, 2), q->value(3).toString(),
                           q->value(4).toString(), dayAt(*q, 5), dayAt(*q, 6), q->value(7).toString()});
    return {};
}

Result<void> Library::Impl::writeFlags(const Client& c) const {
    if (auto done = change("DELETE FROM client_flags WHERE client_id = ?", {key(c.id)}); !done) return done;
    for (std::size_t i = 0; i < c.flags.size(); ++i) {
        const ClientFlag& f = c.flags[i];
        if (auto done =
                change("INSERT INTO client_flags (client_id, position, flag, since, cleared_on, cleared_by, limits, "
                       "cleared_until, over_on, over_by) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                       {key(c.id), static_cast<int>(i), f.flag, f.since.toString(Qt::ISODate), dayValue(f.clearedOn),
                        notNull(f.clearedBy), notNull(f.limits), dayValue(f.clearedUntil), dayValue(f.overOn),
                        notNull(f.overBy)});
            !done)
            return done;
    }
    return {};
}

Result<std::vector<ClientSummary>> Library::findClients(const QString& text, bool archived) const {
    // One row a client: their newest set is the largest by day, then by place.
    QString sql = QString(
                      "SELECT %1, n.held_on, n.headline, (SELECT count(*) FROM sets s JOIN sessions e ON e.id = "
                      "s.session_id WHERE e.client_id = k.id AND NOT s.hidden) FROM clients k LEFT JOIN (SELECT "
                      "e.client_id, e.held_on, s.headline, row_number() OVER (PARTITION BY e.client_id ORDER BY "
                      "e.held_on DESC, s.position DESC) AS place FROM sets s JOIN sessions e ON e.id = "
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
    sql += " ORDER BY n.held_on IS NULL, n.held_on DESC, lower(k.name), k.name, k.id";
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
    if (from == into) return Error{"A client cannot be merged with themselves.", from.key()};
    auto source = client(from), target = client(into);
    if (!source) return source.error();
    if (!target) return target.error();
    return m_impl->transaction([&]() -> Result<void> {
        auto sessions = m_impl->read("SELECT id, held_on FROM sessions WHERE client_id = ?", {key(from)});
        if (!sessions) return sessions.error();
        std::vector<std::pair<QByteArray, QDate>> days;
        while (sessions->next())
            days.emplace_back(sessions->value(0).toByteArray(),
                              QDate::fromString(sessions->value(1).toString(), Qt::ISODate));
        sessions->finish();
        for (const auto& [session, day] : days) {
            const auto there = m_impl->session(into, day);
            if (!there) return there.error();
            if (auto r = m_impl->change("UPDATE sets SET session_id = ? WHERE session_id = ?", {*there, session}); !r)
                return r;
        }
        // Of two answers on one day the worse one counts.
        if (auto r = m_impl->change(
                "INSERT INTO complaints (client_id, asked_on, score, place, sharp) SELECT ?, asked_on, score, place, "
                "sharp FROM complaints WHERE client_id = ? ON CONFLICT (client_id, asked_on) DO UPDATE SET place = "
                "CASE "
                "WHEN excluded.score > complaints.score THEN excluded.place ELSE complaints.place END, sharp = CASE "
                "WHEN "
                "excluded.sharp > complaints.sharp THEN excluded.sharp ELSE complaints.sharp END, score = CASE WHEN "
                "excluded.score > complaints.score THEN excluded.score ELSE complaints.score END",
                {key(into), key(from)});
            !r)
            return r;
        if (auto r = m_impl->change("UPDATE files SET client_id = ? WHERE client_id = ?", {key(into), key(from)}); !r)
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
        for (const auto& [part, cm] : source->build) joined.build.try_emplace(part, cm);
        for (const auto& [choice, option] : source->choices) joined.choices.try_emplace(choice, option);
        // Pain that was told later is what counts now; of one day, the worse.
        const auto asked = [](const Client& c) {
            return std::pair(c.complaint.askedOn.value_or(QDate(1, 1, 1)), c.complaint.score.value_or(-1));
        };
        const bool sharp = joined.complaint.sharp || source->complaint.sharp;
        const bool sameDay = joined.complaint.askedOn == source->complaint.askedOn;
        if (asked(*source) > asked(joined)) joined.complaint = source->complaint;
        if (sameDay) joined.complaint.sharp = sharp;
        if (auto r = m_impl->writeClient(joined); !r) return r;
        return m_impl->change("DELETE FROM clients WHERE id = ?", {key(from)});
    });
}

Result<std::vector<Complaint>> Library::complaints(ClientId client) const {
    auto q =
        m_impl->read("SELECT asked_on, score, place, sharp FROM complaints WHERE client_id = ? ORDER BY asked_on DESC",
                     {key(client)});
    if (!q) return q.error();
    std::vector<Complaint> out;
    while (q->next())
        out.push_back({q->value(1).toInt(), painSpotsFrom(q->value(2).toString().toStdString()), q->value(3).toBool(),
                       QDate::fromString(q->value(0).toString(), Qt::ISODate)});
    return out;
}

Result<Holdings> Library::holdings(ClientId client) const {
    const QVariantList id{key(client)};
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
    const auto all = files();
    if (!all) return all.error();
    for (const ShelfFile& f : *all) {
        if (!(f.client == client)) continue;
        if (f.kind == ShelfFile::Kind::Export) out.exports.append(f.path);
        if (f.kind == ShelfFile::Kind::Recording && f.state == ShelfFile::State::Growing) out.filmed.append(f.path);
    }
    return out;
}

Result<SetPlace> Library::placeOf(SetId id) const {
    auto q = m_impl->read(
        "SELECT e.client_id, e.held_on, s.position FROM sets s JOIN sessions e ON e.id = s.session_id WHERE s.id = ?",
        {key(id)});
    if (!q) return q.error();
    if (!q->next()) return Error{kNoSuchSet, id.key()};
    return SetPlace{ClientId::fromBytes(q->value(0).toByteArray()),
                    QDate::fromString(q->value(1).toString(), Qt::ISODate), q->value(2).toDouble()};
}

Result<void> Library::putSet(SetId id, const SetPlace& place) {
    return m_impl->transaction([&]() -> Result<void> {
        const auto session = m_impl->session(place.client, place.heldOn);
        if (!session) return session.error();
        return m_impl->change("UPDATE sets SET session_id = ?, position = ? WHERE id = ?",
                              {*session, place.position, key(id)});
    });
}

Result<std::vector<LoggedSet>> Library::log(
    ClientId client, const QString& movement,
    const std::function<std::vector<bool>(const std::vector<LoggedSet>&)>& among) const {
    const QString which =
        "FROM sets s JOIN sessions e ON e.id = s.session_id WHERE e.client_id = ? AND NOT s.hidden AND (? = '' OR "
        "s.movement = ?)";
    const QVariantList values{key(client), notNull(movement), notNull(movement)};
    auto q = m_impl->read("SELECT s.id, e.held_on, s.movement, s.headline, s.reps, s.seen_from " + which +
                              " ORDER BY e.held_on, s.position",
                          values);
    if (!q) return q.error();
    std::vector<LoggedSet> all;
    std::vector<std::string> seenFrom;
    while (q->next()) {
        LoggedSet s;
        s.id = SetId::fromBytes(q->value(0).toByteArray());
        s.heldOn = QDate::fromString(q->value(1).toString(), Qt::ISODate);
        s.movement = q->value(2).toString(), s.headline = q->value(3).toString();
        s.measured = q->value(4).toInt() > 0;
        all.push_back(std::move(s));
        seenFrom.push_back(q->value(5).toString().toStdString());
    }
    const auto wanted = among ? among(all) : std::vector<bool>(all.size(), true);
    std::vector<LoggedSet> out;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (!wanted[i]) continue;
        all[i].seenFrom = readSeenFrom(seenFrom[i]);
        out.push_back(std::move(all[i]));
    }
    const bool everything = out.size() == all.size();
    std::map<SetId, EditEntries> entries;
    auto take = [&](const QString& where, const QVariantList& keys) -> Result<void> {
        auto read = m_impl->readEntries(where, keys, false);
        if (!read) return read.error();
        entries.merge(*read);
        return {};
    };
    if (everything) {
        if (auto r = take("WHERE d.set_id IN (SELECT s.id " + which + ")", values); !r) return r.error();
    } else {
        for (const LoggedSet& s : out)
            if (auto r = take("WHERE d.set_id = ?", {key(s.id)}); !r) return r.error();
    }
    for (LoggedSet& s : out) {
        const EditEntries& mine = entries[s.id];
        // One that cannot be read is no reason to hide a client's whole history.
        s.edits = editsInForce(mine);
        const std::vector<bool> holds = inForce(mine);
        for (std::size_t i = 0; i < mine.size(); ++i) s.unreadable += holds[i] && mine[i].isUnreadable();
    }
    return out;
}

Result<void> Library::readRepetitions(std::vector<LoggedSet>& log,
                                      const std::function<bool(const LoggedSet&)>& wanted) const {
    std::vector<SetId> sets;
    for (const LoggedSet& s : log)
        if (!wanted || wanted(s)) sets.push_back(s.id);
    if (sets.empty()) return {};
    auto reps = m_impl->readReps(sets, false);
    if (!reps) return reps.error();
    for (LoggedSet& s : log)
        if (const auto found = reps->find(s.id); found != reps->end()) s.reps = std::move(found->second);
    return {};
}

}  // namespace zevo::store
