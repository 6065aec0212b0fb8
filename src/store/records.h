#pragma once

#include <QByteArray>
#include <QDate>
#include <QDateTime>
#include <QString>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "core/judge/stop_rules.h"
#include "core/session/seen_from.h"
#include "store/ids.h"

namespace zevo::store {

/// A red flag (core/judge/stop_rules.h) that a client carries until a coach records that a clinician cleared it.
struct ClientFlag {
    QString flag;  ///< id of redFlags()
    QDate since;
    std::optional<QDate> clearedOn{};
    QString clearedBy{};                  ///< as the coach wrote it
    QString limits{};                     ///< what for, as the coach wrote it: "bodyweight, to a box"; empty: not said
    std::optional<QDate> clearedUntil{};  ///< the last day the clearance holds; nothing: until it is over
    std::optional<QDate> overOn{};        ///< the day a clinician said that no limits are needed any more
    QString overBy{};

    /// On a day before it was cleared, and again when the clearance has run out, it stands.
    bool stands(const QDate& day) const {
        if (overOn && day >= *overOn) return false;
        return !clearedOn || (clearedUntil && day > *clearedUntil);
    }
    /// Within the limits of its clearance.
    bool cleared(const QDate& day) const { return !stands(day) && !(overOn && day >= *overOn); }
    bool operator==(const ClientFlag&) const = default;
};

/// What hurt when the client was asked last.
struct Complaint {
    std::optional<int> score{};  ///< 0–10
    PainSpots spots{};
    bool sharp = false;
    std::optional<QDate> askedOn{};
    bool operator==(const Complaint&) const = default;
};

/// What is right for this client, taken from one of their sets: "this depth is theirs".
struct Target {
    QString movement, measure;
    double value = 0;  ///< in the measure's unit
    QDate on{};        ///< the day of the set it was taken from
    bool operator==(const Target&) const = default;
};

struct Client {
    ClientId id{};
    QString name;
    double statureCm = 0;  ///< 0 = not known
    QString note;
    std::optional<QDate> consent;  ///< the day the client agreed to be filmed; empty = not recorded
    Complaint complaint{};
    std::vector<ClientFlag> flags{};
    Choices choices{};     ///< where this client has it otherwise than the schools
    QString consentFor{};  ///< what for, as it was agreed
    double massKg = 0;     ///< 0 = not known
    QString goals{}, emphasis{}, equipment{};
    std::map<QString, double> build{};  ///< tape lengths, cm, by part: "thigh", "shank", "trunk", "foot"
    std::vector<Target> targets{};
    bool archived = false;  ///< out of the list, with everything kept

