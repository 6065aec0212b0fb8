// The card of a review: what is said first, why, what to change and prepare, and when nothing is said at all.
#include <QCoreApplication>
#include <algorithm>
#include <array>

#include "core/advice/reasoning.h"
#include "present/review_presenter.h"

namespace zevo::present {
namespace {

/// Not a card of the book: what an easier version did for what hurt.
constexpr const char* kPainTrial = "pain_trial";

QString text(const std::string& s) {
    return QString::fromStdString(s);
}
QString tr(const char* words) {
    return QCoreApplication::translate("words", words);
}

}  // namespace

/// Measures that no finding names and that are not settled in every repetition: the value lies inside, or over the edge
/// by a sliver, and the ± reaches over it. What is hardly seen has its notice.
std::vector<MeasureId> ReviewPresenter::unsureInside() const {
    std::vector<MeasureId> out;
    for (const auto& band : standard().bands) {
        if ((band.faultAbove.empty() && band.faultBelow.empty()) || band.measure->hardlySeen) continue;
        const auto& reps = result().reps;
        const bool open = std::any_of(reps.begin(), reps.end(), [&](const MeasuredRep& rep) {
            const auto judged = result().counts(rep) ? judge(rep, band, standard()) : std::nullopt;
            return judged && judged->verdict == Verdict::Unsure;
        });
        if (open) out.push_back(band.measure);
    }
    return out;
}

ReviewPresenter::Saying ReviewPresenter::stopSaying() const {
    Saying s;
    const StopAnswer& stop = result().stop;
    s.stop = true;
    s.title = stopWords(stop).title;
    s.where = "before any advice";
    s.sayKinds = {"care"};
    s.why = stopWords(stop).text;
    if (stop.level == StopAnswer::Level::HelpNow) {
        s.say = {tr("Stop. Get medical help now.")};
        s.change = {tr("Stop everything, call for help, and stay with the client.")};
        s.prepare = {tr("No training until a clinician has cleared it.")};
        s.progress = tr("Nothing is judged until then.");
    } else if (stop.reason == StopAnswer::Reason::RedFlags) {
        s.say = {tr("Stop here for today.")};
        s.change = {tr("The session ends here.")};
        s.prepare = {tr("A licensed clinician decides when to go on.")};
        s.progress = tr("Back when a clinician says so: note who, and when.");
    } else {
        s.say = {tr("Stop here for today.")};
        s.change = {tr("No further set of this movement today.")};
        s.prepare = {stop.refer ? tr("A licensed clinician decides when to go on.")
                                : tr("Ask again next time, before the warm-up.")};
        s.progress = tr("Start again lighter, when it is free of pain.");
    }
    s.atS = current().bottomS;
    return s;
}

/// Fills in what a card of the book says.
void ReviewPresenter::tell(Saying& s, const Advice& a) const {
    for (const auto& c : a.say) {
        s.say.append(text(c.text));
        s.sayKinds.append(text(c.kind));
    }
    for (const auto& c : a.change) {
        s.change.append(text(c.text));
        // Cards speak to a whole family; not every movement of it can be asked the same.
        const Movement* of = c.instead ? m_catalogue->movement(c.instead->movement) : &result().context.movement;
        const bool known = c.ask && of && rungOf(*c.ask, m_catalogue->asks, *of);
        s.changeAsks.push_back(known ? c.ask : std::nullopt);
        s.changeInstead.push_back(c.instead);
    }
    for (const auto& d : a.prepare)
        s.prepare.append(QString("%1: %2, %3").arg(text(d.stage), text(d.text), text(d.dose)));
    const bool held = result().stop.level != StopAnswer::Level::GoOn;
    // Deeper, higher, longer, heavier, faster is not said while it hurts, or past what was cleared.
    if (held && s.say.isEmpty()) s.say = {tr("Leave this one today.")}, s.sayKinds = {"care"};
    if (held && s.change.isEmpty()) s.change = {tr("Keep to what is free of pain.")};
    if (held && s.prepare.isEmpty()) s.prepare = {tr("Nothing to add today.")};
    s.progress = text(a.progress);
    // While something hurts, and until all is cleared, nothing gets heavier.
    if (result().stop.level == StopAnswer::Level::Lighten) s.progress = "No step up while it hurts.";
    if (result().stop.level == StopAnswer::Level::Care) s.progress = "Only as far as was cleared.";
}

std::optional<PainTrial> ReviewPresenter::painTrial() const {
    return painTrialOf(m_state.edited.facts, *m_catalogue, m_lengths);
}

/// Pain, or a set felt in the wrong place, is answered before what the picture shows.
std::vector<const char*> ReviewPresenter::leads() const {
    std::vector<const char*> out;
    const auto trial = painTrial();
    if (trial && trial->answer == SubstituteAnswer::Keep)
        out.push_back(kPainTrial);
    else if (result().stop.level == StopAnswer::Level::Lighten)
        out.push_back(kPainCard);
    // Back, neck and knee come first whatever was seen; a calf does not come before what is clear.
    static constexpr std::array kFirst{"low-back", "mid-back", "neck", "knee"};
    const auto& felt = result().context.felt;
    const bool first = std::any_of(felt.begin(), felt.end(), [](const std::string& place) {
        return std::find(kFirst.begin(), kFirst.end(), place) != kFirst.end();
    });
    const bool clear = !result().findings.empty() && result().findings.front().severity == Severity::Clear;
    if ((first || !clear) && !adviceWithoutFinding(kFeltCard, result(), advice()).say.empty()) out.push_back(kFeltCard);
    return out;
}

ReviewPresenter::Saying ReviewPresenter::leadSaying(const char* card) const {
    Saying s;
    s.lead = true;
    s.atS = current().bottomS;
    const SetContext& c = result().context;
    if (card == std::string_view(kPainCard)) {
        s.title = text(advice().title(card));
        if (!c.pain.spots.empty()) s.title += ": " + painSpotsWords(c.pain.spots).toLower();
        s.where = "before what the picture shows";
        s.why = stopWords(result().stop).text;
        if (const auto trial = painTrial())
            s.why = tr("Pain %1 → %2 with: %3. Not enough: the next one.")
                        .arg(trial->before)
                        .arg(trial->after)
                        .arg(trial->with);
    } else if (card == std::string_view(kPainTrial)) {
        const auto trial = painTrial();
        s.title = trial->text();
        s.where = tr("what it was tried for, and after this set");
        s.say = {tr("Good. We stay with this one.")}, s.sayKinds = {"care"};
        s.why = tr("It hurts less this way.");
        s.change = {tr("Keep it for two weeks; then the same test without it.")};
        s.prepare = {tr("Nothing to add today.")};
        s.progress = tr("A step up when two weeks of it stayed at 0 to 2.");
        return s;
    } else {
        QStringList places;
        for (const auto& place : c.felt) places.append(feltTitle(place).toLower());
        s.title = "Felt: " + places.join(", ");
        s.where = "what the client says · " + text(advice().fault(card)->term);
    }
    tell(s, adviceWithoutFinding(card, result(), advice()));
    return s;
}

QString ReviewPresenter::notJudgedText(const NotJudged& n) const {
    const QString name = QString(n.measure->title).section(':', 0, 0);
    switch (n.why) {
        case NotJudged::Why::View: return tr("%1 not judged: filmed %2").arg(name, filmedFrom(result().view));
        case NotJudged::Why::NotRead: return tr("%1 not judged: not seen well enough").arg(name);
        case NotJudged::Why::Unsettled: break;
    }
    return tr("%1 not judged: too near the edge to tell").arg(name);
}

/// What to film to have it judged: the words of the fault that the measure would show.
QString ReviewPresenter::howToJudge(MeasureId measure) const {
    const Band* band = standard().bandFor(measure);
    const FaultWords* words =
        band ? advice().fault(band->faultAbove.empty() ? band->faultBelow : band->faultAbove) : nullptr;
    return words ? text(words->unsure) : QString();
}

QStringList ReviewPresenter::notJudged() const {
    QStringList out;
    for (const NotJudged& n : result().notJudged) out.append(notJudgedText(n));
    return out;
}

ReviewPresenter::Saying ReviewPresenter::cleanSaying() const {
    Saying s;
    s.clean = result().clean();
    s.open = !s.clean;
    s.atS = current().bottomS;
    std::vector<int> counted;
    for (const auto& r : result().reps)
        if (result().counts(r)) counted.push_back(r.index);
    s.where = QString("%1 by “%2”").arg(repsText(counted), judgedBy());
    const QStringList open = notJudged();
    if (open.isEmpty()) {
        s.title = text(advice().title(kCleanCard));
        tell(s, adviceWithoutFinding(kCleanCard, result(), advice()));
        if (!result().stop.mayGoOnAlike()) s.say = {"Good. Stay at this weight and depth."};
        const auto unsure = unsureInside();
        QStringList names;
        for (const MeasureId m : unsure) names.append(QString(m->title).toLower());
        if (!unsure.empty())
            s.why = QString("Not sure: %1. Look yourself there. %2").arg(names.join(", "), howToJudge(unsure.front()));
        // A back that was not looked at is not a clean one; why, and what to change, stands in the notes.
        const auto& notices = result().notices;
        if (std::any_of(notices.begin(), notices.end(),
                        [](const Notice& n) { return n.kind == NoticeKind::BackNotRead; }))
            s.why = ("The back was not judged. " + s.why).trimmed();
        return s;
    }
    s.title = open.join("; ");
    s.unsure = howToJudge(result().notJudged.front().measure);
    const QString seen = judgedTitles().join(", ");
    s.why = seen.isEmpty() ? "Nothing could be judged." : "Nothing found in what was judged: " + seen.toLower() + ".";
    s.change = {"Nothing, until it is judged."};
    s.prepare = {"The usual warm-up is enough."};
    s.progress = "No step up on what was not seen.";
    return s;
}

/// Titles of what was settled in at least one repetition, in the standard's order of importance.
QStringList ReviewPresenter::judgedTitles() const {
    std::vector<Band> bands = standard().bands;
    std::stable_sort(bands.begin(), bands.end(), [](const Band& a, const Band& b) { return a.rank < b.rank; });
    constexpr qsizetype kMost = 5;
    QStringList out;
    for (const Band& b : bands) {
        if (out.size() == kMost || (b.faultAbove.empty() && b.faultBelow.empty())) continue;
        const bool settled = std::any_of(result().reps.begin(), result().reps.end(), [&](const MeasuredRep& rep) {
            const auto judged = result().counts(rep) ? judge(rep, b, standard()) : std::nullopt;
            return judged && judged->settled();
        });
        const QString title = QString(b.measure->title).section(':', 0, 0);
        if (settled && !out.contains(title)) out.append(title);
    }
    return out;
}

QString ReviewPresenter::judgedBy() const {
    const QString school = schoolWords(), asked = asksText(m_state.edited.facts, *m_catalogue, m_lengths);
    return asked.isEmpty() ? school : tr("%1, as asked: %2").arg(school, asked);
}

QString ReviewPresenter::judgedBy(MeasureId measure) const {
    SetFacts facts = m_state.edited.facts;
    std::erase_if(facts.asks, [&](const Ask& ask) {
        const AskRung* rung = rungOf(ask, m_catalogue->asks, result().context.movement);
        return !rung || std::none_of(rung->edges.begin(), rung->edges.end(),
                                     [&](const AskedEdge& e) { return e.measure == measure; });
    });
    const QString asked = asksText(facts, *m_catalogue, m_lengths);
    return asked.isEmpty() ? schoolWords() : tr("%1, as asked: %2").arg(schoolWords(), asked);
}

QString ReviewPresenter::schoolWords() const {
    QStringList parts{text(standard().title)};
    for (const auto& c : result().changed) parts.append(text(c));
    return parts.join(", ");
}

ReviewPresenter::Saying ReviewPresenter::saying() const {
    Saying s = findingSaying();
    if (m_scores.empty() || s.say.isEmpty() || s.fault.isEmpty()) return s;
    std::vector<std::string> wordings;
    for (const QString& w : s.say) wordings.push_back(w.toStdString());
    // The coach's own words that did something are among those on offer; while it hurts, nobody knows what they ask
    // for.
    for (const CueScore& score : m_scores)
        if (result().stop.mayGoOnAlike() && score.fault == s.fault.toStdString() && score.worked > 0 &&
            std::find(wordings.begin(), wordings.end(), score.wording) == wordings.end())
            wordings.push_back(score.wording);
    QStringList say, kinds;
    for (std::size_t i : bestFirst(wordings, s.fault.toStdString(), m_scores)) {
        const auto score = std::find_if(m_scores.begin(), m_scores.end(), [&](const CueScore& c) {
            return c.fault == s.fault.toStdString() && c.wording == wordings[i];
        });
        say.append(text(wordings[i]));
        kinds.append(s.sayKinds.value(static_cast<int>(i), "own"));
        s.scores.append(score == m_scores.end() ? QString() : scoreText(*score));
    }
    s.say = say, s.sayKinds = kinds;
    return s;
}

/// Where the depth ends that this client can use, and what gives way there first.
QString ReviewPresenter::depthLimitText(const MeasuredRep& rep) const {
    const DepthLimit limit = depthLimit(rep);
    const Measurement* usable = rep.find("usable_depth");
    if (limit == DepthLimit::None || !usable) return {};
    const QString gives = limit == DepthLimit::Tail    ? tr("the tail tucks")
                          : limit == DepthLimit::Heels ? tr("the heels leave the floor")
                                                       : tr("the toes leave the floor");
    return tr("Usable depth %1 (±%2°): from there on %3.")
        .arg(levelText(usable->value), figures(usable->pm90, 0), gives);
}

ReviewPresenter::Saying ReviewPresenter::findingSaying() const {
    if (!result().stop.scored()) return stopSaying();
    const auto first = leads();
    if (m_finding < static_cast<int>(first.size())) return leadSaying(first[static_cast<std::size_t>(m_finding)]);
    if (result().findings.empty()) return cleanSaying();
    Saying s;
    const Finding& f = *shownFinding();
    s.severity = f.severity;
    s.atS = f.atS;
    s.second = f.second;
    s.fault = text(f.fault);
    s.title = faultTitle(f);
    const bool apart = f.second && filmedApart();
    const auto& theirs = apart ? result().second->reps : result().reps;
    const auto all = std::count_if(theirs.begin(), theirs.end(), [&](const MeasuredRep& rep) {
        return apart ? rep.kind != RepKind::Partial : result().counts(rep);
    });
    s.where = repsText(f.reps) + QString(" of %1 · ").arg(all) +
              (f.severity == Severity::Clear   ? "clear"
               : f.severity == Severity::Watch ? "seen once, watch it"
                                               : "unsure");
    if (const Band* band = standard().bandFor(f.measure))
        s.why = QString("%1 %2 in %3; “%4” asks for %5.")
                    .arg(f.measure->title, readingText(f.measure, f.value, f.pm90, m_lengths), repWith(f),
                         judgedBy(f.measure), bandText(*band));
    static constexpr std::array kEndsDepth{"low_back_tuck", "heel_rise", "toe_rise", "depth_past_control"};
    if (std::find(kEndsDepth.begin(), kEndsDepth.end(), f.measure.name()) != kEndsDepth.end())
        if (const MeasuredRep* rep = apart ? nullptr : repOf(f)) s.why = (s.why + " " + depthLimitText(*rep)).trimmed();
    if (const QStringList open = notJudged(); !open.isEmpty()) s.why += " " + open.join(". ") + ".";
    const Counsel counsel = counselFor(f, result(), advice());
    const FaultWords* words = advice().fault(f.fault);
    if (words) s.term = text(words->term), s.figure = text(words->figure), s.turned = words->turned;
    s.trace = traceText(counsel);
    tell(s, counsel.advice);
    if (f.severity == Severity::Unsure && words) s.unsure = text(words->unsure);
    return s;
}

const Finding* ReviewPresenter::shownFinding() const {
    const int at = m_finding - static_cast<int>(leads().size());
    return at >= 0 && at < static_cast<int>(result().findings.size()) ? &result().findings[static_cast<std::size_t>(at)]
                                                                      : nullptr;
}

int ReviewPresenter::findingCount() const {
    if (!result().stop.scored()) return 0;
    return static_cast<int>(leads().size() + result().findings.size());
}

}  // namespace zevo::present
