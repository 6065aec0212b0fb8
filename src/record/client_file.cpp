#include "record/client_file.h"

#include <algorithm>
#include <cmath>

#include "core/signal/filter.h"
#include "record/opening.h"

namespace zevo::record {
namespace {

std::vector<MeasureId> leadingOf(const Standard& standard, const Movement& movement) {
    std::vector<MeasureId> out;
    auto take = [&](MeasureId id) {
        if (id && std::find(out.begin(), out.end(), id) == out.end()) out.push_back(id);
    };
    for (MeasureId id : standard.leading) take(id);
    for (const auto& id : movement.measures) take(MeasureId::named(id));
    constexpr std::size_t kMost = 4;
    if (out.size() > kMost) out.resize(kMost);
    return out;
}

Course courseOf(const std::vector<store::LoggedSet>& log, const SetHistory& history, const QString& movement,
                MeasureId measure) {
    Course course{movement, {}, {}};
    present::CoursePicture& c = course.picture;
    c.measure = measure;
    std::vector<double> scatter;
    for (const auto& s : log) {
        if (s.movement != movement) continue;
        std::vector<double> values;
        for (const MeasuredRep& rep : countedOf(s.reps, fold(s.edits).leftOut))
            if (const Measurement* m = rep.find(measure)) values.push_back(m->value);
        if (values.empty()) continue;
        const double pm = halfWidth(values);
        if (values.size() > 2) scatter.push_back(pm);
        c.points.push_back({s.heldOn, median(values), pm});
        course.sets.push_back(s.id);
    }
    if (!scatter.empty()) c.noise = median(scatter);
    constexpr double kFewest = 3;
    if (const SetScatter sets = scatterOf(history, measure); sets.betweenDf >= kFewest)
        c.noise = std::max(c.noise, studentT(0.9, sets.betweenDf) * std::sqrt(sets.betweenMeans));
    return course;
}

}  // namespace

Result<ClientFile> readClientFile(const QString& libraryFolder, store::ClientId id,
                                  const std::shared_ptr<const Catalogue>& catalogue) {
    auto library = openToRead(libraryFolder);
    if (!library) return library.error();
    auto client = library->client(id);
    if (!client) return client.error();
    auto log = library->log(id);
    if (!log) return log.error();
    if (auto read = library->readRepetitions(*log); !read) return read.error();
    auto complaints = library->complaints(id);
    if (!complaints) return complaints.error();
    ClientFile out{std::move(*client), std::move(*log), std::move(*complaints), {}, {}, {}};
    const auto sets = ledgerSets(out.log);
    out.ledger = ledgerOf(sets, *catalogue);
    out.scores = scoresOf(out.ledger.cues);
    QStringList movements;
    for (auto s = out.log.rbegin(); s != out.log.rend(); ++s)
        if (!movements.contains(s->movement)) movements.append(s->movement);
    for (const QString& id : movements) {
        const Movement* movement = catalogue->movement(id.toStdString());
        const auto last =
            std::find_if(out.log.rbegin(), out.log.rend(), [&](const auto& s) { return s.movement == id; });
        const auto standard = standardFor(fold(last->edits), *catalogue);
        if (!movement || !standard) continue;
        const auto newest = static_cast<std::size_t>(out.log.rend() - last) - 1;
        const SetHistory history = historyOf(sets, newest);
        for (MeasureId measure : leadingOf(*standard, *movement)) {
            Course course = courseOf(out.log, history, id, measure);
            if (course.sets.empty()) continue;
            present::CoursePicture& c = course.picture;
            c.movementTitle = QString::fromStdString(movement->title);
            if (const Band* band = standard->bandFor(measure)) c.min = band->min, c.max = band->max;
            for (const auto& t : out.client.targets)
                if (t.movement == id && t.measure.toStdString() == measure.name()) c.target = t.value;
            out.courses.push_back(std::move(course));
        }
    }
    return out;
}

}  // namespace zevo::record
