#include "bench/accuracy/tables.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

#include "catalog/data_files.h"
#include "core/series/front_series.h"
#include "core/signal/filter.h"
#include "sim/motion.h"

namespace bench {

using namespace zevo;

namespace {

constexpr double kSureEnough = 0.5;  // min_confidence of the standards

const std::vector<std::pair<const char*, std::vector<double> Series::*>> kAngles{{"knee_flexion", &Series::kneeFlexion},
                                                                                 {"hip_flexion", &Series::hipFlexion},
                                                                                 {"trunk_lean", &Series::trunkLean},
                                                                                 {"shin_angle", &Series::shinAngle},
                                                                                 {"thigh_angle", &Series::thighAngle}};

double trueValue(const sim::TrueAngles& a, const std::string& angle) {
    if (angle == "knee_flexion") return a.kneeFlexion;
    if (angle == "hip_flexion") return a.hipFlexion;
    if (angle == "trunk_lean") return a.trunkLean;
    if (angle == "shin_angle") return a.shinAngle;
    return a.thighAngle;
}

ClipFacts seenAs(ClipFacts facts, const Seen& seen) {
    facts.hold = seen.hold;
    return facts;
}

SetContext contextOf(const sim::ClipSpec& spec) {
    SetContext c;
    if (auto movement = catalog::loadMovement(spec.motion.movement); movement) c.movement = std::move(*movement);
    c.variation = spec.motion.variation;
    c.context.statureCm = spec.motion.body.statureCm;
    return c;
}

double wrapped(double degrees) {
    return degrees - 360 * std::floor((degrees + 180) / 360);
}

/// The repetition that was found where one truly turns; null: none.
const MeasuredRep* repAt(const SetResult& r, const sim::RepTruth& event) {
    const auto found = std::find_if(r.reps.begin(), r.reps.end(),
                                    [&](const auto& rep) { return std::abs(rep.bottomS - event.bottomS) < 0.8; });
    return found == r.reps.end() ? nullptr : &*found;
}

void compareFront(const Case& c, const Seen& seen, const ClipFacts& facts, const MeasuredSet& set, Column& column) {
    const FrontSeries front = computeFrontSeries(set.track());
    const sim::SpecMotion motion(c.spec.motion);
    const std::string who = c.family + ", " + c.spec.motion.body.figure + ": ";
    for (const auto& event : motion.reps()) {
        const std::size_t i = set.track().sampleAt(event.bottomS);
        const sim::TrueFront t = sim::trueFront(motion.at(event.bottomS));
        if (c.family == "squat")
            column.front[who + "knee separation ÷ ankle separation"].add(front.kneeSeparation[i] - t.kneeSeparation);
        column.front[who + "hip line, °"].add(front.hipTilt[i] - t.hipTiltDeg);
        const MeasuredRep* rep = repAt(set.result, event);
        const auto left = sim::trueAngles(motion.at(event.bottomS), 0),
                   right = sim::trueAngles(motion.at(event.bottomS), 1);
        // From further down on a wide thigh shows its angle from the side much larger than it is; nobody squats there.
        constexpr double kDeepest = -40;
        if (!rep || left.thighAngle < kDeepest) continue;
        const std::string pitch = set.track().hold ? "" : ", pitch not told";
        for (const char* angle : {"thigh_angle", "shin_angle", "knee_flexion"})
            if (const Measurement* m = rep->find(angle))
                column.front[who + angle + pitch].add(
                    m->value - 0.5 * (trueValue(left, angle) + trueValue(right, angle)),
                    m->confidence >= kSureEnough ? m->pm90 : -1);
    }
    const std::size_t start = set.track().sampleAt(0.4);
    if (c.family == "squat")
        column.front[who + "stance ÷ shoulders"].add(front.stance[start] -
                                                     sim::trueFront(motion.at(0.4)).stanceOverShoulders);
    // A second camera that was switched on later: the lag from the movement itself.
    sim::ClipSpec side = c.spec;
    side.scene.camera.azimuthDeg = 90;
    constexpr double kLater = 0.317;
    const sim::SpecMotion whole(c.spec.motion);
    PoseFrames later;
    for (double t = 0; t < whole.durationS() - kLater; t += 1 / c.spec.frameRate)
        later.push_back(sim::truePose(whole.at(t + kLater), sim::Camera(side.scene.camera), t));
    SetContext context = contextOf(c.spec);
    auto both = measureSet(later, facts, context);
    if (both && joinSecondView(*both, seen.poses, facts, true, 0, seen.secondEstimates))
        column.front["lag of two clips, frames (side from true landmarks)"].add((both->result.second->lagS() - kLater) *
                                                                                c.spec.frameRate);
    else
        column.notes.push_back(c.name + ": the two views could not be joined");
}

void addMeasures(const std::string& family, const MeasuredRep& rep, const MeasuredRep& trueRep,
                 std::map<std::string, Errors>& into) {
    for (const auto& m : rep.measures)
        if (const Measurement* t = trueRep.find(m.measure))
            into[family + " " + m.measure.name()].add(m.value - t->value, m.confidence >= kSureEnough ? m.pm90 : -1);
}

void printMeasures(const std::map<std::string, Errors>& measures) {
    std::printf(
        "\n| measure against the same from true landmarks | reps | bias | mean abs. error | 90th percentile | 95th | "
        "inside the stated ± | that ±, mean | nine of ten lie inside its … fold "
        "|\n|---|---|---|---|---|---|---|---|---|\n");
    for (const auto& [id, e] : measures)
        std::printf("| %s | %zu | %+.2f | %.2f | %.2f | %.2f | %.0f %% | %.2f | %.2f |\n", id.c_str(), e.values.size(),
                    e.bias(), e.meanSize(), e.sizeAt(0.90), e.sizeAt(0.95), 100 * e.coverage(),
                    e.stated / std::max(1, e.judged), e.holdsNineOfTen());
}

}  // namespace

void Errors::add(double error, double pm) {
    if (!std::isfinite(error)) return;
    values.push_back(error);
    if (pm >= 0) {
        ++judged;
        inside += std::abs(error) <= pm;
        stated += pm;
        if (pm > 0) shares.push_back(std::abs(error) / pm);
    }
}

void Errors::join(const Errors& other) {
    values.insert(values.end(), other.values.begin(), other.values.end());
    inside += other.inside;
    judged += other.judged;
    stated += other.stated;
    shares.insert(shares.end(), other.shares.begin(), other.shares.end());
}

double Errors::bias() const {
    double sum = 0;
    for (double e : values) sum += e;
    return sum / static_cast<double>(values.size());
}

double Errors::meanSize() const {
    double sum = 0;
    for (double e : values) sum += std::abs(e);
    return sum / static_cast<double>(values.size());
}

double Errors::sizeAt(double share) const {
    std::vector<double> sizes;
    for (double e : values) sizes.push_back(std::abs(e));
    return quantile(sizes, share);
}

double Errors::holdsNineOfTen() const {
    return shares.empty() ? std::nan("") : quantile(shares, 0.9);
}

double Errors::coverage() const {
    return judged ? static_cast<double>(inside) / judged : std::nan("");
}

void compare(const Case& c, const Seen& seen, const ClipFacts& facts, Column& column, const SetResult* trueSet,
             SetResult* kept) {
    ++column.sets;
    column.frames += static_cast<long>(seen.poses.size());
    column.tracked += std::count_if(seen.poses.begin(), seen.poses.end(), [](const auto& f) { return f.found; });
    const auto set = measureSet(seen.poses, seenAs(facts, seen), contextOf(c.spec), seen.secondEstimates);
    if (!set) {
        column.notes.push_back(c.name + ": " + set.error().message);
        return;
    }
    const SetResult& r = set->result;
    if (kept) *kept = r;
    if (c.view == "front") compareFront(c, seen, facts, *set, column);
    const sim::SpecMotion motion(c.spec.motion);
    const auto& events = motion.reps();
    const int near = c.spec.scene.camera.azimuthDeg > 0 ? 1 : 0;
    if (c.view == "side" && r.near != (near ? Side::Right : Side::Left))
        column.notes.push_back(c.name + ": the wrong side taken for the near one");
    const bool counted = r.reps.size() == events.size();
    column.counted += counted;
    if (!counted)
        column.notes.push_back(c.name + ": " + std::to_string(r.reps.size()) + " of " + std::to_string(events.size()) +
                               " reps");

    const std::string& figure = c.spec.motion.body.figure;
    for (std::size_t k = 0; k < events.size(); ++k) {
        const MeasuredRep* found = repAt(r, events[k]);
        if (!found) continue;
        const bool whole = c.spec.motion.reps[k].oneAndHalf <= 0;
        if (found->leg) {
            const Side leg = motion.workingLeg(static_cast<int>(k)) == 0 ? Side::Left : Side::Right;
            ++column.legs;
            column.legsRight += *found->leg == leg;
        }
        if (trueSet && counted && k < trueSet->reps.size() && whole)
            addMeasures(c.family + (c.view == "front" ? " from the front:" : ""), *found, trueSet->reps[k],
                        column.measures);
        if (c.view == "front") continue;
        if (c.square) {
            column.events[c.family + ", start"].add((found->startS - events[k].startS) * c.spec.frameRate);
            column.events[c.family + ", end"].add((found->endS - events[k].endS) * c.spec.frameRate);
            if (whole)
                column.events[c.family + ", bottom"].add((found->bottomS - events[k].bottomS) * c.spec.frameRate);
        }
        if (!whole) continue;
        for (const auto& [angle, series] : kAngles) {
            const std::size_t i = set->track().sampleAt(events[k].bottomS);
            const double truth = trueValue(sim::trueAngles(motion.at(set->track().timesS[i]), near), angle);
            const Measurement* m = found->find(angle);
            const double error = wrapped((set->series().*series)[i] - truth);
            // The ± is stated for the value that is shown, at the moment it was read from.
            double pm = -1, shown = error;
            if (m) {
                // Less sure readings are shown as unsure, whatever their ±.
                if (m->confidence >= kSureEnough) pm = m->pm90;
                shown = wrapped(m->value - trueValue(sim::trueAngles(motion.at(m->atS), near), angle));
            }
            // Legs that take turns: every other rep is the far leg's, the truth here is the near one's.
            if (!c.square && !c.spec.motion.alternate) {
                column.setUps[c.name][angle].add(shown, pm);
                continue;
            }
            Errors& e = column.bottom[c.family][figure][angle];
            e.add(error);
            if (pm >= 0) {
                ++e.judged;
                e.inside += std::abs(shown) <= pm;
            }
            if (std::string(angle) == "thigh_angle" && m && c.family == "squat") {
                constexpr double kAway = 4;
                if (std::abs(truth) <= kAway) continue;
                if (std::abs(m->value) <= m->pm90)
                    ++column.levelUnsure;
                else
                    ++((m->value > 0) == (truth > 0) ? column.levelRight : column.levelWrong);
            }
        }
    }
    if (!c.square || c.view == "front") return;
    for (std::size_t i = 0; i < set->track().timesS.size(); ++i) {
        const sim::Skeleton s = motion.at(set->track().timesS[i]);
        if (s.rep < 0 || s.phase == sim::Phase::Top) continue;
        const sim::TrueAngles a = sim::trueAngles(s, near);
        for (const auto& [angle, series] : kAngles)
            column.during[c.family][figure][angle].add(wrapped((set->series().*series)[i] - trueValue(a, angle)));
    }
}

Verdict judge(const Trial& trial, const Seen& seen, const ClipFacts& facts) {
    Verdict v{"none", {}, {}, "", false, {}};
    auto set = measureSet(seen.poses, seenAs(facts, seen), contextOf(trial.spec), seen.secondEstimates);
    const auto standard = catalog::loadStandard(trial.standard);
    if (!set || !standard) {
        v.said = set ? "no standard" : set.error().message;
        return v;
    }
    judgeSet(set->result, *standard);
    v.counted = set->result.reps.size() == trial.spec.motion.reps.size();
    v.reps = set->result.reps;
    for (const auto& f : set->result.findings) {
        if (f.fault == trial.fault && (trial.side.empty() || !f.side || sideName(*f.side) == trial.side)) {
            if (v.said == "none" || v.said == "unsure") v.said = severityName(f.severity);
        } else if (f.severity != Severity::Unsure) {
            v.others.push_back(f.fault);
        } else {
            char text[120];
            std::snprintf(text, sizeof text, "%s %.2f ± %.2f for %.2f in %zu of %zu", f.fault.c_str(), f.value, f.pm90,
                          f.edge, f.reps.size(), set->result.reps.size());
            v.unsure.push_back(text);
        }
    }
    for (const Band& b : standard->forSet(trial.spec.motion.movement, trial.spec.motion.variation).bands)
        if (!trial.fault.empty() && (b.faultAbove == trial.fault || b.faultBelow == trial.fault))
            if (const Measurement* m = set->result.reps.front().find(b.measure)) {
                char text[80];
                std::snprintf(text, sizeof text, "%s %.2f ± %.2f  ", b.measure.name().c_str(), m->value, m->pm90);
                v.reading += text;
            }
    return v;
}

void Score::add(const Trial& t, const Verdict& v, const Verdict& byTruth) {
    const bool claimed = v.said == "clear" || v.said == "watch";
    ++sets;
    counted += v.counted;
    if (v.counted && v.reps.size() == byTruth.reps.size()) {
        const auto movement = catalog::loadMovement(t.spec.motion.movement);
        for (std::size_t i = 1; i < v.reps.size(); ++i)
            for (const auto& m : v.reps[i].measures) {
                const auto *before = v.reps[i - 1].find(m.measure), *now = byTruth.reps[i].find(m.measure),
                           *then = byTruth.reps[i - 1].find(m.measure);
                if (before && now && then && m.pm90 > 0)
                    fromRepToRep.add(((m.value - now->value) - (before->value - then->value)) / m.pm90);
            }
        for (std::size_t i = 0; i < v.reps.size(); ++i)
            addMeasures(movement ? familyName(movement->family) : "", v.reps[i], byTruth.reps[i], measures);
    }
    if (t.size == Size::None) {
        auto& [all, alarmed] = clean[t.group];
        ++all;
        alarmed += !v.others.empty();
    }
    const std::string family = t.group.substr(0, t.group.find(',')) + (t.group.ends_with("front") ? " front" : "");
    Row* row = t.fault.empty() ? nullptr : &rows[family + ": " + t.fault];
    if (row && t.size == Size::Clear) ++(claimed ? row->hits : row->misses);
    if (row && (t.size == Size::Inside || t.size == Size::Outside)) {
        ++row->near;
        row->unsureNear += v.said == "unsure";
        row->wrongNear += t.size == Size::Inside ? claimed : v.said == "none";
        row->falseAlarms += t.size == Size::Inside && claimed;
    }
    for (const auto& other : v.others) {
        alarms.push_back(t.name + ": " + other);
        const bool brought = t.size != Size::None &&
                             std::find(byTruth.others.begin(), byTruth.others.end(), other) != byTruth.others.end();
        rows[family + ": " + other].falseAlarms += !brought;
    }
}

void print(const Column& network, const Column& perfect) {
    auto share = [](int part, int whole) { return whole ? 100.0 * part / whole : 0.0; };
    std::printf(
        "\nreps counted exactly in %d of %d sets (true landmarks: %d of %d); person tracked in %ld of %ld frames\n",
        network.counted, network.sets, perfect.counted, perfect.sets, network.tracked, network.frames);
    std::printf(
        "thigh above or below level, more than 4° away: right %d, wrong %d, unsure %d (true landmarks: %d, %d, %d)\n",
        network.levelRight, network.levelWrong, network.levelUnsure, perfect.levelRight, perfect.levelWrong,
        perfect.levelUnsure);
    std::printf("working leg named right in %d of %d lunge reps (true landmarks: %d of %d)\n", network.legsRight,
                network.legs, perfect.legsRight, perfect.legs);
    for (const auto& note : network.notes) std::printf("- %s\n", note.c_str());
    for (const auto& note : perfect.notes) std::printf("- true landmarks, %s\n", note.c_str());

    std::printf(
        "\n| at the turning point, ° | figure | n | bias | mean abs. error | 95th percentile | inside the ± | over the "
        "rep, mean abs. | true landmarks: mean abs., largest |\n|---|---|---|---|---|---|---|---|---|\n");
    for (const auto& [family, figures] : network.bottom)
        for (const auto& [angle, series] : kAngles)
            for (const auto& [figure, angles] : figures) {
                const auto found = angles.find(angle);
                if (found == angles.end()) continue;
                const Errors& e = found->second;
                Errors ours;
                double during = std::nan("");
                if (const auto p = perfect.bottom.find(family); p != perfect.bottom.end())
                    if (const auto f = p->second.find(figure); f != p->second.end() && f->second.count(angle))
                        ours = f->second.at(angle);
                if (const auto d = network.during.find(family); d != network.during.end())
                    during = d->second.at(figure).at(angle).meanSize();
                std::printf("| %s %s | %s | %zu | %+.1f | %.1f | %.1f | %.0f %% | %.1f | %.1f, %.1f |\n",
                            family.c_str(), angle, figure.c_str(), e.values.size(), e.bias(), e.meanSize(),
                            e.sizeAt(0.95), 100 * e.coverage(), during, ours.values.empty() ? 0 : ours.meanSize(),
                            ours.values.empty() ? 0
                                                : quantile(
                                                      [&] {
                                                          std::vector<double> s;
                                                          for (double v : ours.values) s.push_back(std::abs(v));
                                                          return s;
                                                      }(),
                                                      1));
            }
    std::printf(
        "\n| both figures, 90th percentile, ° | knee | hip | trunk | shin | thigh |\n|---|---|---|---|---|---|\n");
    for (const auto& [family, figures] : network.bottom) {
        std::printf("| %s |", family.c_str());
        for (const auto& [angle, series] : kAngles) {
            Errors both;
            for (const auto& [figure, angles] : figures) both.join(angles.at(angle));
            std::vector<double> sizes;
            for (double e : both.values) sizes.push_back(std::abs(e));
            std::printf(" %.1f (bias %+.1f, mean abs. %.1f, inside %.0f %%) |", quantile(sizes, 0.9), both.bias(),
                        both.meanSize(), 100 * both.coverage());
        }
        std::printf("\n");
    }
    std::printf(
        "\n| event, frames | bias | mean abs. error | 95th percentile | true landmarks: mean abs. "
        "|\n|---|---|---|---|---|\n");
    for (const auto& [name, e] : network.events)
        std::printf("| %s | %+.1f | %.1f | %.1f | %.1f |\n", name.c_str(), e.bias(), e.meanSize(), e.sizeAt(0.95),
                    perfect.events.count(name) ? perfect.events.at(name).meanSize() : 0);
    std::printf(
        "\n| from the front | n | bias | mean abs. error | 90th percentile | 95th | true landmarks: mean abs. "
        "| inside the stated ± | that ±, mean |\n|---|---|---|---|---|---|---|---|---|\n");
    for (const auto& [name, e] : network.front) {
        std::printf("| %s | %zu | %+.3f | %.3f | %.3f | %.3f | %.3f |", name.c_str(), e.values.size(), e.bias(),
                    e.meanSize(), e.sizeAt(0.90), e.sizeAt(0.95),
                    perfect.front.count(name) ? perfect.front.at(name).meanSize() : 0);
        if (e.judged) std::printf(" %.0f %% | %.1f |\n", 100 * e.coverage(), e.stated / e.judged);
        if (!e.judged) std::printf(" – | – |\n");
    }
    printMeasures(network.measures);
    std::printf(
        "\n| set-up (squat) | knee | hip | trunk | shin | thigh: mean abs. error, ° | inside the ± "
        "|\n|---|---|---|---|---|---|---|\n");
    for (const auto& [name, angles] : network.setUps) {
        std::printf("| %s |", name.c_str());
        Errors all;
        for (const auto& [angle, series] : kAngles) {
            std::printf(" %.1f |", angles.at(angle).meanSize());
            all.join(angles.at(angle));
        }
        std::printf(" %.0f %% |\n", share(all.inside, all.judged));
    }
}

void print(const Score& network, const Score& perfect) {
    auto table = [](const Score& s, const char* title) {
        std::printf(
            "\n| %s | hits | misses | false alarms | precision | recall | F1 | near the edge: unsure | wrong "
            "|\n|---|---|---|---|---|---|---|---|---|\n",
            title);
        int hits = 0, misses = 0, alarms = 0;
        for (const auto& [fault, r] : s.rows) {
            const double precision =
                r.hits + r.falseAlarms ? static_cast<double>(r.hits) / (r.hits + r.falseAlarms) : 1;
            const double recall = r.hits + r.misses ? static_cast<double>(r.hits) / (r.hits + r.misses) : 1;
            std::printf("| %s | %d | %d | %d | %.2f | %.2f | %.2f | %d of %d | %d |\n", fault.c_str(), r.hits, r.misses,
                        r.falseAlarms, precision, recall,
                        precision + recall > 0 ? 2 * precision * recall / (precision + recall) : 0, r.unsureNear,
                        r.near, r.wrongNear);
            hits += r.hits, misses += r.misses, alarms += r.falseAlarms;
        }
        std::printf("| all | %d | %d | %d | | | %.3f | | |\n", hits, misses, alarms,
                    2.0 * hits / (2.0 * hits + misses + alarms));
        int all = 0, alarmed = 0;
        for (const auto& [group, count] : s.clean) all += count.first, alarmed += count.second;
        std::printf("\nclean sets without a false alarm: %d of %d; reps counted exactly in %d of %d sets\n",
                    all - alarmed, all, s.counted, s.sets);
        for (const auto& [group, count] : s.clean)
            std::printf("- %s: %d of %d\n", group.c_str(), count.first - count.second, count.first);
        for (const auto& a : s.alarms) std::printf("- %s\n", a.c_str());
    };
    printMeasures(network.measures);
    std::printf("\nfrom rep to rep the error changes by at most %.2f of the ± in 90 of 100 (%zu pairs)\n",
                network.fromRepToRep.sizeAt(0.9), network.fromRepToRep.values.size());
    table(network, "fault, network");
    table(perfect, "fault, true landmarks");
}

}  // namespace bench
