// zevo-cli library …: lists, adds to, measures into, exports from and verifies a coach's library, by the same calls as
// the window.
#include <QDir>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <cstdio>

#include "catalog/data_files.h"
#include "cli/command.h"
#include "present/words.h"
#include "record/export_client.h"
#include "record/importing.h"
#include "record/one_writer.h"
#include "record/opening.h"
#include "record/readings.h"
#include "record/verifying.h"

namespace zevo::cli {
namespace {

void print(const QJsonObject& object) {
    std::printf("%s\n", QJsonDocument(object).toJson(QJsonDocument::Compact).constData());
}

Result<store::Client> clientNamed(const store::Library& library, const QString& name) {
    const auto all = library.clients();
    if (!all) return all.error();
    std::vector<store::Client> found;
    for (const store::Client& c : *all)
        if (c.name == name) found.push_back(c);
    if (found.empty()) return Error{"There is no client of that name in this library.", name.toStdString()};
    if (found.size() > 1) return Error{"Several clients have that name. Tell them apart in the window first.", {}};
    return found.front();
}

/// To change it: refused while another Zevo holds it.
Result<record::HeldLibrary> toChange(const QString& folder) {
    auto held = record::holdLibrary(folder);
    if (held && !held->lock)
        return Error{"The library is held by another Zevo, or its folder cannot be written to. Nothing was changed.",
                     folder.toStdString()};
    return held;
}

int list(const QString& folder, const QString& name) {
    const auto library = record::openToRead(folder);
    if (!library) return refuse(library.error());
    const auto clients = library->clients();
    if (!clients) return refuse(clients.error());
    bool any = false;
    for (const store::Client& client : *clients) {
        if (!name.isEmpty() && client.name != name) continue;
        any = true;
        const auto sets = library->sets(client.id);
        if (!sets) return refuse(sets.error());
        QJsonArray lines;
        for (const store::SetSummary& s : *sets)
            lines.append(QJsonObject{{"id", s.id.text()},
                                     {"held_on", s.heldOn.toString(Qt::ISODate)},
                                     {"movement", s.movement},
                                     {"standard", s.standard},
                                     {"reps", s.reps},
                                     {"headline", s.headline}});
        print({{"client", client.name}, {"id", client.id.text()}, {"stature_cm", client.statureCm}, {"sets", lines}});
    }
    return any || name.isEmpty() ? 0 : refuse(QString("There is no client of that name in this library."));
}

int add(const QString& folder, const QString& name, double statureCm) {
    auto held = toChange(folder);
    if (!held) return refuse(held.error());
    if (clientNamed(held->library, name)) return refuse(QString("There is a client of that name already."));
    const auto id = held->library.addClient({{}, name, statureCm, {}, {}});
    if (!id) return refuse(id.error());
    print({{"client", name}, {"id", id->text()}});
    return 0;
}

int analyse(const QString& folder, const QString& clip, const QString& name, const QCommandLineParser& call,
            const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel) {
    auto held = toChange(folder);
    if (!held) return refuse(held.error());
    const auto client = clientNamed(held->library, name);
    if (!client) return refuse(client.error());
    record::ImportRequest request;
    request.libraryFolder = folder, request.clipPath = clip, request.client = client->id;
    request.catalogue = catalogue, request.model = call.value("model"), request.standard = call.value("standard");
    request.facts.movement = call.value("movement").toStdString();
    request.facts.variation = call.value("variation").toStdString();
    const Movement* movement = catalogue->movement(request.facts.movement);
    if (!movement) return refuse(refusal(NoticeKind::UnknownMovement, {request.facts.movement}));
    if (!request.facts.variation.empty() && !movement->variation(request.facts.variation))
        return refuse(QString("The movement has no such variation: zevo-cli movements lists them."));
    request.facts = record::carriedOver(held->library, *client, request.facts, *request.catalogue);
    const auto made = record::importClip(request, cancel, {});
    if (!made) return refuse(made.error());
    // The back stands behind the answer, as in the window; where it cannot be read, the set is whole without it.
    (void)record::readBackOf(folder, made->id, catalogue, cancel, {});
    print({{"set", made->id.text()}, {"headline", made->headline}});
    return 0;
}

int exported(const QString& folder, const QString& name, const QString& into,
             const std::shared_ptr<const Catalogue>& catalogue, const std::atomic<bool>& cancel) {
    auto held = toChange(folder);  // where it was exported to is remembered
    if (!held) return refuse(held.error());
    const auto client = clientNamed(held->library, name);
    if (!client) return refuse(client.error());
    const auto done = record::exportClient(folder, client->id, into, catalogue, cancel);
    if (!done) return refuse(done.error());
    std::printf("%s\n", qPrintable(*done));
    return 0;
}

int verify(const QString& folder, const std::shared_ptr<const Catalogue>& catalogue) {
    const auto found = record::verifyLibrary(folder, catalogue);
    if (!found) return refuse(found.error());
    print({{"clients", found->clients},
           {"sets", found->sets},
           {"problems", QJsonArray::fromStringList(found->problems)},
           {"videos_elsewhere", QJsonArray::fromStringList(found->missing)}});
    return found->problems.isEmpty() ? kDone : kRefused;
}

int library(const QCommandLineParser& call, const QStringList& plain, const std::atomic<bool>& cancel) {
    const auto wrong = [](const QString& problem) { return usage(problem, "library"); };
    const QString what = plain.value(0), folder = plain.value(1), name = call.value("client").trimmed();
    const qsizetype wanted = what == "analyse" ? 3 : 2;
    const QStringList known{"list", "add", "analyse", "export", "verify"};
    if (!known.contains(what)) return wrong("library does one of: " + known.join(", ") + ".");
    if (plain.size() != wanted) return wrong("Name the library's folder" + QString(wanted == 3 ? " and a clip." : "."));
    if (name.isEmpty() && what != "list" && what != "verify") return wrong("library " + what + " needs --client.");
    const auto stature = statureOf(call);
    if (!stature) return usage(stature.error(), "library");
    // Only add makes a library: a folder that was mistyped stays as it is.
    if (what != "add" && !QDir(folder).exists("library.sqlite"))
        return refuse(QString("There is no Zevo library in this folder."));
    if (what == "list") return list(folder, name);
    if (what == "add") return add(folder, name, *stature);
    const auto read = catalog::loadCatalogue(record::ownStandards(folder).toStdString());
    if (!read) return refuse(read.error());
    const auto catalogue = std::make_shared<const Catalogue>(*read);
    if (what == "verify") return verify(folder, catalogue);
    if (what == "analyse") return analyse(folder, plain[2], name, call, catalogue, cancel);
    if (!call.isSet("out")) return wrong("library export needs --out.");
    return exported(folder, name, call.value("out"), catalogue, cancel);
}

}  // namespace

Command libraryCommand() {
    return {
        "library",
        "list|add|analyse|export|verify FOLDER [CLIP] [--client NAME] [options]",
        "A coach's library: lists clients and sets, adds a client, measures a clip into it, exports everything of a "
        "client, or reads all of it and says what is wrong.",
        {{"client", "Whose it is; not for verify.", "name"},
         {"stature", "Of a client that is added.", "cm"},
         {"movement", "Which movement the clip shows.", "id", "squat"},
         {"variation", "Which variation of it.", "id"},
         {"standard", "Which school's standard.", "id"},
         {"model", "Which network: lite, full or heavy.", "size", "full"},
         {"out", "Where an export goes.", "folder"}},
        &library};
}

}  // namespace zevo::cli
