// What is said of a clip or a set apart from its values: why it cannot be measured, and what limits what was.
#include <QCoreApplication>

#include "present/words.h"

namespace zevo::present {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("words", text);
}
QString text(const std::string& s) {
    return QString::fromStdString(s);
}

QString familyWord(const std::string& family) {
    if (family == "squat") return tr("squat");
    if (family == "lunge") return tr("lunge");
    if (family == "hinge") return tr("hinge");
    if (family == "bridge") return tr("bridge");
    return text(family);
}

/// Why the line of the back is not judged, and what would let it be.
QString backWords(const Notice& n) {
    const std::string why = n.word(0);
    const QString reps = text(n.word(1));
    if (why == "ask")
        return tr("The back is not judged: is the shirt tucked in or tight? Say it with the set (“shirt?”).");
    if (why == "loose") return tr("The back is not judged: a loose shirt hides it. Tuck it in for the next set.");
    if (why == "covered") return tr("The back is not judged: a bar or its plates lie over it.");
    if (why == "off-square")
        return tr(
            "The back is not judged: the camera stands too far off square. Film straight from the "
            "side.");
    if (why == "small") return tr("The back is not judged: the client is too small in the picture.");
    if (why == "arm")
        return tr("The back is hidden by an arm in rep %1. To have it judged: arms forward, or hands off the hips.")
            .arg(reps);
    if (why == "cluttered")
        return tr("The outline of rep %1 is no back's: things of the clothes' colours stand behind it. Film before a "
                  "plain wall.")
            .arg(reps);
    if (why == "faint")
        return tr("The back is no clear edge in rep %1: film with more light, or before a wall of another colour.")
            .arg(reps);
    if (why == "few")
        return tr(
            "The back is not judged: too few pictures on the way. Film the whole set, and slower "
            "repetitions.");
    if (why == "unread") return tr("The back is not judged: its outline has not been read yet.");
    return tr("The outline of the back was not found in rep %1.").arg(reps);
}

