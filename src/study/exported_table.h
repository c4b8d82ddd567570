// A study as a frame table, and back. The table's columns tell what other programs ask for; comments above its header
// hold what no row of frames can: the head of the study, and every run without its frames.
#pragma once

#include <filesystem>
#include <optional>
#include <string>

#include "study/study.h"

namespace mileage {

/// A row for every sample of every run that was made in a block, warm-up included.
std::string exported_table(const Study& study);

/// The study of a table that exported_table() wrote: the same but for the frames of runs outside of blocks. A run
/// whose rows were taken out is excluded. Nothing for a table without such comments, and for one whose rows no longer
/// fit them. Throws Error (bad input) for comments that do not read, and for rows as read_frame_tables() does.
std::optional<Study> study_of_exported_table(const std::filesystem::path& table);

}  // namespace mileage
