#pragma once

#include <string>
#include <vector>

#include "core/base/result.h"

namespace zevo {

enum class Family { Squat, Lunge, Hinge, Bridge };
/// "squat", "lunge", "hinge", "bridge".
std::string familyName(Family family);

/// The quantity that goes up and down once a repetition, and what counts as rest.
enum class Drive {
    Sinking,  ///< squats and lunges: hips and shoulders go down from standing
    Folding,  ///< hinges: the trunk folds over the thighs; rest is standing
    HipRise   ///< bridges: the hips go up; rest is lying
};

/// Where a weight is held; it moves the mass centre (core/balance).
enum class LoadPlace { None, Chest, Front, Back, Sides, Overhead };

/// What the hands are busy with; a cue must not ask for them then.
enum class Hands { Free, Front, Sides, Back, Overhead, Stick, Post };
/// "free", "front", "sides", "back", "overhead", "stick", "post".
std::string handsName(Hands hands);

/// What the arms do where nothing is held: they change the lean a client needs (core/balance).
enum class Arms { Reach, HeldIn, BehindHead, PushedAway };

/// How the shirt lies, as far as it is known: cloth that hangs hides the line of the back.
enum class Shirt { NotSaid, Loose, Tight };

/// A way of doing a movement.
struct Variation {
    std::string id, title;
    LoadPlace load = LoadPlace::None;
    Hands hands = Hands::Free;
    bool room = false;               ///< needs room all round: a bar, a swing
    bool fromFloor = false;          ///< begins with the load on the floor: its plates stand before the shins
    bool swings = false;             ///< the load swings between the legs
    std::vector<std::string> setUp;  ///< what to check besides the movement's own before filming, sentences
};

/// A movement as data (data/movements/*.json): what drives it, what is read from it in which view, how it is set up.
struct Movement {
    std::string id = "squat", title = "Squat";
    Family family = Family::Squat;
    Drive drive = Drive::Sinking;
    bool oneLeg = false;    ///< one leg works in each repetition, and which one is part of the result
    bool steps = false;     ///< a foot is moved in each repetition, so that the legs may take turns
    bool sideways = false;  ///< the working leg steps to the side, not ahead
    bool travels = false;   ///< the client gets ahead from repetition to repetition
    /// What the four parts of a repetition are called: at rest, there, at the turning point, back.
    std::vector<std::string> phases{"top", "down", "below", "up"};
    /// Ids of what is read, in the order it is shown; empty: everything Zevo knows.
    std::vector<std::string> measures;
    std::vector<Variation> variations;   ///< the plain one is not listed
    std::vector<std::string> standards;  ///< the default one first
    std::vector<std::string> camera;     ///< where to put it, sentences
    std::vector<std::string> setUp;      ///< what to look at before the first repetition, sentences

    const Variation* variation(const std::string& variationId) const;
    /// Where the weight is in this variation.
    LoadPlace loadPlace(const std::string& variationId) const;
    Hands hands(const std::string& variationId) const;
    bool needsRoom(const std::string& variationId) const;
    bool isFromFloor(const std::string& variationId) const;
    bool swings(const std::string& variationId) const;
    /// What to check before the first repetition, as this variation is done.
    std::vector<std::string> setUpOf(const std::string& variationId) const;
};

/// Whether a list of movements' ids and families names this one.
bool names(const std::vector<std::string>& idsOrFamilies, const Movement& movement);

/// Reads a movement. `name` stands for the file in messages; an error names file, path and value.
Result<Movement> parseMovement(const std::string& text, const std::string& name);

}  // namespace zevo
