// Where the tool's output goes: answers to standard output, everything else to standard error.
#pragma once

#include <filesystem>
#include <string>

#include "study/study_json.h"

namespace mileage {

/// Answers, for people or as JSON.
void print(const std::string& text);
void print(const Json& json);

/// A message that is no answer: "mileage: ..." on standard error.
void warn(const std::string& text);
void complain(const std::string& text);

/// Writes a file whole or not at all: into a file beside it that then takes its place. Refuses to replace a study.
/// Throws Error (cannot write).
void write_file(const std::filesystem::path& path, const std::string& bytes);

}  // namespace mileage
