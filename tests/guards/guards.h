// Checks of the source tree: one line per violation in a folder, so that they can be tested themselves.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace mileage::guards {

using Lines = std::vector<std::string>;

/// types < system < study < analysis < measure, core < festival, core < views < tool; within analysis: statistics <
/// evidence < curves < answers; within measure: machine < runners < loop.
Lines upward_includes(const std::filesystem::path& root);

/// Third-party includes, throw, try, catch or typeid.
Lines unfit_public_headers(const std::filesystem::path& root);

/// Tests that no CMake file names.
Lines unregistered_tests(const std::filesystem::path& root);

/// More than max_columns columns.
Lines long_lines(const std::filesystem::path& root);
inline constexpr std::size_t max_columns = 120;

/// Core sources without a test at the mirrored path.
Lines untested_sources(const std::filesystem::path& root);

/// Constants of the analysis outside constants.h and priors.h.
Lines scattered_constants(const std::filesystem::path& root);

/// Phrases that standard terms have replaced.
Lines replaced_phrases(const std::filesystem::path& root);

Lines dead_links(const std::filesystem::path& root);

/// Code after "<!-- from FILE -->" that differs from that file.
Lines stale_snippets(const std::filesystem::path& root);

/// Verbs after the program's (lower-case) name in Markdown that are none of these.
Lines unknown_verbs(const std::filesystem::path& root, const std::vector<std::string>& verbs);

}  // namespace mileage::guards
