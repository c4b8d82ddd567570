// Answers to standard output, everything else to standard error.
#pragma once

#include <filesystem>
#include <string>

#include "study/study_json.h"

namespace mileage {

struct ClosedPipe {};

/// Control characters are removed. Wrapped to the terminal, COLUMNS or 100 columns; colored on a terminal without
/// NO_COLOR. Throws Error (cannot write) and ClosedPipe.
void print(const std::string& text);
void print(const Json& json);
std::size_t columns_at_hand();
/// For programs: neither wrapped nor colored.
void print_as_it_is(const std::string& text);

/// "mileage: ..." on standard error.
void print_message(const std::string& text);

/// Atomic, with our mark. Replaces only marked files not written by this process. Throws Error (cannot write).
void write_file(const std::filesystem::path& path, const std::string& bytes);

}  // namespace mileage
