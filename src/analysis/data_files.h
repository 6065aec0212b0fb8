#pragma once

#include <string>
#include <vector>

#include "core/advice/advice.h"
#include "core/result.h"
#include "core/standards/standard.h"

namespace zevo::analysis {

/// Where the shipped data lies: $ZEVO_DATA, else beside the program, else the build's source tree.
std::string dataDir();
/// Where the networks lie: $ZEVO_MODELS, else beside the program, else the build tree.
std::string modelDir();

Result<std::string> readTextFile(const std::string& path);
/// `id` is a file name without ending, for example whole-foot.
Result<Standard> loadStandard(const std::string& id);
/// All shipped standards of a movement, the default one first.
Result<std::vector<Standard>> loadStandards(const std::string& movement);
Result<AdviceBook> loadAdvice(const std::string& movement);
/// Writes the whole text or nothing: a temporary file beside it is renamed over `path`.
Result<void> writeTextFile(const std::string& path, const std::string& text);

}  // namespace zevo::analysis