QString plain(const Notice& n) {
    const QString word = text(n.word(0));
    const QString number = figures(n.number(0), 0);
    switch (n.kind) {
        case NoticeKind::NobodyFound:
            return tr(
                "Nobody was found in this clip. The whole body should be in the picture, in good light, not too "
                "far away.");
        case NoticeKind::TooSmall:
            return tr(
                "The client is too small in the picture to be measured. Move the camera closer, so that the body "
                "fills at least half of the height.");
        case NoticeKind::SeenTooLittle:
            return tr("The client was seen in only %1 % of the clip. Keep the whole body in the picture for the whole "
                      "set.")
                .arg(number);
        case NoticeKind::LegsNotToldApart:
            return tr(
                "From the foot end the legs could not be told apart surely enough. Film the bridge from the side; "
                "whether knees and hips stay level has to be seen by eye.");
        case NoticeKind::NoRepetition:
            return n.word(0) == "lying"
                       ? tr("Not one whole repetition was found. Film from lying to lying, with the whole body in the "
                            "picture.")
                       : tr("Not one whole repetition was found. Film from standing to standing, with the whole body "
                            "in "
                            "the picture.");
        case NoticeKind::OtherMovement:
            return tr("Not one whole %1 was found: this looks like a %2. Choose that movement.")
                .arg(familyWord(n.word(0)), familyWord(n.word(1)));
        case NoticeKind::NobodyLies:
            return tr("Nobody lies on the floor or a bench here, so this is no %1. It looks like a %2.")
                .arg(word.toLower(), familyWord(n.word(1)));
        case NoticeKind::SomebodyLies:
            return tr("The client lies down here, so this is no %1. It looks like a %2.")
                .arg(word.toLower(), familyWord(n.word(1)));
        case NoticeKind::FeetNeverPart:
            return tr("The feet never part and both knees bend alike, so this is no %1. It looks like a %2.")
                .arg(word.toLower(), familyWord(n.word(1)));
        case NoticeKind::NobodyWalks:
            return tr("The client stays on one spot, so this is no %1. It looks like a lunge on the spot: a split "
                      "squat "
                      "or a reverse lunge.")
                .arg(word.toLower());
        case NoticeKind::SameView:
            return tr("Both clips show the client from the same side. One should show the side, the other the front.");
        case NoticeKind::NothingInCommon:
            return tr("The two clips have no repetition in common. If they were filmed one after the other, say so.");
        case NoticeKind::NoPicture:
            return tr("Not one picture could be read from this clip. It may be damaged or cut short.");
        case NoticeKind::Stopped: return tr("Stopped. Nothing was kept.");
        case NoticeKind::Inside:
            return tr(
                "Something went wrong inside Zevo. Your files and the record are as they were; the details can be "
                "copied from the help menu.");
        case NoticeKind::UnknownMovement: return tr("Zevo does not know the movement “%1”.").arg(word);
        case NoticeKind::StatureUnknown:
            return tr("The client's stature is not known: lengths in centimetres were left out.");
        case NoticeKind::SizeContradicted:
            return (n.number(0) < 0
                        ? tr("Something may hide the feet: from floor to eyes the client is %1 % smaller than "
                             "by their trunk, which lengths go by. ")
                        : tr("Something may hide a hip or a shoulder: from floor to eyes, which lengths go by, "
                             "the client is %1 % larger than by their trunk. "))
                       .arg(std::abs(n.number(0))) +
                   tr("Lengths are less sure; draw a true length for better.");
        case NoticeKind::LengthContradicted:
            return (n.number(0) > 0
                        ? tr("By the length that was drawn the client is %1 % taller than their stature. ")
                        : tr("By the length that was drawn the client is %1 % shorter than their stature. "))
                       .arg(std::abs(n.number(0))) +
                   tr("Check its ends, how long it is, and that it is as far from the camera as the client.");
        case NoticeKind::LostPerCent:
            return tr("The client was lost in %1 % of the frames; values there are less sure.").arg(number);
        case NoticeKind::OffBalance:
            return tr(
                "The client seems to stand off balance: the camera may not be level, or a foot may be hidden. "
                "Leans of trunk, shin and thigh are less sure.");
        case NoticeKind::CameraTilted:
            return tr("The camera was tilted by about %1°. Upright edges in the room show it, and every angle allows "
                      "for it.")
                .arg(number);
        case NoticeKind::OffSquare:
            return tr("The camera stands about %1° off a square side view; angles are less sure.").arg(number);
        case NoticeKind::NetworksDisagree:
            return tr("Two networks disagree at the turning point of rep %1: something may hide the near leg or hip. "
                      "Values there are unsure; film with it free.")
                .arg(word);
        case NoticeKind::HipsDoubted:
            return tr("Two networks have the hips at different heights at the turning point of rep %1: what is read "
                      "there is unsure. Film from the side for depth.")
                .arg(word);
        case NoticeKind::BackNotRead: return backWords(n);
        case NoticeKind::MarkLost:
            return tr("What was marked was lost in rep %1: %2. Click it again where it is lost, and it is followed "
                      "from both sides.")
                .arg(n.word(1).c_str(), markWords(markFromName(n.word(0)).value_or(MarkKind::Bell)));
        case NoticeKind::MarkNotSeen:
            return tr(
                "What was clicked looks like what is around it, so that it cannot be followed. An edge, a piece "
                "of tape of another colour or the end of a bar can.");
        case NoticeKind::SwingLadder: return tr("Swings between rests of the bell: %1.").arg(word);
        case NoticeKind::NotLookedTwice:
            return tr("The other networks could not look at rep %1: what hides a leg there may go unnoticed.")
                .arg(word);
        case NoticeKind::LegsDoubted: return tr("Which leg is which could not be told surely in rep %1.").arg(word);
        case NoticeKind::SeenObliquely:
            return tr(
                "Seen at an angle, between side and front: only repetitions and times are judged. Film from the "
                "side for depth, trunk and heels, from the front for knees, stance and hips.");
        case NoticeKind::SeenFromFront:
            return tr("Seen from the front: trunk, heels and a close call on depth need a side view.");
        case NoticeKind::SeenFromBack: return tr("Seen from the back: depth, trunk and heels need a side view.");
        case NoticeKind::SeenFromFootEnd:
            return tr("Seen from the foot end: the height of the hips and the times need a side view.");
        case NoticeKind::HipLineUnread:
            return tr(
                "Whether one hip or shoulder drops cannot be read surely from a picture (±14° and ±8.5°): look "
                "yourself, or tape both hip bones.");
        case NoticeKind::SecondShowsFewer:
            return tr("The second clip shows %1 of the %2 repetitions.").arg(number, figures(n.number(1), 0));
        case NoticeKind::ClocksDiffer:
            return tr("By their clock the two cameras lie %1 s otherwise than the movement says; the movement holds.")
                .arg(figures(n.number(0), 1));
        case NoticeKind::SecondLeftOut: return tr("The second clip is left out.");
        case NoticeKind::MorePeople:
            return tr(
                "More than one person was seen. Zevo measured the one nearest to the camera; check with “all "
                "tracked points” that it is the client.");
        case NoticeKind::ClipDamaged:
            return tr("Parts of this clip are damaged or missing; what could be read was used.");
        case NoticeKind::NoViewingCopy:
            return tr("Jumping about in this clip will be slow: no quick copy of it could be made.");
        case NoticeKind::NoOutlines: return tr("The outlines could not be drawn; everything else was measured.");
        case NoticeKind::StandardMissing:
            return tr("The standard “%1” this set was judged by is not there any more or cannot be used. It is judged "
                      "by "
                      "“%2” meanwhile; the choice is kept.")
                .arg(word, text(n.word(1)));
        case NoticeKind::OlderEngine:
            return tr("These values were measured by an older Zevo and are shown as they were.");
        case NoticeKind::FreeText: return word;
    }
    return {};
}

}  // namespace

QString sentence(const Notice& notice) {
    return notice.second ? tr("The second clip: %1").arg(plain(notice)) : plain(notice);
}

QString sentence(const Error& error) {
    return error.notice ? sentence(*error.notice) : text(error.message);
}

}  // namespace zevo::present
