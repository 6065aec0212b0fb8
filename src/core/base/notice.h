#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace zevo {

/// What can be said about a clip or a set, apart from its words: why it cannot be measured, or what limits what was
/// measured. The sentences are made in src/present, so that window, report and command line use the same ones.
enum class NoticeKind {
    // Why a set cannot be measured.
    NobodyFound,
    TooSmall,
    SeenTooLittle,     ///< per cent of the clip
    LegsNotToldApart,  ///< from the foot end
    NoRepetition,      ///< "lying" or "standing": where a repetition begins
    OtherMovement,     ///< family chosen, family it looks like
    NobodyLies,        ///< movement chosen, family it looks like
    SomebodyLies,      ///< movement chosen
    FeetNeverPart,     ///< movement chosen, family it looks like
    NobodyWalks,       ///< movement chosen
    SameView,          ///< both clips show the same side
    NothingInCommon,   ///< the two clips share no repetition
    NoPicture,         ///< not one picture could be read
    Stopped,           ///< by the coach
    Inside,            ///< a mistake of our own was caught
    UnknownMovement,   ///< id
    // What limits what was measured.
    StatureUnknown,
    SizeContradicted,  ///< per cent by which floor and eyes make the client smaller (−) or larger than the trunk does
    LengthContradicted,  ///< per cent by which the told length makes them taller than their stature, or shorter (−)
    LostPerCent,         ///< per cent of the frames
    OffBalance,
    CameraTilted,      ///< degrees, put right
    OffSquare,         ///< degrees
    NetworksDisagree,  ///< repetitions, as a list: "2, 4"
    LegsDoubted,       ///< repetitions likewise
    HipsDoubted,       ///< repetitions likewise: from the front
    NotLookedTwice,    ///< repetitions likewise
    BackNotRead,       ///< why (backDoubtName), repetitions likewise
    MarkLost,          ///< which (markName), repetitions likewise
    MarkNotSeen,       ///< which: a place that looks like its surroundings cannot be followed
    SwingLadder,       ///< swings between rests of the bell, as a list: "1, 2, 5"
    SeenObliquely,
    SeenFromFront,
    SeenFromBack,
    SeenFromFootEnd,
    HipLineUnread,
    SecondShowsFewer,  ///< repetitions it shows, of how many
    SecondLeftOut,     ///< the second clip does not fit; what follows is why
    ClocksDiffer,      ///< seconds by which the cameras' clock and the movement differ; the movement holds
    MorePeople,
    ClipDamaged,
    NoViewingCopy,
    NoOutlines,
    StandardMissing,  ///< id of the school that is gone or broken, title of the one used instead
    OlderEngine,      ///< values stored by an older version are shown
    FreeText          ///< a sentence kept by an older version
};

using Argument = std::variant<double, std::string>;

struct Notice {
    NoticeKind kind = NoticeKind::Inside;
    std::vector<Argument> arguments;
    bool second = false;  ///< about the second clip of the set

    bool operator==(const Notice&) const = default;

    /// The n-th argument as a number or a word; 0 or empty when there is none of that kind.
    double number(std::size_t n) const;
    std::string word(std::size_t n) const;
};

/// "nobody-found" …: as kept in the record.
std::string noticeName(NoticeKind kind);
std::optional<NoticeKind> noticeFromName(std::string_view name);

}  // namespace zevo
