#pragma once

#include <optional>
#include <string>

#include "core/base/result.h"
#include "core/body/movement.h"
#include "core/judge/standard.h"

namespace zevo {

/// The tempo a coach asks for, in seconds: down, pause at the turning point, up.
struct Tempo {
    double lowerS = 4, pauseS = 1, liftS = 1;

    bool operator==(const Tempo&) const = default;
};

/// Reads "4-1-1" (down, pause, up). Errors: not three numbers, one outside 0 to 30 s, no time to move in.
Result<Tempo> parseTempo(const std::string& text);
/// "4-1-1", so that parseTempo() reads the same again.
std::string tempoText(const Tempo& tempo);

/// The same standard with the times asked for in place of its own bands for them: a quarter more or less of each, at
/// least half a second, is let pass (common practice, no source). Too quick a way down and too short a pause are
/// faults, under the names the movement's drive gives them; the rest is drawn and not judged.
Standard withTempo(const Standard& standard, const Tempo& tempo, Drive drive);

}  // namespace zevo
