// Sets in the record: what was seen, what the coach made of it, what it came to.
#include "store/library_impl.h"

namespace zevo::store {

Result<SetId> Library::addSet(const NewSet& set) {
    return m_impl->transaction([&]() -> Result<SetId> {
        auto session = m_impl->session(set.client, set.heldOn);
        if (!session) return session.error();
        auto id = m_impl->insert(
            "INSERT INTO sets (session_id, movement, standard, reps, headline, engine, made_at) "
            "VALUES (?, '', '', 0, '', 0, ?)",
            {*session, now()});
        if (!id) return id.error();
        if (auto r = m_impl->change("UPDATE sets SET position = id WHERE id = ?", {*id}); !r) return r.error();
        for (std::size_t i = 0; i < set.seen.size(); ++i)
            if (auto r = m_impl->writeObservation(*id, static_cast<int>(i), set.seen[i]); !r) return r.error();
        if (auto r = m_impl->writeEdits(*id, set.edits); !r) return r.error();
        if (auto r = m_impl->writeOutcome(*id, set.outcome); !r) return r.error();
        return SetId(*id);
    });
}

Result<void> Library::keepSet(SetId id, const Edits& edits, const std::vector<Seen>& seen, const Outcome& outcome) {
    const qint64 set = number(id);
    bool removes = false;
    auto change = [&]() -> Result<void> {
        if (auto r = m_impl->writeEdits(set, edits); !r) return r;
        // Observations never change: one that is there is as it was. Those no edit speaks of any more go.
        QStringList wanted;
        for (std::size_t i = 0; i < seen.size(); ++i) {
            if (!seen[i].observation) continue;
            wanted.append(QString::number(i));
            auto there = m_impl->read("SELECT 1 FROM observations WHERE set_id = ? AND position = ?",
                                      {set, static_cast<int>(i)});
            if (!there) return there.error();
            if (there->next()) continue;
            if (auto r = m_impl->writeObservation(set, static_cast<int>(i), seen[i]); !r) return r;
        }
        if (removes)
            if (auto r = m_impl->change(
                    "DELETE FROM observations WHERE set_id = ? AND position NOT IN (" + wanted.join(',') + ")", {set});
                !r)
                return r;
        return m_impl->writeOutcome(set, outcome);
    };
    auto kept = m_impl->read("SELECT position FROM observations WHERE set_id = ?", {set});
    if (!kept) return kept.error();
    while (kept->next()) {
        const auto position = static_cast<std::size_t>(kept->value(0).toInt());
        removes |= position >= seen.size() || !seen[position].observation;
    }
    kept->finish();
    return removes ? m_impl->deleteThen(change) : m_impl->transaction(change);
}

Result<void> Library::refineSet(SetId id, const Seen& seen, const Outcome& outcome) {
    const qint64 set = number(id);
    return m_impl->transaction([&]() -> Result<void> {
        auto there = m_impl->read("SELECT 1 FROM sets WHERE id = ?", {set});
        if (!there) return there.error();
        if (!there->next()) return Error{"This set is not in the library any more.", std::to_string(set)};
        if (auto r = m_impl->change("DELETE FROM observations WHERE set_id = ? AND position = 0", {set}); !r) return r;
        if (auto r = m_impl->writeObservation(set, 0, seen); !r) return r;
        return m_impl->writeOutcome(set, outcome);
    });
}

Result<Edits> Library::edits(SetId id) const {
    auto rows = m_impl->read("SELECT kind, payload FROM edits WHERE set_id = ? ORDER BY position", {number(id)});
    if (!rows) return rows.error();
    Edits out;
    while (rows->next()) {
        auto edit = readEdit(rows->value(0).toString().toStdString(), rows->value(1).toString().toStdString());
        if (!edit) return edit.error();
        out.push_back(std::move(*edit));
    }
    return out;
}

Result<std::vector<SetSummary>> Library::sets(ClientId client) const {
    auto q = m_impl->read(
        "SELECT s.id, e.held_on, s.made_at, s.movement, s.standard, s.headline, s.reps FROM sets s JOIN sessions e ON "
        "e.id = s.session_id WHERE e.client_id = ? AND NOT s.hidden ORDER BY e.held_on DESC, s.position DESC, s.id "
        "DESC",
        {number(client)});
    if (!q) return q.error();
    std::vector<SetSummary> out;
    while (q->next())
        out.push_back({SetId(q->value(0).toLongLong()), QDate::fromString(q->value(1).toString(), Qt::ISODate),
                       QDateTime::fromString(q->value(2).toString(), Qt::ISODateWithMs), q->value(3).toString(),
                       q->value(4).toString(), q->value(5).toString(), q->value(6).toInt()});
    return out;
}

Result<std::vector<Outline>> Library::outlines(SetId id) const {
    auto q = m_impl->read("SELECT outlines FROM observations WHERE set_id = ? AND position = 0", {number(id)});
    if (!q) return q.error();
    if (!q->next()) return std::vector<Outline>();
    const QByteArray raw = unpacked(q->value(0).toByteArray());
    return readOutlines(bytesOf(raw));
}

Result<StoredSet> Library::loadSet(SetId id) const {
    const qint64 set = number(id);
    auto q = m_impl->read(QString("SELECT %1, e.held_on, s.engine FROM sets s JOIN sessions e ON e.id = s.session_id "
                                  "JOIN clients k ON k.id = e.client_id WHERE s.id = ?")
                              .arg(Impl::kClientColumns),
                          {set});
    if (!q) return q.error();
    if (!q->next()) return Error{"This set is not in the library any more.", std::to_string(set)};
    StoredSet out;
    out.id = id;
    out.client = Impl::clientFrom(*q);
    out.heldOn = QDate::fromString(q->value(Impl::kClientColumnCount).toString(), Qt::ISODate);
    out.kept.engine = q->value(Impl::kClientColumnCount + 1).toInt();
    q->finish();
    if (auto read = m_impl->readFlags(out.client); !read) return read.error();

    auto seen = m_impl->read(
        "SELECT o.position, c.id, c.sha256, c.path, c.bytes, c.frames, c.duration_s, c.width, c.height, "
        "c.rotation_deg, "
        "o.engine, o.model, o.network, o.poses, o.outlines, o.notices, o.opinions, c.filmed, o.contours FROM "
        "observations o JOIN "
        "clips c ON "
        "c.id = "
        "o.clip_id WHERE o.set_id = ? ORDER BY o.position",
        {set});
    if (!seen) return seen.error();
    while (seen->next()) {
        const auto position = static_cast<std::size_t>(seen->value(0).toInt());
        if (position >= out.seen.size()) out.seen.resize(position + 1);
        Observation o;
        o.clip = {seen->value(5).toLongLong(), seen->value(6).toDouble(), seen->value(7).toInt(),
                  seen->value(8).toInt(), seen->value(9).toInt()};
        o.engine = seen->value(10).toInt();
        o.model = seen->value(11).toString().toStdString();
        o.network = seen->value(12).toString().toStdString();
        const QByteArray poses = unpacked(seen->value(13).toByteArray());
        auto frames = readPoses(bytesOf(poses));
        if (!frames) return frames.error();
        o.poses = std::move(*frames);
        // A damaged picture is no reason to hide the set.
        const QByteArray lines = unpacked(seen->value(14).toByteArray());
        if (auto outlines = readOutlines(bytesOf(lines))) o.outlines = std::move(*outlines);
        o.notices = readNotices(seen->value(15).toString().toStdString());
        if (const QByteArray others = seen->value(16).toByteArray(); !others.isEmpty()) {
            const QByteArray raw = unpacked(others);
            // Without them the set is as it was before they were asked.
            if (auto opinions = readOpinions(bytesOf(raw))) o.opinions = std::move(*opinions);
        }
        if (const QByteArray lines = seen->value(18).toByteArray(); !lines.isEmpty()) {
            const QByteArray raw = unpacked(lines);
            if (auto contours = readOutlines(bytesOf(raw))) o.contours = std::move(*contours);
        }
        out.seen[position] = {{ClipId(seen->value(1).toLongLong()), seen->value(2).toByteArray(),
                               seen->value(3).toString(), seen->value(4).toLongLong(), seen->value(17).toBool()},
                              std::make_shared<const Observation>(std::move(o))};
    }
    if (out.seen.empty() || !out.seen.front().observation)
        return Error{"The record of this set is damaged. Open its clip again to measure it anew.",
                     "no observation of set " + std::to_string(set)};

    auto made = edits(id);
    if (!made) return made.error();
    out.edits = std::move(*made);
    for (bool second : {false, true}) {
        auto all = m_impl->readReps({set}, second);
        if (!all) return all.error();
        auto* reps = &(*all)[set];
        (second ? out.kept.secondReps : out.kept.reps) = std::move(*reps);
    }
    return out;
}

Result<void> Library::setHeldOn(SetId id, const QDate& day) {
    auto place = placeOf(id);
    if (!place) return place.error();
    place->heldOn = day;
    return putSet(id, *place);
}

Result<void> Library::moveClip(ClipId id, const QString& path) {
    return m_impl->change("UPDATE clips SET path = ? WHERE id = ?", {path, number(id)});
}

Result<std::vector<HistoryValue>> Library::history(ClientId client, const QString& measure) const {
    auto q = m_impl->read(
        "SELECT m.set_id, e.held_on, m.rep_s, m.value, m.pm90, m.confidence, m.view, m.engine FROM measurements m JOIN "
        "sets s ON s.id = m.set_id JOIN sessions e ON e.id = s.session_id WHERE e.client_id = ? AND m.measure = ? AND "
        "NOT s.hidden ORDER BY e.held_on, s.position, s.id, m.rep_s",
        {number(client), measure});
    if (!q) return q.error();
    std::vector<HistoryValue> out;
    while (q->next())
        out.push_back({SetId(q->value(0).toLongLong()), QDate::fromString(q->value(1).toString(), Qt::ISODate),
                       q->value(2).toDouble(), q->value(3).toDouble(), q->value(4).toDouble(), q->value(5).toDouble(),
                       q->value(6).toBool(), q->value(7).toInt()});
    return out;
}

}  // namespace zevo::store
