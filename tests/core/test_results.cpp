// The open result format keeps its contract.
#include <nlohmann/json.hpp>
#include <set>

#include "catalog/data_files.h"
#include "tests/support/made_sets.h"
#include "tests/support/suite.h"

using namespace zevo;
using nlohmann::json;

class TestResults : public QObject {
    Q_OBJECT
    json m_result;

  private slots:
    void initTestCase() {
        auto spec = made::spec(3);
        for (auto& r : spec.motion.reps) r.heelRiseCm = 5;
        auto set = made::measured(spec);
        QVERIFY(bool(set));
        set->result.clip = {400, 13.3, 1280, 720, 90};
        judgeSet(set->result, *catalog::loadStandard("whole-foot"));
        m_result = json::parse(toJson(*set, present::resultWords()));
    }

    void topLevelKeys() {
        for (const char* key : {"schema", "clip", "view", "tracked_share", "reps", "findings", "series", "warnings"})
            QVERIFY2(m_result.contains(key), key);
        QCOMPARE(m_result["schema"].get<std::string>(), std::string("zevo-result-1"));
        QCOMPARE(m_result["clip"]["frames"].get<int>(), 400);
        QCOMPARE(m_result["clip"]["rotation_deg"].get<int>(), 90);
        for (const char* key : {"duration_s", "width", "height"}) QVERIFY(m_result["clip"][key].is_number());
        QCOMPARE(m_result["view"]["kind"].get<std::string>(), std::string("side"));
        QCOMPARE(m_result["view"]["near_side"].get<std::string>(), std::string("right"));
        QVERIFY(m_result["view"]["off_square_deg"].is_number());
    }

    void repsAndMeasures() {
        QCOMPARE(m_result["reps"].size(), std::size_t{3});
        int index = 1;
        for (const auto& r : m_result["reps"]) {
            QCOMPARE(r["index"].get<int>(), index++);
            QCOMPARE(r["kind"].get<std::string>(), std::string("full"));
            QVERIFY(r["start_s"] < r["bottom_s"] && r["bottom_s"] < r["end_s"]);
            for (const char* id :
                 {"knee_flexion", "hip_flexion", "trunk_lean", "shin_angle", "thigh_angle", "heel_rise"}) {
                const auto& m = r["measures"][id];
                for (const char* key : {"value", "pm90", "confidence", "at_s"}) QVERIFY2(m[key].is_number(), id);
                QCOMPARE(m["unit"].get<std::string>(), std::string(std::string(id) == "heel_rise" ? "cm" : "deg"));
                QVERIFY(m["pm90"] > 0 && m["confidence"] >= 0 && m["confidence"] <= 1);
            }
        }
    }

    void findings() {
        QCOMPARE(m_result["findings"].size(), std::size_t{1});
        const auto& f = m_result["findings"][0];
        QCOMPARE(f["fault"].get<std::string>(), std::string("heels_rise"));
        QCOMPARE(f["severity"].get<std::string>(), std::string("clear"));
        QCOMPARE(f["reps"].get<std::vector<int>>(), (std::vector<int>{1, 2, 3}));
        QCOMPARE(f["measure"].get<std::string>(), std::string("heel_rise"));
        QVERIFY(f["at_s"].is_number());
    }

    void seriesHaveOneValueASample() {
        const auto n = m_result["series"]["t_s"].size();
        QVERIFY(n > 300);
        for (const char* id : {"knee_flexion", "hip_flexion", "trunk_lean", "shin_angle", "thigh_angle"})
            QCOMPARE(m_result["series"][id].size(), n);
    }

    void valuesThatAreNotNumbersBecomeNull() {
        Track track;
        track.timesS = {0};
        ViewSeries series;
        series.side.kneeFlexion = {std::nan("")};
        MeasuredSet set;
        set.first.track = std::make_shared<const Track>(track);
        set.first.series = std::make_shared<const ViewSeries>(series);
        QVERIFY(json::parse(toJson(set, present::resultWords()))["series"]["knee_flexion"][0].is_null());
    }
};

ZEVO_SUITE(TestResults, "results")
#include "test_results.moc"
