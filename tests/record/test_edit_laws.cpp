// Laws that hold for any edits: what is written is read, what was laid on another list means the same, undo walks back,
// and two writers lose nothing. Cases by rapidcheck, the same in every run.
#include <rapidcheck.h>

#include <QTemporaryDir>
#include <sstream>

#include "core/serial/edit_json.h"
#include "record/set_keeper.h"
#include "tests/support/libraries.h"
#include "tests/support/suite.h"

using namespace zevo;
using namespace zevo::record;

namespace {

/// To a hundredth, so that JSON gives it back as it was.
rc::Gen<double> number(int most) {
    return rc::gen::map(rc::gen::inRange(0, 100 * most), [](int n) { return n / 100.0; });
}
rc::Gen<Span> span() {
    return rc::gen::map(rc::gen::pair(number(20), number(9)), [](auto p) {
        return Span{p.first, p.first + p.second + 0.1};
    });
}
rc::Gen<std::string> word() {
    return rc::gen::element<std::string>("", "a", "ünal", "\"quoted\"", "<b>", "zwei\nZeilen");
}

rc::Gen<Edit> anyEdit(bool safe) {
    auto flag = [] { return rc::gen::arbitrary<bool>(); };
    auto facts = rc::gen::map(rc::gen::tuple(number(200), number(3), number(20), word()), [](auto t) -> Edit {
        SetFacts f;
        f.statureCm = std::get<0>(t), f.loadShare = std::get<1>(t), f.wedgeDeg = std::get<2>(t);
        f.log.note = std::get<3>(t);
        return FactsSet{f};
    });
    std::vector<rc::Gen<Edit>> all{
        facts,
        rc::gen::map(rc::gen::element<std::string>("upright", "hips-back", "whole-foot"),
                     [](auto id) -> Edit { return StandardChosen{id}; }),
        rc::gen::map(rc::gen::pair(span(), flag()),
                     [](auto p) -> Edit {
                         return SpanLeftOut{p.first, p.second};
                     }),
        rc::gen::map(rc::gen::pair(number(20), word()),
                     [](auto p) -> Edit {
                         return NotePinned{false, p.first, p.second};
                     }),
        rc::gen::map(word(),
                     [](auto w) -> Edit {
                         return CueGiven{"heels_rise", w};
                     }),
        rc::gen::just<Edit>(CueRetracted{}),
        rc::gen::map(
            rc::gen::tuple(rc::gen::element<std::string>("depth", "tempo"), flag(), number(60), word()),
            [](auto t) -> Edit {
                const std::string kind = std::get<0>(t);
                if (!std::get<1>(t)) return AskSet{"squat", kind, std::nullopt};
                return askTaken({kind, "box", std::get<2>(t), std::get<3>(t), "2026-12-01", "heels_rise", "squat"});
            }),
    };
    if (!safe) {
        const std::vector<rc::Gen<Edit>> more{
            rc::gen::map(rc::gen::pair(rc::gen::inRange(1, 5), flag()),
                         [](auto p) -> Edit {
                             return SecondAdded{p.first, p.second};
                         }),
            rc::gen::just<Edit>(SecondRemoved{}),
            rc::gen::map(number(2), [](double s) -> Edit { return SecondNudged{s}; }),
            rc::gen::map(flag(), [](bool t) -> Edit { return FilmedSeparately{t}; }),
            rc::gen::map(rc::gen::tuple(flag(), number(20), rc::gen::inRange(0, int(kLandmarkCount)), number(900)),
                         [](auto t) -> Edit {
                             return PointPlaced{std::get<0>(t),
                                                {std::get<1>(t), static_cast<Landmark>(std::get<2>(t)), std::get<3>(t),
                                                 std::get<3>(t) + 1, 0.2}};
                         }),
            rc::gen::map(rc::gen::pair(flag(), span()),
                         [](auto p) -> Edit {
                             return Trimmed{p.first, p.second};
                         }),
            rc::gen::map(rc::gen::pair(flag(), span()),
                         [](auto p) -> Edit {
                             return RepetitionSet{p.first, {p.second, {p.second}}};
                         }),
            rc::gen::map(rc::gen::tuple(flag(), number(20), flag()),
                         [](auto t) -> Edit {
                             return LegNamed{std::get<0>(t),
                                             {std::get<1>(t), std::get<2>(t) ? Side::Left : Side::Right}};
                         }),
            rc::gen::map(rc::gen::pair(flag(), number(20)),
                         [](auto p) -> Edit {
                             return RestPoseChosen{p.first, p.second};
                         }),
            rc::gen::map(rc::gen::pair(flag(), number(900)),
                         [](auto p) -> Edit {
                             return ReferenceLength{p.first, {p.second, 1, 2, 3, 40}};
                         }),
            rc::gen::map(rc::gen::pair(flag(), number(20)),
                         [](auto p) -> Edit {
                             return PersonChosen{p.first, p.second, 10, 20, 3};
                         }),
            rc::gen::map(rc::gen::pair(flag(), number(20)),
                         [](auto p) -> Edit {
                             return PointMarked{p.first, {MarkKind::Bell, 0, {{p.second, 3, 4}}, nullptr}};
                         }),
        };
        all.insert(all.end(), more.begin(), more.end());
    }
    return rc::gen::mapcat(rc::gen::inRange<std::size_t>(0, all.size()), [all](std::size_t i) { return all[i]; });
}
rc::Gen<Edits> anyEdits(bool safe = false) {
    return rc::gen::map(rc::gen::container<std::vector<Edit>>(anyEdit(safe)), [](const std::vector<Edit>& made) {
        Edits out;
        for (const Edit& e : made) out = with(std::move(out), e);
        return out;
    });
}

bool alike(const EditedSet& a, const EditedSet& b) {
    return a.facts == b.facts && a.standard == b.standard && a.leftOut == b.leftOut &&
           a.second.has_value() == b.second.has_value() &&
           (!a.second || (a.second->observation == b.second->observation && a.second->sameTake == b.second->sameTake &&
                          a.second->nudgeS == b.second->nudgeS)) &&
           a.views[0] == b.views[0] && a.views[1] == b.views[1] && a.cue == b.cue && a.asked == b.asked;
}

void check(const char* law, const std::function<void()>& property, int cases = 300) {
    rc::detail::TestParams params;
    params.seed = 20260504;
    params.maxSuccess = cases;
    params.maxSize = 24;
    rc::detail::TestMetadata about;
    about.description = law;
    const auto result = rc::detail::checkTestable(property, about, params);
    std::ostringstream said;
    rc::detail::printResultMessage(result, said);
    QVERIFY2(result.is<rc::detail::SuccessResult>(), (std::string(law) + ": " + said.str()).c_str());
}

}  // namespace

