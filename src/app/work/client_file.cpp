#include "app/work/client_file.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QRegularExpression>
#include <QSaveFile>
#include <QUuid>
#include <algorithm>

#include "app/work/set_work.h"
#include "core/record/edit_json.h"
#include "core/record/pose_record.h"
#include "core/signal/filter.h"

namespace zevo::app {
namespace {

std::vector<MeasureId> leadingOf(const Standard& standard, const Movement& movement) {
    std::vector<MeasureId> out;
    auto take = [&](MeasureId id) {
        if (id && std::find(out.begin(), out.end(), id) == out.end()) out.push_back(id);
    };
    for (MeasureId id : standard.leading) take(id);
    for (const auto& id : movement.measures) take(MeasureId::named(id));
    constexpr std::size_t kMost = 4;
    if (out.size() > kMost) out.resize(kMost);
    return out;
}

Course courseOf(const std::vector<store::LoggedSet>& log, const QString& movement, MeasureId measure) {
    Course c;
    c.movement = movement;
    c.measure = measure;
    std::vector<double> scatter;
    for (const auto& s : log) {
        if (s.movement != movement) continue;
        std::vector<double> values;
        for (const MeasuredRep& rep : countedOf(s.reps, fold(s.edits).leftOut))
            if (const Measurement* m = rep.find(measure)) values.push_back(m->value);
        if (values.empty()) continue;
        const double pm = halfWidth(values);
        if (values.size() > 2) scatter.push_back(pm);
        c.points.push_back({s.id, s.heldOn, median(values), pm});
    }
    if (!scatter.empty()) c.noise = median(scatter);
    return c;
}

QJsonObject measurementJson(const Measurement& m) {
    QJsonObject o{{"measure", QString::fromStdString(m.measure.name())},
                  {"unit", QString::fromStdString(unitName(m.measure->unit))},
                  {"value", m.value},
                  {"pm90", m.pm90},
                  {"confidence", m.confidence},
                  {"at_s", m.atS}};
    if (m.asSeen) o["as_seen"] = *m.asSeen;
    return o;
}

QJsonObject setJson(const store::StoredSet& set) {
    QJsonArray edits, reps, clips;
    for (const Edit& e : set.edits) {
        const auto [kind, payload] = writeEdit(e);
        edits.append(QJsonObject{{"kind", QString::fromStdString(kind)},
                                 {"what", QJsonDocument::fromJson(QByteArray::fromStdString(payload)).object()}});
    }
    for (const MeasuredRep& r : set.kept.reps) {
        QJsonArray measures;
        for (const Measurement& m : r.measures) measures.append(measurementJson(m));
        reps.append(QJsonObject{{"number", r.index},
                                {"kind", QString::fromStdString(repKindName(r.kind))},
                                {"start_s", r.startS},
                                {"bottom_s", r.bottomS},
                                {"end_s", r.endS},
                                {"measures", measures}});
    }
    for (const auto& s : set.seen)
        if (s.observation)
            clips.append(QJsonObject{{"file", QFileInfo(s.clip.path).fileName()},
                                     {"sha256", QString::fromLatin1(s.clip.sha256.toHex())},
                                     {"filmed_by_zevo", s.clip.filmed}});
    return {{"held_on", set.heldOn.toString(Qt::ISODate)}, {"edits", edits}, {"repetitions", reps}, {"clips", clips}};
}

QJsonObject clientJson(const store::Client& c, const std::vector<store::Complaint>& complaints) {
    QJsonArray flags, asked, targets;
    for (const auto& f : c.flags)
        flags.append(QJsonObject{{"flag", f.flag},
                                 {"since", f.since.toString(Qt::ISODate)},
                                 {"cleared_on", f.clearedOn ? f.clearedOn->toString(Qt::ISODate) : QString()},
                                 {"cleared_by", f.clearedBy}});
    for (const auto& p : complaints)
        asked.append(QJsonObject{{"asked_on", p.askedOn->toString(Qt::ISODate)},
                                 {"score", p.score.value_or(0)},
                                 {"place", p.place},
                                 {"sharp", p.sharp}});
    for (const auto& t : c.targets)
        targets.append(QJsonObject{
            {"movement", t.movement}, {"measure", t.measure}, {"value", t.value}, {"on", t.on.toString(Qt::ISODate)}});
    QJsonObject build, choices;
    for (const auto& [part, cm] : c.build) build[part] = cm;
    for (const auto& [choice, option] : c.choices)
        choices[QString::fromStdString(choice)] = QString::fromStdString(option);
    return {{"name", c.name},
            {"stature_cm", c.statureCm},
            {"mass_kg", c.massKg},
            {"goals", c.goals},
            {"emphasis", c.emphasis},
            {"equipment", c.equipment},
            {"note", c.note},
            {"consent_on", c.consent ? c.consent->toString(Qt::ISODate) : QString()},
            {"consent_for", c.consentFor},
            {"build_cm", build},
            {"choices", choices},
            {"targets", targets},
            {"flags", flags},
            {"complaints", asked}};
}

Result<void> writeFile(const QString& path, const QByteArray& bytes) {
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size() || !file.commit())
        return Error{"It could not be written there. Is there room, and may you write to the folder?",
                     (path + ": " + file.errorString()).toStdString()};
    return {};
}

Result<void> fillFolder(const store::Library& library, const store::Client& client, const QDir& folder,
                        const std::atomic<bool>& cancel) {
    const auto complaints = library.complaints(client.id);
    if (!complaints) return complaints.error();
    const auto json = [](const QJsonObject& o) { return QJsonDocument(o).toJson(); };
    if (auto w = writeFile(folder.filePath("client.json"), json(clientJson(client, *complaints))); !w) return w;
    const auto log = library.log(client.id);
    if (!log) return log.error();
    for (const auto& s : *log) {
        if (cancel) return refusal(NoticeKind::Stopped);
        const auto set = library.loadSet(s.id);
        if (!set) return set.error();
        const QString name = QString("set-%1-%2").arg(s.heldOn.toString(Qt::ISODate)).arg(static_cast<qint64>(s.id));
        QJsonObject o = setJson(*set);
        o["movement"] = s.movement, o["headline"] = s.headline;
        if (auto w = writeFile(folder.filePath(name + ".json"), json(o)); !w) return w;
        for (std::size_t i = 0; i < set->seen.size(); ++i) {
            const auto& seen = set->seen[i];
            if (!seen.observation) continue;
            auto write = [&](const char* what, const std::vector<std::uint8_t>& block) {
                return writeFile(
                    folder.filePath(QString("%1-%2-%3.cbor").arg(name, what).arg(i + 1)),
                    QByteArray(reinterpret_cast<const char*>(block.data()), static_cast<qsizetype>(block.size())));
            };
            if (auto w = write("poses", writePoses(seen.observation->poses)); !w) return w;
            if (!seen.observation->contours.empty())
                if (auto w = write("contours", writeOutlines(seen.observation->contours)); !w) return w;
            const QString copy = folder.filePath(QFileInfo(seen.clip.path).fileName());
            if (seen.clip.filmed && QFileInfo::exists(seen.clip.path) && !QFileInfo::exists(copy) &&
                !QFile::copy(seen.clip.path, copy))
                return Error{"A video could not be copied there. Is there room?", seen.clip.path.toStdString()};
        }
    }
    return {};
}

}  // namespace

