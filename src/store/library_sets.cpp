// Sets in the record: what was seen, what the coach made of it, what it came to.
#include "store/library_impl.h"

namespace zevo::store {
std::vector<bool> inForce(const EditEntries& entries) {
    std::vector<bool> out(entries.size(), true);
    // The last word is in force; whom it takes back is not, and takes back nobody.
    for (std::size_t i = entries.size(); i-- > 0;) {
        if (!out[i] || !entries[i].isTakingBack()) continue;
        for (std::size_t j = 0; j < i; ++j)
            if (entries[j].id == entries[i].takesBack) out[j] = false;
    }
    return out;
}

Edits editsInForce(const EditEntries& entries) {
    const std::vector<bool> holds = inForce(entries);
    Edits out;
    for (std::size_t i = 0; i < entries.size(); ++i)
        if (holds[i] && entries[i].edit) out.push_back(*entries[i].edit);
    return out;
}

Result<SetId> Library::addSet(const NewSet& set) {
    return m_impl->transaction([&]() -> Result<SetId> {
        auto session = m_impl->session(set.client, set.heldOn);
        if (!session) return session.error();
        const SetId id = SetId::fresh();
        if (auto r = m_impl->change(
                "INSERT INTO sets (id, session_id, movement, standard, reps, headline, engine, made_at, position) "
                "VALUES (?, ?, '', '', 0, '', 0, ?, (SELECT coalesce(max(position), 0) + 1 FROM sets))",
                {key(id), *session, now()});
            !r)
            return r.error();
        for (std::size_t i = 0; i < set.seen.size(); ++i)
            if (auto r = m_impl->writeObservation(id, static_cast<int>(i), set.seen[i]); !r) return r.error();
        EditEntries entries;
        for (const Edit& e : set.edits)
            entries.push_back({EntryId::fresh(), set.author, QDateTime::currentDateTimeUtc(), {}, e});
        if (auto r = m_impl->writeEntries(id, entries); !r) return r.error();
        if (auto r = m_impl->writeOutcome(id, set.outcome); !r) return r.error();
        return id;
    });
}

Result<std::optional<int>> Library::commit(SetId id, int revision, const SetWrite& write) {
    return m_impl->transaction([&]() -> Result<std::optional<int>> {
        auto there = m_impl->read("SELECT revision FROM sets WHERE id = ?", {key(id)});
        if (!there) return there.error();
        if (!there->next()) return Error{kNoSuchSet, id.key()};
        if (there->value(0).toInt() != revision) return std::optional<int>();
        there->finish();
        for (const auto& [position, seen] : write.add)
            if (auto r = m_impl->writeObservation(id, position, seen); !r) return r.error();
        if (write.refine) {
            if (auto r = m_impl->change("DELETE FROM observations WHERE set_id = ? AND position = 0", {key(id)}); !r)
                return r.error();
            if (auto r = m_impl->writeObservation(id, 0, *write.refine); !r) return r.error();
        }
        if (auto r = m_impl->writeEntries(id, write.entries); !r) return r.error();
        if (write.outcome)
            if (auto r = m_impl->writeOutcome(id, *write.outcome); !r) return r.error();
        if (auto r = m_impl->change("UPDATE sets SET revision = ? WHERE id = ?", {revision + 1, key(id)}); !r)
            return r.error();
        return std::optional(revision + 1);
    });
}

Result<void> Library::sweepSets() {
    auto places = m_impl->read(
        "SELECT set_id, position FROM observations WHERE set_id IN (SELECT set_id FROM observations WHERE position > "
        "0)");
    if (!places) return places.error();
    std::map<SetId, std::vector<int>> all;
    while (places->next()) all[SetId::fromBytes(places->value(0).toByteArray())].push_back(places->value(1).toInt());
    places->finish();
    std::vector<std::pair<SetId, int>> unused;
    for (const auto& [id, positions] : all) {
        auto entries = m_impl->readEntries("WHERE d.set_id = ?", {key(id)}, false);
        if (!entries) return entries.error();
        const EditEntries& mine = (*entries)[id];
        // What a newer Zevo may speak of is left to it.
        if (std::any_of(mine.begin(), mine.end(), [](const EditEntry& e) { return e.isUnreadable(); })) continue;
        const std::vector<bool> wanted = observationsSpokenOf(editsInForce(mine));
        for (int position : positions)
            if (static_cast<std::size_t>(position) >= wanted.size() || !wanted[static_cast<std::size_t>(position)])
                unused.emplace_back(id, position);
    }
    if (unused.empty()) return {};
    return m_impl->deleteThen([&]() -> Result<void> {
        for (const auto& [id, position] : unused)
            if (auto r =
                    m_impl->change("DELETE FROM observations WHERE set_id = ? AND position = ?", {key(id), position});
                !r)
                return r;
        return {};
    });
}

Result<Edits> Library::edits(SetId id) const {
    auto entries = m_impl->readEntries("WHERE d.set_id = ?", {key(id)}, true);
    if (!entries) return entries.error();
    return editsInForce((*entries)[id]);
}

Result<std::vector<SetSummary>> Library::sets(ClientId client) const {
    auto q = m_impl->read(
        "SELECT s.id, e.held_on, s.made_at, s.movement, s.standard, s.headline, s.reps FROM sets s JOIN sessions e ON "
        "e.id = s.session_id WHERE e.client_id = ? AND NOT s.hidden ORDER BY e.held_on DESC, s.position DESC",
        {key(client)});
    if (!q) return q.error();
    std::vector<SetSummary> out;
    while (q->next())
        out.push_back({SetId::fromBytes(q->value(0).toByteArray()),
                       QDate::fromString(q->value(1).toString(), Qt::ISODate),
                       QDateTime::fromString(q->value(2).toString(), Qt::ISODateWithMs), q->value(3).toString(),
                       q->value(4).toString(), q->value(5).toString(), q->value(6).toInt()});
    return out;
}

Result<std::vector<Outline>> Library::outlines(SetId id) const {
    auto q = m_impl->read("SELECT outlines FROM observations WHERE set_id = ? AND position = 0", {key(id)});
    if (!q) return q.error();
    if (!q->next()) return std::vector<Outline>();
    const QByteArray raw = unpacked(q->value(0).toByteArray());
    return readOutlines(bytesOf(raw));
}

Result<StoredSet> Library::loadSet(SetId id) const {
    auto q = m_impl->read(QString("SELECT %1, e.held_on, s.engine, s.revision FROM sets s JOIN sessions e ON e.id = "
                                  "s.session_id JOIN clients k ON k.id = e.client_id WHERE s.id = ?")
                              .arg(Impl::kClientColumns),
                          {key(id)});
    if (!q) return q.error();
    if (!q->next()) return Error{kNoSuchSet, id.key()};
    StoredSet out;
    out.id = id;
    out.client = Impl::clientFrom(*q);
    out.heldOn = QDate::fromString(q->value(Impl::kClientColumnCount).toString(), Qt::ISODate);
    out.kept.engine = q->value(Impl::kClientColumnCount + 1).toInt();
    out.revision = q->value(Impl::kClientColumnCount + 2).toInt();
    q->finish();
    if (auto read = m_impl->readFlags(out.client); !read) return read.error();
    if (auto read = m_impl->readSeen(out); !read) return read.error();
    auto entries = m_impl->readEntries("WHERE d.set_id = ?", {key(id)}, true);
    if (!entries) return entries.error();
    out.entries = std::move((*entries)[id]);
    out.edits = editsInForce(out.entries);
    const std::vector<bool> holds = inForce(out.entries);
    for (std::size_t i = 0; i < holds.size(); ++i) out.unreadable += holds[i] && out.entries[i].isUnreadable();
    for (bool second : {false, true}) {
        auto all = m_impl->readReps({id}, second);
        if (!all) return all.error();
        (second ? out.kept.secondReps : out.kept.reps) = std::move((*all)[id]);
    }
    return out;
}

Result<void> Library::Impl::readSeen(StoredSet& set) const {
    auto seen = read(
        "SELECT o.position, c.id, c.sha256, c.path, c.bytes, c.frames, c.duration_s, c.width, c.height, "
        "c.rotation_deg, o.engine, o.model, o.network, o.poses, o.outlines, o.notices, o.opinions, c.filmed, "
        "o.contours, o.id, f.path, o.camera_hold FROM observations o JOIN clips c ON c.id = o.clip_id LEFT JOIN files "
        "f ON f.sha256 = "
        "c.sha256 AND f.kind = 'recording' AND c.filmed WHERE o.set_id = ? ORDER BY o.position",
        {key(set.id)});
    if (!seen) return seen.error();
    while (seen->next()) {
        const auto position = static_cast<std::size_t>(seen->value(0).toInt());
        if (position >= set.seen.size()) set.seen.resize(position + 1);
        Observation o;
        o.clip = {seen->value(5).toLongLong(), seen->value(6).toDouble(),
                  seen->value(7).toInt(),      seen->value(8).toInt(),
                  seen->value(9).toInt(),      readHold(seen->value(21).toString().toStdString())};
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
            if (auto secondEstimates = readSecondEstimates(bytesOf(raw)))
                o.secondEstimates = std::move(*secondEstimates);
        }
        if (const QByteArray contours = seen->value(18).toByteArray(); !contours.isEmpty()) {
            const QByteArray raw = unpacked(contours);
            if (auto readBack = readOutlines(bytesOf(raw))) o.contours = std::move(*readBack);
        }
        const QString path =
            seen->value(20).isNull() ? seen->value(3).toString() : fromShelf(seen->value(20).toString());
        set.seen[position] = {{ClipId::fromBytes(seen->value(1).toByteArray()), seen->value(2).toByteArray(), path,
                               seen->value(4).toLongLong(), seen->value(17).toBool()},
                              std::make_shared<const Observation>(std::move(o)),
                              ObservationId::fromBytes(seen->value(19).toByteArray())};
    }
    if (set.seen.empty() || !set.seen.front().observation)
        return Error{"The record of this set is damaged. Open its clip again to measure it anew.",
                     "no observation of set " + set.id.key()};
    return {};
}