class TestEditLaws : public QObject {
    Q_OBJECT
  private slots:
    void whatIsWrittenIsRead() {
        check("read∘write = identity", [] {
            const Edit edit = *anyEdit(false);
            const auto [kind, payload] = writeEdit(edit);
            const auto back = readEdit(kind, payload);
            RC_ASSERT(bool(back));
            RC_ASSERT(*back == edit);
        });
    }

    /// What an edit replaces it would have covered anyway: the short list says the same as the long one.
    void replacingChangesNothingThatHolds() {
        check("fold∘with = fold∘append", [] {
            const auto made = *rc::gen::container<std::vector<Edit>>(anyEdit(false));
            Edits shortList, longList;
            for (const Edit& e : made) shortList = with(std::move(shortList), e), longList.push_back(e);
            EditedSet a = fold(shortList), b = fold(longList);
            // Points, repetitions and legs are applied in order; a later one on the same place covers the earlier.
            for (int v : {0, 1}) {
                a.views[v].corrections.moved.clear(), b.views[v].corrections.moved.clear();
                a.views[v].byHand.clear(), b.views[v].byHand.clear();
                a.views[v].legs.clear(), b.views[v].legs.clear();
                a.views[v].marks.clear(), b.views[v].marks.clear();
                a.views[v].notes.clear(), b.views[v].notes.clear();
            }
            RC_ASSERT(alike(a, b));
        });
    }

    void layingOnTheSameListIsTheChangeItself() {
        check("rebased(base, mine, base) = mine, in what it holds", [] {
            const Edits base = *anyEdits(), added = *anyEdits();
            Edits mine = base;
            for (const Edit& e : added) mine = with(std::move(mine), e);
            RC_ASSERT(alike(fold(rebased(base, mine, base)), fold(mine)));
            RC_ASSERT(rebased(base, base, mine) == mine);
        });
    }