    bool operator==(const Client&) const = default;
};

/// What a set of this client, filmed on a day, starts from: flags that stand, those cleared, and the answer to the
/// question before the set where it was given on that day.
PainCheck painOf(const Client& client, const QDate& day);

/// A video file. The coach's own Zevo knows by their content and never writes to; those it filmed itself lie in the
/// library folder and go with the last set that needs them.
struct Clip {
    ClipId id{};
    QByteArray sha256;  ///< of the whole file
    QString path;       ///< where it was last seen; a recording, where it lies in the library
    qint64 bytes = 0;
    bool filmed = false;  ///< by Zevo
};

/// What was seen in a clip of a set, and which clip that is. Its place in a set's list never changes and is never given
/// to another one: edits speak of places.
struct Seen {
    Clip clip;
    std::shared_ptr<const Observation> observation;
    ObservationId id{};
};

/// An entry in what a coach did to a set: an edit, or that an earlier entry is taken back. Entries are added and never
/// changed. An entry is in force unless a later one that is in force takes it back.
struct EditEntry {
    EntryId id{};
    QString author;    ///< the coach's name as set on the computer it was made on; empty: none was set
    QDateTime madeAt;  ///< UTC
    EntryId takesBack{};
    std::optional<Edit> edit{};  ///< empty where an entry is taken back, and where a newer Zevo's edit cannot be read
    bool isTakingBack() const { return !takesBack.isNull(); }
    bool isUnreadable() const { return takesBack.isNull() && !edit; }
};
using EditEntries = std::vector<EditEntry>;
/// Which entries are in force, one a place.
std::vector<bool> inForce(const EditEntries& entries);
/// The edits in force, in the order they were made.
Edits editsInForce(const EditEntries& entries);

/// What a set comes to; kept beside the edits for lists, progress, and to be shown as it was by a later engine.
struct Outcome {
    QString movement, variation, standard;
    int reps = 0;      ///< that count
    QString headline;  ///< the first finding in the coach's words, for lists
    int engine = 0;    ///< whose values these are
    std::vector<MeasuredRep> measured, second;
    std::vector<SeenFrom> seenFrom{};
};

/// What is added to a set in one go.
struct SetWrite {
    EditEntries entries;                    ///< behind all others
    std::vector<std::pair<int, Seen>> add;  ///< at places nobody had
    std::optional<Seen> refine;             ///< what the first place was read as, more carefully
    std::optional<Outcome> outcome;         ///< of the set as it is with all this
};

/// A new set as it comes out of an analysis; written whole or not at all.
struct NewSet {
    ClientId client{};
    QDate heldOn;
    std::vector<Seen> seen;  ///< the first view, then further ones
    Edits edits;
    Outcome outcome;
    QString author{};
};

/// A line in a client's list of sets.
struct SetSummary {
    SetId id{};
    QDate heldOn;
    QDateTime madeAt;
    QString movement, standard, headline;
    int reps = 0;
};

/// A line in the list of clients.
struct ClientSummary {
    Client client;
    std::optional<QDate> lastOn;  ///< of their newest set
    QString headline;             ///< of that one
    int sets = 0;
};

/// Where a set stands in the record.
struct SetPlace {
    ClientId client{};
    QDate heldOn;
    double position = 0;  ///< larger is later on its day
    bool operator==(const SetPlace&) const = default;
};

/// A set with its values and edits, and what it was filmed and read with; without poses. For ledgers and courses.
struct LoggedSet {
    SetId id{};
    QDate heldOn;
    QString movement, headline;
    bool measured = false;  ///< it has repetitions
    Edits edits;
    int unreadable = 0;              ///< edits of a newer Zevo that were passed over
    std::vector<MeasuredRep> reps;   ///< only after Library::readRepetitions()
    std::vector<SeenFrom> seenFrom;  ///< empty where it was not kept yet
};

/// What there is of a client; for the list of what a deletion takes.
struct Holdings {
    int sessions = 0, sets = 0, values = 0, complaints = 0;
    QStringList filmed;     ///< videos Zevo made, that go as well
    QStringList elsewhere;  ///< the coach's own files, that stay
    QStringList exports;    ///< folders everything was exported to, that stay
};

/// A file Zevo made, and what has become of it.
struct ShelfFile {
    enum class Kind { Recording, Viewing, Export };
    /// Growing: being written, and no set knows it yet. Kept: something in the record needs it, or the coach was given
    /// it. Retired: nothing needs it any more; it goes at the end of the sitting.
    enum class State { Growing, Kept, Retired };
    QString path;  ///< absolute
    Kind kind = Kind::Recording;
    State state = State::Growing;
    ClientId client{};    ///< whose it is, where that is known
    QByteArray sha256{};  ///< of the clip it is, or is a viewing copy of; empty while it grows
    Edits plan{};         ///< of a recording: what it was begun as
    QDateTime since{};
};

/// Everything needed to show a set again without its video.
struct StoredSet {
    SetId id{};
    Client client;
    QDate heldOn;
    std::vector<Seen> seen;
    EditEntries entries;
    Edits edits;         ///< those in force
    int revision = 0;    ///< raised by every change; who changes a set says which one they saw
    int unreadable = 0;  ///< edits of a newer Zevo that are passed over; they stay as they are
    KeptValues kept;     ///< values as they were measured last, and by which engine
};

/// One value of one repetition, for progress over weeks.
struct HistoryValue {
    SetId set{};
    QDate heldOn;
    double repS = 0;  ///< the repetition's turning point in its clip
    double value = 0, pm90 = 0, confidence = 0;
    bool second = false;
    int engine = 0;
};

}  // namespace zevo::store