Result<ClientFile> readClientFile(const QString& libraryFolder, store::ClientId id,
                                  const std::shared_ptr<const Catalogue>& catalogue) {
    auto library = store::Library::open(libraryFolder);
    if (!library) library = store::Library::open(libraryFolder, store::Access::Read);
    if (!library) return library.error();
    auto client = library->client(id);
    if (!client) return client.error();
    auto log = library->log(id);
    if (!log) return log.error();
    if (auto read = library->readRepetitions(*log); !read) return read.error();
    auto complaints = library->complaints(id);
    if (!complaints) return complaints.error();
    ClientFile out{std::move(*client), std::move(*log), std::move(*complaints), {}, {}, {}};
    out.ledger = ledgerOf(ledgerSets(out.log), *catalogue);
    out.scores = scoresOf(out.ledger.cues);
    QStringList movements;
    for (auto s = out.log.rbegin(); s != out.log.rend(); ++s)
        if (!movements.contains(s->movement)) movements.append(s->movement);
    for (const QString& id : movements) {
        const Movement* movement = catalogue->movement(id.toStdString());
        const auto last =
            std::find_if(out.log.rbegin(), out.log.rend(), [&](const auto& s) { return s.movement == id; });
        const auto standard = standardFor(fold(last->edits), *catalogue);
        if (!movement || !standard) continue;
        for (MeasureId measure : leadingOf(*standard, *movement)) {
            Course c = courseOf(out.log, id, measure);
            if (c.points.empty()) continue;
            c.movementTitle = QString::fromStdString(movement->title);
            if (const Band* band = standard->bandFor(measure)) c.min = band->min, c.max = band->max;
            for (const auto& t : out.client.targets)
                if (t.movement == id && t.measure.toStdString() == measure.name()) c.target = t.value;
            out.courses.push_back(std::move(c));
        }
    }
    return out;
}

Result<QString> exportClient(const QString& libraryFolder, store::ClientId id, const QString& into,
                             const std::atomic<bool>& cancel) {
    auto library = store::Library::open(libraryFolder, store::Access::Read);
    if (!library) return library.error();
    const auto client = library->client(id);
    if (!client) return client.error();
    QString name = client->name;
    name.replace(QRegularExpression("[^\\w]+"), "-");
    const QDir parent(into);
    QString target = parent.filePath(name.isEmpty() ? "client" : name);
    for (int n = 2; QFileInfo::exists(target); ++n) target = parent.filePath(QString("%1-%2").arg(name).arg(n));
    // Filled under another name, so that half an export is never taken for a whole one.
    const QString half = target + ".part-" + QUuid::createUuid().toString(QUuid::Id128).left(8);
    if (!parent.mkpath(half)) return Error{"No folder can be made there.", into.toStdString()};
    auto filled = fillFolder(*library, *client, QDir(half), cancel);
    if (filled && !QDir().rename(half, target)) filled = Error{"No folder can be made there.", target.toStdString()};
    if (!filled) {
        QDir(half).removeRecursively();
        return filled.error();
    }
    return target;
}

}  // namespace zevo::app
