#pragma once

#include <array>
#include <initializer_list>
#include <string>
#include <string_view>

namespace zevo {

/// What a calibrated number is.
enum class Basis {
    HalfWidth,  ///< of an interval meant to hold nine of ten errors, as they were measured when it was set
    Edge,       ///< put where what was measured on its two sides parts
    Tried,      ///< the best of a few that were tried on what it was found on
    Practice    ///< common practice, no source
};

/// On which figures it was found (docs/measurements.md has the tables). None of them lives.
enum class Figures {
    Nothing,        ///< chosen, and tried on everything else
    Grid,           ///< bench_accuracy, the grid: drawn and anatomical, looks by chance
    Trial,          ///< bench_accuracy, the fault trial: the same figures, against their true landmarks
    Back,           ///< bench_back, numbers 200–213
    Marks,          ///< bench_marks, numbers 300–311
    Behind,         ///< tools/behind-things
    Placements,     ///< a drawn figure, 60 placements of the camera
    Others,         ///< figures of another making than ours
    People,         ///< bench_accuracy --people: a parametric human, dressed
    GridAndPeople,  ///< the grid and people of half a, either counting as much as the other
    Fronts,         ///< bench_accuracy --fronts: figures and people of half a; shins and doubted hips also half b
    Older           ///< the first figures; records of then still need it
};

/// A number Zevo has from looking and not from deriving: one row, so that nobody has to find them in twenty files.
struct Calibrated {
    std::string_view id;
    double value;
    std::string_view unit, what;
    Basis basis;
    Figures figures;
    int n;                   ///< readings or sets of it in the tables as they stand; 0: none
    std::string_view since;  ///< when it got this value
};

// clang-format off
inline constexpr std::array kCalibration{
    Calibrated{"squat.knee.still", 5.6, "°", "squat: knee angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 134, "2026-11-30"},
    Calibrated{"squat.knee.deep", 6, "°", "squat: knee angle at 120° of knee bend", Basis::HalfWidth, Figures::GridAndPeople, 134, "2026-11-30"},
    Calibrated{"squat.hip.still", 7, "°", "squat: hip angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 158, "2026-11-30"},
    Calibrated{"squat.hip.deep", 7, "°", "squat: hip angle at 120° of knee bend", Basis::HalfWidth, Figures::GridAndPeople, 158, "2026-11-30"},
    Calibrated{"squat.trunk.still", 4.2, "°", "squat: trunk angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 135, "2026-11-30"},
    Calibrated{"squat.trunk.deep", 4.8, "°", "squat: trunk angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 60, "2026-11-28"},
    Calibrated{"squat.shin.still", 2, "°", "squat: shin angle, upright", Basis::HalfWidth, Figures::Grid, 60, "2026-11-28"},
    Calibrated{"squat.shin.deep", 5.2, "°", "squat: shin angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 60, "2026-11-28"},
    Calibrated{"squat.thigh.still", 4.8, "°", "squat: thigh angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 158, "2026-11-30"},
    Calibrated{"squat.thigh.deep", 4.8, "°", "squat: thigh angle at 120° of knee bend", Basis::HalfWidth, Figures::GridAndPeople, 172, "2026-11-30"},
    Calibrated{"lunge.knee.still", 5.8, "°", "lunge: knee angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 71, "2026-11-30"},
    Calibrated{"lunge.knee.deep", 5.8, "°", "lunge: knee angle at 120° of knee bend", Basis::HalfWidth, Figures::GridAndPeople, 71, "2026-11-30"},
    Calibrated{"lunge.hip.still", 10.8, "°", "lunge: hip angle, upright", Basis::HalfWidth, Figures::Grid, 42, "2026-11-25"},
    Calibrated{"lunge.hip.deep", 10.8, "°", "lunge: hip angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 42, "2026-11-25"},
    Calibrated{"lunge.trunk.still", 5.4, "°", "lunge: trunk angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 81, "2026-11-30"},
    Calibrated{"lunge.trunk.deep", 5.4, "°", "lunge: trunk angle at 120° of knee bend", Basis::HalfWidth, Figures::GridAndPeople, 81, "2026-11-30"},
    Calibrated{"lunge.shin.still", 6, "°", "lunge: shin angle, upright", Basis::HalfWidth, Figures::Grid, 42, "2026-11-25"},
    Calibrated{"lunge.shin.deep", 6, "°", "lunge: shin angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 42, "2026-11-25"},
    Calibrated{"lunge.thigh.still", 5.4, "°", "lunge: thigh angle, upright", Basis::HalfWidth, Figures::Grid, 42, "2026-11-25"},
    Calibrated{"lunge.thigh.deep", 5.4, "°", "lunge: thigh angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 42, "2026-11-25"},
    Calibrated{"hinge.knee.still", 8, "°", "hinge: knee angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 61, "2026-11-30"},
    Calibrated{"hinge.knee.deep", 8.6, "°", "hinge: knee angle at 120° of knee bend", Basis::HalfWidth, Figures::GridAndPeople, 61, "2026-11-30"},
    Calibrated{"hinge.knee.top", 6, "°", "hinge: knee angle at the top", Basis::HalfWidth, Figures::GridAndPeople, 50, "2026-12-01"},
    Calibrated{"hinge.hip.still", 7.4, "°", "hinge: hip angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 61, "2026-11-30"},
    Calibrated{"hinge.hip.deep", 7.4, "°", "hinge: hip angle at 120° of knee bend", Basis::HalfWidth, Figures::GridAndPeople, 61, "2026-11-30"},
    Calibrated{"hinge.trunk.still", 5.2, "°", "hinge: trunk angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 62, "2026-11-30"},
    Calibrated{"hinge.trunk.deep", 5.2, "°", "hinge: trunk angle at 120° of knee bend", Basis::HalfWidth, Figures::GridAndPeople, 62, "2026-11-30"},
    Calibrated{"hinge.shin.still", 6.2, "°", "hinge: shin angle, upright", Basis::HalfWidth, Figures::Grid, 30, "2026-11-28"},
    Calibrated{"hinge.shin.deep", 6.2, "°", "hinge: shin angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 30, "2026-11-28"},
    Calibrated{"hinge.thigh.still", 4.8, "°", "hinge: thigh angle, upright", Basis::HalfWidth, Figures::Grid, 30, "2026-11-28"},
    Calibrated{"hinge.thigh.deep", 4.8, "°", "hinge: thigh angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 30, "2026-11-28"},
    Calibrated{"bridge.knee.still", 7.4, "°", "bridge: knee angle, upright", Basis::HalfWidth, Figures::Grid, 12, "2026-11-28"},
    Calibrated{"bridge.knee.deep", 7.4, "°", "bridge: knee angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 12, "2026-11-28"},
    Calibrated{"bridge.hip.still", 8.8, "°", "bridge: hip angle, upright", Basis::HalfWidth, Figures::Grid, 12, "2026-11-28"},
    Calibrated{"bridge.hip.deep", 8.8, "°", "bridge: hip angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 12, "2026-11-28"},
    Calibrated{"bridge.trunk.still", 4.6, "°", "bridge: trunk angle, upright", Basis::HalfWidth, Figures::Grid, 12, "2026-11-28"},
    Calibrated{"bridge.trunk.deep", 4.6, "°", "bridge: trunk angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 12, "2026-11-28"},
    Calibrated{"bridge.shin.still", 5.8, "°", "bridge: shin angle, upright", Basis::HalfWidth, Figures::Grid, 12, "2026-11-28"},
    Calibrated{"bridge.shin.deep", 5.8, "°", "bridge: shin angle at 120° of knee bend", Basis::HalfWidth, Figures::Grid, 12, "2026-11-28"},
    Calibrated{"bridge.thigh.still", 5, "°", "bridge: thigh angle, upright", Basis::HalfWidth, Figures::GridAndPeople, 24, "2026-11-30"},
    Calibrated{"bridge.thigh.deep", 5, "°", "bridge: thigh angle at 120° of knee bend", Basis::HalfWidth, Figures::GridAndPeople, 24, "2026-11-30"},
    Calibrated{"level", 1, "°", "how level a phone stands that leans against a bag", Basis::Practice, Figures::Nothing, 0, "2026-11-25"},
    Calibrated{"top.twice", 2, "°", "what standing twice differs by", Basis::HalfWidth, Figures::Trial, 0, "2026-11-28"},
    Calibrated{"neck", 11, "°", "head against trunk", Basis::HalfWidth, Figures::Trial, 384, "2026-11-28"},
    Calibrated{"neck.fold", 0.2, "share", "of the trunk's fold, besides", Basis::Edge, Figures::Others, 0, "2026-11-28"},
    Calibrated{"neck.picture", 7, "°", "head against trunk, by the head's own picture", Basis::HalfWidth, Figures::People, 75, "2026-11-30"},
    Calibrated{"neck.picture.squat", 9, "°", "the same in a squat", Basis::HalfWidth, Figures::People, 43, "2026-11-30"},
    Calibrated{"neck.picture.turn", 0.1, "share", "of the head's turn, besides", Basis::HalfWidth, Figures::People, 118, "2026-11-30"},
    Calibrated{"head.likeness", 0.6, "", "correlation of two pictures of a head, at least", Basis::Edge, Figures::People, 375, "2026-11-30"},
    Calibrated{"head.apart", 6, "°", "ways of laying a head over, at most", Basis::Edge, Figures::People, 375, "2026-11-30"},
    Calibrated{"knee_past_toe.planted", 4, "cm", "knee past the toes, foot planted", Basis::HalfWidth, Figures::Trial, 144, "2026-11-25"},
    Calibrated{"knee_past_toe.stepped", 6.5, "cm", "knee past the toes, after a step", Basis::HalfWidth, Figures::Trial, 132, "2026-11-28"},
    Calibrated{"mass_over_foot", 0.19, "share", "mass centre over the foot", Basis::HalfWidth, Figures::Trial, 252, "2026-11-25"},
    Calibrated{"knee_lead", 30, "ms", "knee before hip, at least", Basis::HalfWidth, Figures::Trial, 144, "2026-11-28"},
    Calibrated{"knee_lead.slow", 12, "ms/s", "knee before hip, a second of descent", Basis::HalfWidth, Figures::Trial, 144, "2026-11-28"},
    Calibrated{"lean.model", 6, "°", "lean the balance asks for: model and table of people", Basis::HalfWidth, Figures::Trial, 144, "2026-11-28"},
    Calibrated{"depth_past_control", 5, "°", "depth past where a foot leaves the floor", Basis::HalfWidth, Figures::Trial, 124, "2026-11-29"},
    Calibrated{"foot.followed.still", 0.8, "cm", "rise of heel or toes, followed on the shoe", Basis::HalfWidth, Figures::Older, 0, "2026-11-25"},
    Calibrated{"foot.followed.share", 0.35, "share", "of the rise, followed on the shoe", Basis::HalfWidth, Figures::Older, 0, "2026-11-25"},
    Calibrated{"foot.landmark.still", 3.5, "cm", "rise of heel or toes, by the landmark", Basis::HalfWidth, Figures::Older, 0, "2026-11-25"},
    Calibrated{"foot.landmark.share", 0.33, "share", "of the rise, by the landmark", Basis::HalfWidth, Figures::Older, 0, "2026-11-25"},
    Calibrated{"foot.heel", 0.3, "cm", "rise of the heel, shoe read in the picture", Basis::HalfWidth, Figures::Trial, 291, "2026-11-28"},
    Calibrated{"foot.toe", 1, "cm", "rise of the toes, shoe read in the picture", Basis::HalfWidth, Figures::Trial, 203, "2026-11-28"},
    Calibrated{"foot.share", 0.12, "share", "of the rise, shoe read in the picture", Basis::HalfWidth, Figures::Trial, 291, "2026-11-28"},
    Calibrated{"front.ratio", 0.2, "share", "knee separation over ankle separation", Basis::HalfWidth, Figures::Trial, 92, "2026-11-28"},
    Calibrated{"front.thigh", 5.5, "°", "squat from the front: thigh angle, besides the camera's pitch", Basis::HalfWidth, Figures::Fronts, 50, "2026-11-30"},
    Calibrated{"front.shin", 8, "°", "squat from the front: shin angle, besides the camera's pitch", Basis::HalfWidth, Figures::Fronts, 76, "2026-11-30"},
    Calibrated{"front.knee", 7.5, "°", "squat from the front: knee angle", Basis::HalfWidth, Figures::Fronts, 50, "2026-11-30"},
    Calibrated{"front.seen", 0.95, "", "visibility of both legs, at least", Basis::Edge, Figures::Fronts, 15, "2026-11-30"},
    Calibrated{"front.knee_off", 0.018, "stature", "a knee's height in the picture, standard deviation", Basis::Tried, Figures::Fronts, 50, "2026-11-30"},
    Calibrated{"front.shin_share", 0.23, "share", "of a squat's knee bend that is the shin's", Basis::Practice, Figures::Nothing, 0, "2026-11-30"},
    Calibrated{"front.shin_share_off", 9, "°", "the same at 120° of bend, standard deviation", Basis::Practice, Figures::Nothing, 0, "2026-11-30"},
    Calibrated{"front.pitch", 8, "°", "up or down, a camera whose room does not tell it", Basis::Practice, Figures::Nothing, 0, "2026-11-30"},
    Calibrated{"front.knee_in", 0.14, "share", "knee inside the toes' line, besides the toes", Basis::HalfWidth, Figures::Trial, 224, "2026-11-28"},
    Calibrated{"front.knee_inside", 0.08, "share", "knee inside the ankle", Basis::HalfWidth, Figures::GridAndPeople, 76, "2026-11-30"},
    Calibrated{"front.stance", 0.11, "share", "stance over shoulders", Basis::HalfWidth, Figures::GridAndPeople, 38, "2026-11-30"},
    Calibrated{"front.toe_out", 17.5, "°", "toes turned out", Basis::HalfWidth, Figures::Trial, 184, "2026-11-28"},
    Calibrated{"front.toe_hidden", 0.6, "share", "of a foot's turn that is not seen", Basis::Edge, Figures::Trial, 184, "2026-11-28"},
    Calibrated{"front.toe_uneven", 8.5, "°", "toes turned out, one against the other", Basis::HalfWidth, Figures::Trial, 92, "2026-11-28"},
    Calibrated{"front.hip_line", 14, "°", "hip line: what may be hidden", Basis::Edge, Figures::Trial, 132, "2026-11-28"},
    Calibrated{"front.shoulder_line", 8.5, "°", "shoulder line", Basis::HalfWidth, Figures::Trial, 120, "2026-11-28"},
    Calibrated{"front.shift", 0.06, "share", "trunk to one side", Basis::HalfWidth, Figures::Trial, 120, "2026-11-28"},
    Calibrated{"front.projection", 8.5, "°", "projected angle of the knee", Basis::HalfWidth, Figures::GridAndPeople, 38, "2026-11-30"},
    Calibrated{"front.wobble", 0.35, "cm", "shaking of a knee", Basis::HalfWidth, Figures::Trial, 224, "2026-11-28"},
    Calibrated{"front.wobble.share", 0.28, "share", "of the shaking", Basis::HalfWidth, Figures::Trial, 224, "2026-11-28"},
    Calibrated{"time.down", 0.32, "s", "time of the way down", Basis::HalfWidth, Figures::GridAndPeople, 426, "2026-11-30"},
    Calibrated{"time.up", 0.24, "s", "time of the way up", Basis::HalfWidth, Figures::GridAndPeople, 426, "2026-11-30"},
    Calibrated{"time.held", 0.24, "s", "time at the turning point", Basis::HalfWidth, Figures::GridAndPeople, 425, "2026-11-30"},
    Calibrated{"time.elsewhere", 0.22, "s", "times from the front and of a bridge, besides", Basis::HalfWidth, Figures::Trial, 64, "2026-11-30"},
    Calibrated{"bounce", 0.5, "m/s²", "rebound at the turning point", Basis::HalfWidth, Figures::People, 75, "2026-11-30"},
    Calibrated{"bounce.share", 0.15, "share", "of the rebound", Basis::HalfWidth, Figures::People, 75, "2026-11-30"},
    Calibrated{"lunge.knee_behind_hip", 0.065, "share", "rear knee behind the hip", Basis::HalfWidth, Figures::GridAndPeople, 69, "2026-11-30"},
    Calibrated{"lunge.knee_height", 3.6, "cm", "rear knee over the floor", Basis::HalfWidth, Figures::GridAndPeople, 69, "2026-11-30"},
    Calibrated{"lunge.hips_first", 0.08, "share", "hips before shoulders", Basis::HalfWidth, Figures::Trial, 104, "2026-11-25"},
    Calibrated{"hinge.knees_first", 0.41, "share", "knees before the trunk, from the floor", Basis::HalfWidth, Figures::Trial, 23, "2026-11-25"},
    Calibrated{"lunge.trailing_knee", 20, "°", "bend of the trailing leg", Basis::HalfWidth, Figures::Trial, 28, "2026-11-25"},
    Calibrated{"lunge.nose_knee_toe", 7, "cm", "nose, knee and toe apart", Basis::HalfWidth, Figures::Trial, 12, "2026-11-28"},
    Calibrated{"hip_turn", 60, "°", "turn of the pelvis from the side: what may be hidden", Basis::Edge, Figures::Trial, 212, "2026-11-25"},
    Calibrated{"lunge.rails", 0.2, "share", "feet on rails", Basis::HalfWidth, Figures::Trial, 28, "2026-11-28"},
    Calibrated{"hinge.hip_travel", 0.07, "share", "hips gone back", Basis::HalfWidth, Figures::GridAndPeople, 71, "2026-11-30"},
    Calibrated{"hinge.load_ahead", 6.5, "cm", "hands ahead of shin or foot", Basis::HalfWidth, Figures::GridAndPeople, 65, "2026-11-30"},
    Calibrated{"hinge.hands", 0.16, "share", "height of the hands along the shin", Basis::HalfWidth, Figures::Trial, 108, "2026-11-25"},
    Calibrated{"mark.px", 3, "px", "a followed point, in a picture 1280 wide", Basis::HalfWidth, Figures::Marks, 28, "2026-11-28"},
    Calibrated{"mark.scale", 0.05, "share", "of any length: the scale", Basis::HalfWidth, Figures::Marks, 28, "2026-11-28"},
    Calibrated{"mark.nearer", 25, "cm", "where a bar's end is, nearer or further", Basis::Edge, Figures::Nothing, 0, "2026-11-28"},
    Calibrated{"mark.speed", 0.06, "share", "speed of a lift", Basis::HalfWidth, Figures::Marks, 28, "2026-11-28"},
    Calibrated{"mark.loss", 0.04, "share", "loss of speed over a set", Basis::HalfWidth, Figures::Marks, 0, "2026-11-28"},
    Calibrated{"mark.foot", 4, "cm", "middle of the foot", Basis::HalfWidth, Figures::Marks, 27, "2026-11-28"},
    Calibrated{"mark.leg", 3, "cm", "front of the leg", Basis::HalfWidth, Figures::Marks, 12, "2026-11-28"},
    Calibrated{"mark.start_hips", 0.08, "share", "hips at the start of a pull", Basis::HalfWidth, Figures::Marks, 35, "2026-11-28"},
    Calibrated{"mark.bell", 0.12, "share", "bell behind the knee", Basis::HalfWidth, Figures::Marks, 6, "2026-11-28"},
    Calibrated{"mark.hand", 10, "cm", "a hand against the bell it holds", Basis::Edge, Figures::Marks, 0, "2026-11-28"},
    Calibrated{"back.tuck", 0.8, "cm", "tail tucks", Basis::HalfWidth, Figures::Back, 8, "2026-11-28"},
    Calibrated{"back.low", 0.85, "cm", "low back rounds", Basis::HalfWidth, Figures::Back, 8, "2026-11-28"},
    Calibrated{"back.high", 0.9, "cm", "upper back rounds", Basis::HalfWidth, Figures::Back, 8, "2026-11-28"},
    Calibrated{"back.drift", 1.4, "cm", "upper back, rep to rep", Basis::HalfWidth, Figures::Back, 8, "2026-11-28"},
    Calibrated{"back.stick", 2.2, "cm", "gaps of a stick", Basis::HalfWidth, Figures::Back, 0, "2026-11-28"},
    Calibrated{"back.arch", 1.4, "cm", "back arches in a bridge", Basis::HalfWidth, Figures::Back, 8, "2026-11-28"},
    Calibrated{"back.chest", 1.3, "cm", "chest drops", Basis::HalfWidth, Figures::Back, 8, "2026-11-29"},
    Calibrated{"back.top", 0.7, "cm", "back arches at the top", Basis::HalfWidth, Figures::Back, 8, "2026-11-29"},
    Calibrated{"back.tuck_start", 28, "°", "thigh where the tail begins to tuck", Basis::HalfWidth, Figures::Back, 8, "2026-11-28"},
    Calibrated{"back.tuck_hip", 12, "°", "hip bend where the tail begins to tuck", Basis::HalfWidth, Figures::Back, 8, "2026-11-28"},
    Calibrated{"back.stick_lean", 15, "°", "lean where the stick is lost", Basis::HalfWidth, Figures::Back, 8, "2026-11-29"},
    Calibrated{"back.order", 0.04, "share", "order of a bridge", Basis::HalfWidth, Figures::Back, 16, "2026-11-28"},
    Calibrated{"back.off_square", 0.15, "cm/°", "bulge, for every degree off square", Basis::Edge, Figures::Back, 0, "2026-11-28"},
    Calibrated{"back.most_off_square", 8, "°", "further off square the back is not read", Basis::Edge, Figures::Back, 0, "2026-11-28"},
    Calibrated{"back.least_trunk", 100, "px", "a smaller trunk is not read", Basis::Edge, Figures::Back, 0, "2026-11-28"},
    Calibrated{"back.arm_inside", 0.12, "share", "an arm nearer to the edge hides it", Basis::Edge, Figures::Back, 0, "2026-11-28"},
    Calibrated{"back.residual", 0.009, "share", "a rougher edge is not read", Basis::Edge, Figures::Back, 0, "2026-11-28"},
    Calibrated{"back.contrast", 12, "grey", "a fainter edge is not read", Basis::Edge, Figures::Back, 0, "2026-11-28"},
    Calibrated{"back.rival", 115, "grey", "a stronger edge beside it is clutter", Basis::Edge, Figures::Back, 0, "2026-11-28"},
    Calibrated{"doubt.networks", 13, "°", "two networks that differ by more doubt each other", Basis::Edge, Figures::People, 348, "2026-11-30"},
    Calibrated{"doubt.same_pose", 8, "°", "estimates of one pose", Basis::Edge, Figures::Behind, 0, "2026-11-28"},
    Calibrated{"doubt.other_pose", 30, "°", "an estimate of another pose", Basis::Edge, Figures::Behind, 0, "2026-11-28"},
    Calibrated{"doubt.somebody_else", 0.15, "share", "further away a network saw somebody else", Basis::Edge, Figures::Behind, 0, "2026-11-28"},
    Calibrated{"doubt.rigid", 0.1, "share", "thigh or shank, longer or shorter than at rest", Basis::Edge, Figures::Behind, 0, "2026-11-25"},
    Calibrated{"doubt.trunk", 0.2, "share", "trunk, longer or shorter than at rest", Basis::Edge, Figures::Behind, 0, "2026-11-25"},
    Calibrated{"doubt.nobodys", 0.28, "share", "thigh or shank against the trunk, unlike anybody's", Basis::Edge, Figures::Behind, 0, "2026-11-28"},
    Calibrated{"doubt.ear", 1.3, "times", "ear from shoulder, further than at rest", Basis::Edge, Figures::Behind, 0, "2026-11-28"},
    Calibrated{"doubt.head_small", 0.6, "times", "nose or eye from ear, nearer than at rest", Basis::Edge, Figures::People, 102, "2026-11-29"},
    Calibrated{"doubt.head_large", 1.8, "times", "nose or eye from ear, further than at rest", Basis::Edge, Figures::People, 102, "2026-11-29"},
    Calibrated{"doubt.head_skewed", 1.5, "times", "nose and eye from ear, one against the other", Basis::Edge, Figures::People, 102, "2026-11-29"},
    Calibrated{"second.legs_in_front", 0.04, "stature", "ankles of a lunge from the front, further apart or nearer: as the other network has them", Basis::Edge, Figures::GridAndPeople, 120, "2026-12-01"},
    Calibrated{"doubt.front_hips", 0.02, "share", "hips of the larger network from the front, higher or lower", Basis::Edge, Figures::Fronts, 74, "2026-11-30"},
    Calibrated{"doubt.size", 0.18, "share", "the trunk, or a told length, contradicts the client's size", Basis::Edge, Figures::People, 32, "2026-11-30"},
    Calibrated{"doubt.size.share", 0.06, "share", "of any length, where the client's size is contradicted", Basis::HalfWidth, Figures::People, 32, "2026-11-30"},
    Calibrated{"camera.least_body", 0.42, "share", "of the picture's height, smaller is too far", Basis::Edge, Figures::Placements, 60, "2026-11-28"},
    Calibrated{"camera.most_body", 0.93, "share", "of the picture's height, larger is too near", Basis::Edge, Figures::Placements, 60, "2026-11-28"},
    Calibrated{"camera.roll", 2, "°", "more is not level", Basis::Edge, Figures::Placements, 60, "2026-11-28"},
    Calibrated{"camera.off_square", 10, "°", "more is not square", Basis::Edge, Figures::Placements, 60, "2026-11-28"},
    Calibrated{"camera.low_crossing", 0.36, "statures", "lines to the far leg cross below: camera low", Basis::Edge, Figures::Placements, 60, "2026-11-28"},
    Calibrated{"camera.low_scale", 0.15, "statures", "the second witness of a low camera", Basis::Edge, Figures::Placements, 60, "2026-11-28"},
    Calibrated{"camera.high_crossing", 0.68, "statures", "lines to the far leg cross above: camera high", Basis::Edge, Figures::Placements, 60, "2026-11-28"},
    Calibrated{"camera.high_scale", 0.5, "statures", "the second witness of a high camera", Basis::Edge, Figures::Placements, 60, "2026-11-28"},
    Calibrated{"camera.hidden", 0.62, "share", "a foot seen less surely is hidden", Basis::Edge, Figures::Placements, 0, "2026-11-28"},
    Calibrated{"camera.dark", 60, "grey", "darker is too dark", Basis::Edge, Figures::Placements, 60, "2026-11-28"},
    Calibrated{"camera.blurred", 0.5, "share", "softer is blurred", Basis::Edge, Figures::Placements, 0, "2026-11-28"},
    Calibrated{"camera.few", 0.8, "share", "of the pictures promised; fewer is a slow camera", Basis::Edge, Figures::Nothing, 0, "2026-11-28"},
    Calibrated{"tape.structure", 18, "grey²", "less is nothing to hold on to", Basis::Edge, Figures::Marks, 0, "2026-11-28"},
    Calibrated{"tape.of_tape", 140, "grey²", "less is no tape", Basis::Edge, Figures::Marks, 0, "2026-11-29"},
    Calibrated{"tape.there_and_back", 0.7, "px", "further from where it began: no step", Basis::Edge, Figures::Marks, 0, "2026-11-28"},
};
// clang-format on

/// A row's value; a name that is not there does not compile.
consteval double calibrated(std::string_view id) {
    for (const Calibrated& row : kCalibration)
        if (row.id == id) return row.value;
    throw "no such calibrated number";
}
/// The same by the parts of its name.
consteval double calibrated(std::initializer_list<std::string_view> parts) {
    std::string id;
    for (std::string_view part : parts) id += part;
    return calibrated(std::string_view(id));
}

}  // namespace zevo
