// CSV with quotes, CRLF, byte order mark, blank lines and comments.
#pragma once

#include <functional>
#include <istream>
#include <string>
#include <vector>

namespace mileage {

using CsvRow = std::vector<std::string>;

/// Calls `take` with every row and its line number; passes its exceptions on. Skips lines that begin with #. Throws
/// Error (bad input); `file` is for messages.
void read_csv(std::istream& stream, const std::string& file, const std::function<void(const CsvRow&, int)>& take);

/// Without control characters, quoted if needed; an apostrophe precedes = + - or @, which spreadsheets take for
/// formulas.
std::string csv_field(const std::string& value);
/// Removes the apostrophe of csv_field().
std::string text_of_csv_field(const std::string& value);

}  // namespace mileage
