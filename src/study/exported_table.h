// A study as a frame table and back. Comments above the header hold the head and every run without its frames.
#pragma once

#include <filesystem>
#include <optional>
#include <string>

#include "study/study.h"

namespace mileage {

/// One row per sample of runs in blocks, warm-up included.
std::string exported_table(const Study& study);

/// The study of an exported table, without frames of runs outside of blocks. Runs without rows are dropped. Nothing if
/// there are no such comments, or rows do not fit them. Throws Error (bad input), also as read_frame_tables().
std::optional<Study> study_of_exported_table(const std::filesystem::path& table);

}  // namespace mileage
