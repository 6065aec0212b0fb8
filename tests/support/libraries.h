#pragma once

// Small libraries for the tests of store and record: a client, made sets, and what lies in the folder.
#include <QDir>
#include <QDirIterator>
#include <QFile>

#include "record/set_keeper.h"
#include "tests/support/made_sets.h"

namespace made {

inline store::Library library(const QString& folder) {
    auto opened = store::Library::open(folder);
    if (!opened) qFatal("%s (%s)", words(opened.error()), opened.error().detail.c_str());
    return std::move(*opened);
}

inline store::Seen seen(const QByteArray& hash, const QString& path, const sim::ClipSpec& spec) {
    Observation o = *observation(spec);
    const int frames = static_cast<int>(o.poses.size());
    o.clip = {frames, frames / 30.0, spec.scene.camera.width, spec.scene.camera.height, 0};
    return {{{}, hash, path, 1234}, std::make_shared<const Observation>(std::move(o)), store::ObservationId::fresh()};
}

inline sim::ClipSpec frontSpec(int reps) {
    auto front = spec(reps);
    front.scene.camera.azimuthDeg = 0;
    front.startS = 0.4;
    return front;
}

/// A set as an import makes it.
inline store::NewSet newSet(store::ClientId client, const QByteArray& hash, int reps = 3) {
    store::NewSet s;
    s.client = client;
    s.heldOn = QDate(2026, 5, 4);
    s.seen = {seen(hash, "/videos/" + hash + ".mp4", spec(reps))};
    s.edits = {FactsSet{factsOf(spec(reps))}, StandardChosen{"whole-foot"}};
    const auto state = recompute(record::observationsOf(s.seen), s.edits, *catalogue());
    if (!state) qFatal("%s", words(state.error()));
    s.outcome = record::outcomeOf(*state, kEngine, catalogue());
    return s;
}

/// Everything that lies in a folder and below it, as bytes; names of files too.
inline QByteArray allBytes(const QString& folder) {
    QByteArray out;
    QDirIterator files(folder, QDir::Files, QDirIterator::Subdirectories);
    while (files.hasNext()) {
        const QString path = files.next();
        out += path.toUtf8() + '\n';
        if (QFile file(path); file.open(QIODevice::ReadOnly)) out += file.readAll();
    }
    return out;
}

inline void fill(const QString& path, const QByteArray& bytes = "pictures") {
    QDir().mkpath(QFileInfo(path).path());
    QFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size()) qFatal("no file");
}

}  // namespace made
