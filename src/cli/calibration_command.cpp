// The page docs/calibration.md: every number Zevo has from looking, with where it comes from.
#include <cstdio>

#include "cli/command.h"
#include "core/base/calibration.h"

namespace zevo::cli {
namespace {

// clang-format off
constexpr const char* kHead =
    "# What the ± and the limits rest on\n\n"
    "Written by `zevo-cli calibration`. A **±** is half the width of an interval that was meant to hold nine of ten of the errors\n"
    "measured when it was set; in which share it holds them since stands in [measurements.md](measurements.md) (*inside the ±*),\n"
    "and it is not nine of ten everywhere. An **edge** is a limit, put where what was measured on its two sides parts. All of it was\n"
    "measured on drawn, anatomical and lifelike figures, none of it on living people. *n*: the readings or sets of it in the tables as they stand, which\n"
    "are newer than some values; – where they have no row of it.\n\n"
    "| what | value | kind | measured on | n | since | name in the code |\n|---|---|---|---|---|---|---|\n";
// clang-format on

const char* wordsOf(Basis basis) {
    switch (basis) {
        case Basis::HalfWidth: return "±";
        case Basis::Edge: return "edge";
        case Basis::Tried: return "best of a few";
        case Basis::Practice: break;
    }
    return "common practice, no source";
}

const char* wordsOf(Figures figures) {
    switch (figures) {
        case Figures::Nothing: return "chosen";
        case Figures::Grid: return "grid";
        case Figures::Trial: return "fault trial";
        case Figures::Back: return "backs";
        case Figures::Marks: return "marked points";
        case Figures::Behind: return "behind things";
        case Figures::Placements: return "camera placements";
        case Figures::Others: return "figures of another making";
        case Figures::People: return "lifelike people";
        case Figures::GridAndPeople: return "grid and lifelike people";
        case Figures::Fronts: return "squats from the front";
        case Figures::Older: break;
    }
    return "first figures";
}

int print(const QCommandLineParser&, const QStringList&, const std::atomic<bool>&) {
    std::fputs(kHead, stdout);
    for (const Calibrated& row : kCalibration) {
        const QString n = row.n > 0 ? QString::number(row.n) : QString("–");
        std::printf("| %s | %s %s | %s | %s | %s | %s | `%s` |\n", std::string(row.what).c_str(),
                    qPrintable(QString::number(row.value)), std::string(row.unit).c_str(), wordsOf(row.basis),
                    wordsOf(row.figures), qPrintable(n), std::string(row.since).c_str(), std::string(row.id).c_str());
    }
    return kDone;
}

}  // namespace

Command calibrationCommand() {
    return {"calibration", "", "Prints what the ± and the limits rest on.", {}, &print};
}

}  // namespace zevo::cli