    /// Any list can be made of any entries, by adding alone; and made back again.
    void entriesLeadAnywhereAndBack() {
        check("inForce(there + entriesToward(there, wanted)) = wanted", [] {
            store::EditEntries there;
            const auto lists = *rc::gen::container<std::vector<Edits>>(anyEdits());
            for (const Edits& wanted : lists) {
                const store::EditEntries before = there;
                for (auto& e : entriesToward(there, wanted, "x")) there.push_back(std::move(e));
                RC_ASSERT(store::editsInForce(there) == wanted);
                for (std::size_t i = 0; i < before.size(); ++i) RC_ASSERT(there[i].id == before[i].id);
            }
        });
    }

    void undoWalksBackAndRedoForth() {
        check(
            "undoⁿ∘redoⁿ leaves every step as it was",
            [] {
                store::EditEntries there;
                std::vector<Edits> steps{{}};
                for (const Edit& e : *rc::gen::container<std::vector<Edit>>(anyEdit(false)))
                    steps.push_back(with(steps.back(), e));
                auto go = [&](const Edits& to) {
                    for (auto& e : entriesToward(there, to, {})) there.push_back(std::move(e));
                    RC_ASSERT(store::editsInForce(there) == to);
                };
                for (const Edits& s : steps) go(s);
                for (std::size_t i = steps.size(); i-- > 0;) go(steps[i]);
                for (const Edits& s : steps) go(s);
            },
            120);
    }

    /// A state made step by step is the one made at once.
    void recomputeFromBeforeIsRecomputeFromNothing() {
        check(
            "recompute(before) = recompute(nothing)",
            [] {
                static const Observations seen{made::observation(made::spec(3))};
                Edits edits{FactsSet{made::factsOf(made::spec(3))}};
                auto state = recompute(seen, edits, *made::catalogue());
                RC_ASSERT(bool(state));
                for (const Edit& e : *anyEdits(true)) {
                    if (std::holds_alternative<FactsSet>(e)) continue;
                    edits = with(std::move(edits), e);
                    auto next = recompute(seen, edits, *made::catalogue(), &*state);
                    RC_ASSERT(bool(next));
                    state = std::move(next);
                }
                const auto anew = recompute(seen, edits, *made::catalogue());
                RC_ASSERT(bool(anew));
                RC_ASSERT(toJson(state->set, present::resultWords()) == toJson(anew->set, present::resultWords()));
            },
            25);
    }

    /// Two who know nothing of each other write to one set, in any order, each over what they knew last: every note of
    /// both is there at the end, and nothing either took back.
    void twoWritersLoseNothing() {
        QTemporaryDir dir;
        auto one = made::library(dir.path()), two = made::library(dir.path());
        const auto client = *one.addClient({{}, "Tamsel Orrick", 175, "", {}});
        int number = 0;
        check(
            "commits of two writers commute",
            [&] {
                const auto id = *one.addSet(made::newSet(client, "clip" + QByteArray::number(++number), 2));
                struct Writer {
                    store::Library& library;
                    KnownSet known;
                    std::vector<std::string> notes;
                    int taken = 0;
                };
                Writer writers[2]{{one, KnownSet::of(*one.loadSet(id)), {}}, {two, KnownSet::of(*two.loadSet(id)), {}}};
                int at = 0;
                for (const auto& [who, back] : *rc::gen::container<std::vector<std::pair<bool, bool>>>(
                         rc::gen::arbitrary<std::pair<bool, bool>>())) {
                    Writer& w = writers[who];
                    const Edits from = w.known.edits();
                    Edits to = from;
                    if (back && !w.notes.empty()) {
                        std::erase_if(to, [&](const Edit& e) {
                            const auto* n = std::get_if<NotePinned>(&e);
                            return n && n->text == w.notes.back();
                        });
                        w.notes.pop_back();
                    } else {
                        w.notes.push_back((who ? "two " : "one ") + std::to_string(at));
                        to = with(to, NotePinned{false, 0.5 * ++at, w.notes.back()});
                    }
                    auto done = SetKeeper(w.library, made::catalogue(), "x").commit(w.known, {from, to});
                    RC_ASSERT(bool(done));
                    w.known = done->known;
                }
                std::vector<std::string> wanted, there;
                for (const Writer& w : writers) wanted.insert(wanted.end(), w.notes.begin(), w.notes.end());
                for (const auto& n : fold(*one.edits(id)).views[0].notes) there.push_back(n.text);
                std::sort(wanted.begin(), wanted.end()), std::sort(there.begin(), there.end());
                RC_ASSERT(there == wanted);
                RC_ASSERT(bool(one.deleteSet(id)));
            },
            12);
    }
};

ZEVO_SUITE(TestEditLaws, "edit_laws")
#include "test_edit_laws.moc"
