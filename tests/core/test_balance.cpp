// The lean a client needs: by hand, by what coaches expect of it, and on the virtual client.
#include <Eigen/Geometry>

#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;

class TestBalance : public QObject {
    Q_OBJECT
  private slots:
    /// By hand: a body of trunk and head alone would balance upright over the ankle. With a vertical shin and a level
    /// thigh the hip is a thigh's length behind the ankle; the mass of trunk, head and arms (0.678 of 0.999) has to
    /// make up for it. The sums are in the comments of each line.
    void aWorkedExample() {
        BalanceModel m;
        m.shank = 0.25, m.thigh = 0.25, m.trunk = 0.30, m.foot = 0.15;
        m.load = LoadPlace::Sides;  // arms hang: nothing held ahead
        // feet 0.029 × 0.045 + shanks 0.093 × 0 + thighs 0.2 × (−0.25 + 0.25 × 0.433) + upper body 0.678 × −0.25
        //   = 0.0013 − 0.02835 − 0.16950 = −0.19655; ÷ 1.000 = −0.19655 ahead of the ankle with the trunk upright.
        NEAR(massAlongFoot(m, 0, 0, 0), -0.19655 / 0.15 + 0.2, 0.002);
        // Along the trunk: 0.497 × 0.15 + 0.081 × (0.30 + 0.118) + 0.1 × 0.30 = 0.13841. To be over mid-foot, 0.045
        // ahead of the ankle, it would have to bring 0.24155: no lean does.
        QVERIFY(!balancedLean(m, 0, 0, 0.5));
        // With the shins at 35° the knee is 0.1434 ahead: shanks 0.093 × 0.1434 × 0.567 = 0.00756; the hip is at
        // −0.1066: thighs 0.2 × (−0.1066 + 0.10825) = 0.00033; upper body 0.678 × −0.1066 = −0.07227; sum −0.06308.
        // 0.045 + 0.06308 = 0.10808; asin(0.10808 / 0.13841) = 51.3°.
        NEAR(*balancedLean(m, 35, 0, 0.5), 51.3, 0.3);
    }

    void theAnswerBalances() {
        for (double thigh : {-20.0, 0.0, 25.0})
            for (double shin : {30.0, 35.0, 40.0}) {
                const BalanceModel m;
                const auto lean = balancedLean(m, shin, thigh, 0.5);
                QVERIFY(lean.has_value());
                NEAR(massAlongFoot(m, shin, thigh, *lean), 0.5, 1e-9);
            }
    }

    /// Long thighs and stiff ankles need more lean, a bar on the back more than the same one in front or
    /// at the chest; a wedge and a wider stance need less.
    void buildAndAidsMatterAsCoachesKnow() {
        const BalanceModel usual;
        const double lean = *neededLean(usual, 0, 0.5);
        auto with = [](auto change) {
            BalanceModel m;
            change(m);
            return *neededLean(m, 0, 0.5);
        };
        QVERIFY(with([](auto& m) { m.thigh *= 1.06; }) > lean + 2);
        QVERIFY(with([](auto& m) { m.ankleLimitDeg -= 4; }) > lean + 4);
        const double back = with([](auto&m) { m.load = LoadPlace::Back, m.loadShare = 0.5; }),
                     front = with([](auto&m) { m.load = LoadPlace::Front, m.loadShare = 0.5; }),
                     chest = with([](auto&m) { m.load = LoadPlace::Chest, m.loadShare = 0.5; });
        QVERIFY(back > front + 5 && back > chest + 2);
        QVERIFY(with([](auto& m) { m.wedgeDeg = 6; }) < lean - 6);
        QVERIFY(with([](auto& m) { m.thighsOutDeg = 25; }) < lean - 2);
        QVERIFY(*neededLean(usual, 0, 0.5, 26) > lean + 8);  // a school that holds the shins back
        QVERIFY(*neededLean(usual, 0, 0.5, 80) == lean);     // one that allows more than the ankle has
    }

    /// A shin that leans over a turned-out foot, as a line in space, and what of it shows from the side.
    void turnedOutShinsComeLessFarForward() {
        for (double out : {0.0, 15.0, 35.0})
            for (double shin : {5.0, 20.0, 38.0}) {
                BalanceModel m;
                m.thighsOutDeg = out;
                const Eigen::Vector3d line = Eigen::AngleAxisd(out * kRadiansPerDegree, Eigen::Vector3d::UnitY()) *
                                             Eigen::AngleAxisd(-shin * kRadiansPerDegree, Eigen::Vector3d::UnitZ()) *
                                             Eigen::Vector3d::UnitY();
                NEAR(sagittalShin(m, shin), std::atan2(line.x(), line.y()) / kRadiansPerDegree, 1e-9);
                NEAR(shinInItsPlane(m, sagittalShin(m, shin)), shin, 1e-9);
            }
        // The same lean shown by a client whose legs point out is that of a freer ankle.
        BalanceModel wide;
        wide.thighsOutDeg = 35;
        QVERIFY(shinInItsPlane(wide, 25) > 28);
    }

    void stifferAnklesStopHigher() {
        BalanceModel stiff, free;
        stiff.ankleLimitDeg = 18, free.ankleLimitDeg = 38;
        QVERIFY(deepestBalanced(stiff, 0.5) > deepestBalanced(free, 0.5) + 5);
    }

    /// What the ± of the model stands for.
    void lengthsThreePerCentWrongTurnItByAFewDegrees() {
        const BalanceModel usual;
        const double lean = *neededLean(usual, 0, 0.5);
        for (double BalanceModel::*part : {&BalanceModel::thigh, &BalanceModel::shank, &BalanceModel::trunk})
            for (double factor : {0.97, 1.03}) {
                BalanceModel m;
                m.*part *= factor;
                NEAR(*neededLean(m, 0, 0.5), lean, 5.0);
            }
    }

    /// A virtual client that keeps its balance needs the lean it has, whatever its build; one that leans more does not.
    void aBalancedClientNeedsHisLean() {
        for (double legs : {0.96, 1.0, 1.04}) {
            auto spec = made::spec(2);
            spec.motion.body.legShare = legs;
            const auto clean = made::measured(spec);
            NEAR(made::value(*clean, 0, "lean_over_needed"), 0, 5);
            for (auto& r : spec.motion.reps) r.extraLeanDeg = 20;
            const auto folded = made::measured(spec);
            NEAR(made::value(*folded, 0, "lean_over_needed") - made::value(*clean, 0, "lean_over_needed"), 20, 2);
        }
    }

    void whatTheCoachMeasuredIsTaken() {
        const auto spec = made::spec(1);
        auto context = made::contextOf(spec);
        auto needed = [&] {
            return made::value(*measureSet(sim::truePoses(spec), made::facts(spec), context), 0, "needed_lean");
        };
        const double usual = needed();
        context.ankleLimitDeg = 42;
        QVERIFY(needed() < usual - 8);
        context.ankleLimitDeg.reset();
        context.variation = "front-bar", context.loadShare = 0.8;
        QVERIFY(needed() < usual - 4);
        context.variation.clear(), context.loadShare = 0, context.wedgeDeg = 6;
        QVERIFY(needed() < usual - 4);
    }
};

ZEVO_SUITE(TestBalance, "balance")
#include "test_balance.moc"
