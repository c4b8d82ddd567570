// Reads CSV row by row, with everything that tables come with: quotes, CRLF, a byte order mark, blank lines and
// comments.
#pragma once

#include <functional>
#include <istream>
#include <string>
#include <vector>

namespace mileage {

using CsvRow = std::vector<std::string>;

/// Calls `take` with every row and the number of its line; what it throws ends the reading and comes through. Lines
/// that begin with # are excluded. `file` is the name that errors carry. Throws Error (bad input) for what is not CSV.
void read_csv(std::istream& stream, const std::string& file, const std::function<void(const CsvRow&, int)>& take);

/// A text as one value of CSV: without control characters, quoted where needed. One that a spreadsheet would take for a
/// formula (it begins with = + - or @) gets an apostrophe in front.
std::string csv_field(const std::string& value);
/// A text that csv_field() wrote, without the apostrophe.
std::string text_of_csv_field(const std::string& value);

}  // namespace mileage
