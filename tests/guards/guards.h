// Checks of the source tree itself. Each takes a folder, so that it can be run on a planted violation, and returns one
// line per violation.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace mileage::guards {

using Lines = std::vector<std::string>;

/// Includes that go upwards: types < system < study < analysis < measure, core < festival, core < views < tool; in the
/// analysis statistics < evidence < curves < answers, in measure machine < runners < loop.
Lines upward_includes(const std::filesystem::path& root);

/// Third-party includes, throw, try, catch or typeid in public headers.
Lines unfit_public_headers(const std::filesystem::path& root);

/// Test sources that no CMake file names.
Lines unregistered_tests(const std::filesystem::path& root);

/// Lines of code and prose with more than max_columns columns.
Lines long_lines(const std::filesystem::path& root);
inline constexpr std::size_t max_columns = 120;

/// Sources of the core without a test file at the path that mirrors theirs.
Lines untested_sources(const std::filesystem::path& root);

/// Constants of the analysis outside its table, `analysis/statistics/constants.h`.
Lines scattered_constants(const std::filesystem::path& root);

/// Phrases of earlier versions, for which the field has standard terms, in Markdown files and in texts of the product.
Lines replaced_phrases(const std::filesystem::path& root);

/// Links and picture references in Markdown files that lead nowhere.
Lines dead_links(const std::filesystem::path& root);

/// Blocks of code in Markdown files that follow "<!-- from FILE -->" and are not a piece of that file.
Lines stale_snippets(const std::filesystem::path& root);

/// Verbs behind the program's name (in lower case, unlike the product's) in Markdown files that are none of these.
Lines unknown_verbs(const std::filesystem::path& root, const std::vector<std::string>& verbs);

}  // namespace mileage::guards
