#pragma once

#include <QByteArray>
#include <QDate>
#include <QDateTime>
#include <QString>
#include <optional>
#include <vector>

#include "core/body/landmarks.h"
#include "core/body/outline.h"
#include "core/results/set_result.h"
#include "store/ids.h"

namespace zevo::store {

struct Client {
    ClientId id{};
    QString name;
    double statureCm = 0;  ///< 0 = not known
    QString note;
    std::optional<QDate> consent;  ///< the day the client agreed to be filmed; empty = not recorded
};

/// A video file of the coach's. Zevo knows it by its content and never writes to it.
struct Clip {
    ClipId id{};
    QByteArray sha256;  ///< of the whole file
    QString path;       ///< where it was last seen
    qint64 bytes = 0;
    ClipFacts facts;
};

/// Something the coach said against what Zevo saw.
struct Correction {
    CorrectionId id{};
    QString kind;  ///< "leave_out": this repetition does not count
    int rep = 0;   ///< number of the repetition, 1 = first
};

/// The other view of a set.
struct SecondClip {
    Clip clip;
    PoseFrames poses;
    bool together = true;  ///< filmed at the same time
    double nudgeS = 0;     ///< added to the lag found from the movement
    std::vector<std::string> readingNotes;
};

/// A new set as it comes out of an analysis; written whole or not at all.
struct NewSet {
    ClientId client{};
    QDate heldOn;
    Clip clip;
    SetContext context;
    QString standard;
    PoseFrames poses;
    std::vector<std::string> readingNotes;  ///< warnings of the reading itself (damaged parts)
    std::vector<Outline> outlines;
    QByteArray resultJson;  ///< the open result format
    int reps = 0;
    QString headline;  ///< the first finding in the coach's words, for lists
};

/// A line in a client's list of sets.
struct SetSummary {
    SetId id{};
    QDate heldOn;
    QDateTime madeAt;
    QString movement, standard, headline;
    int reps = 0;
    std::vector<Outline> outlines;  ///< of the repetitions' bottoms
};

/// Everything needed to show a set again without its video.
struct StoredSet {
    SetId id{};
    Client client;
    QDate heldOn;
    Clip clip;
    SetContext context;  ///< of the movement only its id: its data is not part of the record
    QString standard;
    PoseFrames poses;
    std::vector<std::string> readingNotes;
    std::vector<Outline> outlines;
    std::vector<Correction> corrections;
    std::optional<SecondClip> second;
};

}  // namespace zevo::store
