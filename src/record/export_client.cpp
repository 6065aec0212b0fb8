#include "record/export_client.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QRegularExpression>
#include <QSaveFile>
#include <QUuid>
#include <nlohmann/json.hpp>

#include "core/serial/edit_json.h"
#include "core/serial/pose_record.h"
#include "core/serial/result_json.h"
#include "present/words.h"
#include "record/file_shelf.h"
#include "record/opening.h"
#include "record/set_keeper.h"

namespace zevo::record {
namespace {

using nlohmann::json;

std::string words(const QString& text) {
    return text.toStdString();
}
json dayJson(const std::optional<QDate>& day) {
    return day ? json(words(day->toString(Qt::ISODate))) : json();
}

json clientJson(const store::Client& c, const std::vector<store::Complaint>& complaints) {
    json flags = json::array(), asked = json::array(), targets = json::array(), build = json::object();
    for (const auto& f : c.flags)
        flags.push_back({{"flag", words(f.flag)},
                         {"since", dayJson(f.since)},
                         {"cleared_on", dayJson(f.clearedOn)},
                         {"cleared_by", words(f.clearedBy)},
                         {"limits", words(f.limits)},
                         {"cleared_until", dayJson(f.clearedUntil)},
                         {"over_on", dayJson(f.overOn)},
                         {"over_by", words(f.overBy)}});
    for (const auto& p : complaints)
        asked.push_back({{"asked_on", dayJson(p.askedOn)},
                         {"score", p.score.value_or(0)},
                         {"place", painSpotsText(p.spots)},
                         {"sharp", p.sharp}});
    for (const auto& t : c.targets)
        targets.push_back({{"movement", words(t.movement)},
                           {"measure", words(t.measure)},
                           {"value", t.value},
                           {"on", dayJson(t.on)}});
    for (const auto& [part, cm] : c.build) build[words(part)] = cm;
    return {{"schema", "zevo-client-1"},
            {"id", c.id.key()},
            {"name", words(c.name)},
            {"stature_cm", c.statureCm},
            {"mass_kg", c.massKg},
            {"goals", words(c.goals)},
            {"emphasis", words(c.emphasis)},
            {"equipment", words(c.equipment)},
            {"note", words(c.note)},
            {"consent_on", dayJson(c.consent)},
            {"consent_for", words(c.consentFor)},
            {"build_cm", build},
            {"choices", c.choices},
            {"targets", targets},
            {"flags", flags},
            {"complaints", asked},
            {"archived", c.archived}};
}

json entriesJson(const store::EditEntries& entries) {
    json out = json::array();
    const std::vector<bool> holds = store::inForce(entries);
    for (std::size_t i = 0; i < entries.size(); ++i) {
        const store::EditEntry& e = entries[i];
        json o{{"id", e.id.key()},
               {"author", words(e.author)},
               {"made_at", words(e.madeAt.toString(Qt::ISODateWithMs))},
               {"in_force", static_cast<bool>(holds[i])}};
        if (e.isTakingBack()) o["takes_back"] = e.takesBack.key();
        if (e.edit) {
            const auto [kind, payload] = writeEdit(*e.edit);
            o["kind"] = kind;
            o["what"] = json::parse(payload);
        }
        out.push_back(std::move(o));
    }
    return out;
}

/// The values as they are kept: those of an older engine stay.
json resultOf(const store::StoredSet& set, const Catalogue& catalogue) {
    const bool older = set.kept.engine != kEngine && !set.kept.reps.empty();
    const auto state = recompute(observationsOf(set.seen), set.edits, catalogue, nullptr, older ? &set.kept : nullptr);
    return state ? json::parse(toJson(state->set, present::resultWords(), &catalogue.advice)) : json();
}

Result<void> writeFile(const QString& path, const QByteArray& bytes) {
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size() || !file.commit())
        return Error{"It could not be written there. Is there room, and may you write to the folder?",
                     (path + ": " + file.errorString()).toStdString()};
    return {};
}
Result<void> writeJson(const QString& path, const json& o) {
    return writeFile(path, QByteArray::fromStdString(o.dump(1)));
}

Result<void> writeSeen(const store::Seen& seen, const QDir& folder, const QString& name) {
    auto write = [&](const char* what, const std::vector<std::uint8_t>& block) {
        return writeFile(folder.filePath(name.arg(what)),
                         QByteArray(reinterpret_cast<const char*>(block.data()), static_cast<qsizetype>(block.size())));
    };
    const Observation& o = *seen.observation;
    if (auto w = write("poses", writePoses(o.poses)); !w) return w;
    for (const auto& [what, outlines] : {std::pair{"outlines", &o.outlines}, std::pair{"contours", &o.contours}})
        if (!outlines->empty())
            if (auto w = write(what, writeOutlines(*outlines)); !w) return w;
    if (!o.secondEstimates.empty())
        if (auto w = write("opinions", writeSecondEstimates(o.secondEstimates)); !w) return w;
    const QString copy = folder.filePath(QFileInfo(seen.clip.path).fileName());
    if (seen.clip.filmed && QFileInfo::exists(seen.clip.path) && !QFileInfo::exists(copy) &&
        !QFile::copy(seen.clip.path, copy))
        return Error{"A video could not be copied there. Is there room?", seen.clip.path.toStdString()};
    return {};
}

Result<void> fillFolder(const store::Library& library, const store::Client& client, const Catalogue& catalogue,
                        const QDir& folder, const std::atomic<bool>& cancel) {
    const auto complaints = library.complaints(client.id);
    if (!complaints) return complaints.error();
    if (auto w = writeJson(folder.filePath("client.json"), clientJson(client, *complaints)); !w) return w;
    const auto log = library.log(client.id);
    if (!log) return log.error();
    int number = 0;
    for (const auto& s : *log) {
        if (cancel) return refusal(NoticeKind::Stopped);
        const auto set = library.loadSet(s.id);
        if (!set) return set.error();
        const QString name = QString("set-%1-%2").arg(s.heldOn.toString(Qt::ISODate)).arg(++number, 3, 10, QChar('0'));
        json clips = json::array();
        for (std::size_t i = 0; i < set->seen.size(); ++i) {
            const auto& seen = set->seen[i];
            if (!seen.observation) continue;
            json notices = json::parse(writeNotices(seen.observation->notices));
            clips.push_back({{"place", i},
                             {"file", words(QFileInfo(seen.clip.path).fileName())},
                             {"sha256", seen.clip.sha256.toHex().toStdString()},
                             {"filmed_by_zevo", seen.clip.filmed},
                             {"notices", notices}});
            if (auto w = writeSeen(seen, folder, name + QString("-%1-%%1.cbor").arg(i + 1)); !w) return w;
        }
        const json o{{"schema", "zevo-set-1"},
                     {"id", s.id.key()},
                     {"held_on", dayJson(s.heldOn)},
                     {"movement", words(s.movement)},
                     {"headline", words(s.headline)},
                     {"engine", set->kept.engine},
                     {"result", resultOf(*set, catalogue)},
                     {"edits", entriesJson(set->entries)},
                     {"clips", clips}};
        if (auto w = writeJson(folder.filePath(name + ".json"), o); !w) return w;
    }
    return {};
}

}  // namespace