Result<void> Library::setHeldOn(SetId id, const QDate& day) {
    auto place = placeOf(id);
    if (!place) return place.error();
    place->heldOn = day;
    return putSet(id, *place);
}

Result<void> Library::moveClip(ClipId id, const QString& path) {
    return m_impl->change("UPDATE clips SET path = ? WHERE id = ? AND NOT filmed", {path, key(id)});
}

Result<std::vector<HistoryValue>> Library::history(ClientId client, const QString& measure) const {
    auto q = m_impl->read(
        "SELECT m.set_id, e.held_on, r.bottom_s, m.value, m.pm90, m.confidence, m.view, m.engine FROM measurements m "
        "JOIN repetitions r ON r.set_id = m.set_id AND r.second = m.view AND r.number = m.number JOIN sets s ON s.id = "
        "m.set_id JOIN sessions e ON e.id = s.session_id WHERE e.client_id = ? AND m.measure = ? AND NOT s.hidden "
        "ORDER BY e.held_on, s.position, r.number",
        {key(client), measure});
    if (!q) return q.error();
    std::vector<HistoryValue> out;
    while (q->next())
        out.push_back({SetId::fromBytes(q->value(0).toByteArray()),
                       QDate::fromString(q->value(1).toString(), Qt::ISODate), q->value(2).toDouble(),
                       q->value(3).toDouble(), q->value(4).toDouble(), q->value(5).toDouble(), q->value(6).toBool(),
                       q->value(7).toInt()});
    return out;
}

}  // namespace zevo::store
