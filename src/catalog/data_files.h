#pragma once

#include <string>
#include <vector>

#include "core/advice/advice.h"
#include "core/base/result.h"
#include "core/body/movement.h"
#include "core/judge/standard.h"
#include "core/session/session.h"

namespace zevo::catalog {

/// Where the shipped data lies: $ZEVO_DATA, else beside the program, else the build's source tree.
std::string dataDir();
/// Where the networks lie: $ZEVO_MODELS, else beside the program, else the build tree.
std::string modelDir();

Result<std::string> readTextFile(const std::string& path);
/// Ids of all shipped movements, squat first.
std::vector<std::string> movementIds();
/// A shipped movement. Error: names those there are.
Result<Movement> loadMovement(const std::string& id);
/// A standard by id, shipped or from the coach's own folder (may be empty), or the path of a .json file.
Result<Standard> loadStandard(const std::string& id, const std::string& ownFolder = {});
/// All standards a movement can be judged by: the shipped ones, the default first, then the coach's own. Own files that
/// cannot be used are left out and named in `refused`.
Result<std::vector<Standard>> loadStandards(const Movement& movement, const std::string& ownFolder = {},
                                            std::vector<Error>* refused = nullptr);
/// Everything that is shipped and the coach's own standards, each file read once. Error: a shipped file is broken; own
/// files that cannot be used are left out and named in `refused`.
Result<Catalogue> loadCatalogue(const std::string& ownFolder = {});
/// What schools differ in.
Result<ChoiceBook> loadChoices();
/// What a coach may ask otherwise than the schools do.
Result<AskBook> loadAsks();
/// What can be advised: faults, claims and cards.
Result<AdviceBook> loadAdvice();
/// Checks a standard file and copies it into the coach's own folder under its id. Errors name file, path and value, and
/// change nothing; a shipped standard's id is refused.
Result<Standard> importStandard(const std::string& path, const std::string& ownFolder);
/// Writes the whole text or nothing: a temporary file beside it is renamed over `path`.
Result<void> writeTextFile(const std::string& path, const std::string& text);

}  // namespace zevo::catalog