QString asFileName(const QString& name) {
    QString out = name.normalized(QString::NormalizationForm_C);
    static const QRegularExpression others("[^\\p{L}\\p{N}]+");
    out.replace(others, "-");
    while (out.startsWith('-')) out.remove(0, 1);
    while (out.endsWith('-')) out.chop(1);
    constexpr int kMost = 80;  // in UTF-8 at most four times that, and a file's name may have 255 bytes
    out.truncate(kMost / 2);
    return out.isEmpty() ? QString("client") : out;
}

Result<QString> exportClient(const QString& libraryFolder, store::ClientId id, const QString& into,
                             const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel) {
    auto library = openToRead(libraryFolder);
    if (!library) return library.error();
    const auto client = library->client(id);
    if (!client) return client.error();
    const QString name = asFileName(client->name);
    const QDir parent(into);
    QString target = parent.filePath(name);
    for (int n = 2; QFileInfo::exists(target); ++n) target = parent.filePath(QString("%1-%2").arg(name).arg(n));
    // Filled under another name, so that half an export is never taken for a whole one.
    const QString half = target + ".part-" + QUuid::createUuid().toString(QUuid::Id128).left(8);
    if (!parent.mkpath(half)) return Error{"No folder can be made there.", into.toStdString()};
    auto filled = fillFolder(*library, *client, *catalogue, QDir(half), cancel);
    if (filled && !library->isReadOnly()) filled = FileShelf(*library).noteExport(target, id);
    if (filled && !QDir().rename(half, target)) filled = Error{"No folder can be made there.", target.toStdString()};
    if (!filled) {
        QDir(half).removeRecursively();
        if (!library->isReadOnly()) (void)library->forgetFile(target);
        return filled.error();
    }
    return target;
}

}  // namespace zevo::record
