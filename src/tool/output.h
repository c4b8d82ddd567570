// Where the tool's output goes: answers to standard output, everything else to standard error.
#pragma once

#include <filesystem>
#include <string>

#include "study/study_json.h"

namespace mileage {

/// The reader closed the pipe.
struct ClosedPipe {};

/// Answers, for people or as JSON. What would control a terminal is cleaned away. Text is wrapped to the terminal, or
/// to COLUMNS where that is set, or to 100 columns, and coloured on a terminal unless NO_COLOR is set. Throws Error
/// (cannot write), and ClosedPipe.
void print(const std::string& text);
void print(const Json& json);
/// How wide a text is printed.
std::size_t columns_at_hand();
/// For other programs: not wrapped, not coloured.
void print_as_it_is(const std::string& text);

/// A message that is no answer: "mileage: ..." on standard error.
void print_message(const std::string& text);

/// Writes a page or a figure whole or not at all, with a mark that says who wrote it. Replaces a file with that mark
/// alone, and none that this process has written. Throws Error (cannot write).
void write_file(const std::filesystem::path& path, const std::string& bytes);

}  // namespace mileage
