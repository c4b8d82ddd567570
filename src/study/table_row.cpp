#include "study/table_row.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <cstring>
#include <iterator>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "study/table_columns.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

constexpr std::int64_t max_small = 1'000'000'000;
/// Exact in a double.
constexpr double max_whole = 1e15;

/// Written by recorder headers, not documented.
constexpr const char* columns_of_recorders[] = {"yardstick_us", "waited_us"};
constexpr const char* kinds_of_columns[] = {"phase:", "counter:", "outcome:", "knob:"};

bool is_of_kind(const std::string& name, const char* kind) {
  return name.rfind(kind, 0) == 0 && name.size() > std::strlen(kind);
}

bool is_read(const std::string& name) {
  const auto& told = table_columns();
  return std::any_of(told.begin(), told.end(), [&](const TableColumn& column) { return column.name == name; }) ||
         std::any_of(std::begin(columns_of_recorders), std::end(columns_of_recorders),
                     [&](const char* column) { return name == column; }) ||
         std::any_of(std::begin(kinds_of_columns), std::end(kinds_of_columns),
                     [&](const char* kind) { return is_of_kind(name, kind); });
}

bool is_time(const std::string& column) {
  return column == "frame_ms" || column == "low" || column == "high" || column == "setup_ms";
}

bool sounds_like_a_rate(std::string name) {
  std::transform(name.begin(), name.end(), name.begin(), [](unsigned char c) { return std::tolower(c); });
  for (const char* word : {"fps", "hz", "rate", "per_s", "per second"})
    if (name.find(word) != std::string::npos) return true;
  return false;
}

std::string own_name(const std::string& theirs, const std::map<std::string, std::string>& column_names) {
  for (const auto& [own, name] : column_names)
    if (name == theirs) return own;
  return theirs;
}

}  // namespace

TableHeader::TableHeader(const std::string& file, const CsvRow& header,
                         const std::map<std::string, std::string>& column_names, int line)
    : file_(file), size_(header.size()) {
  if (header.size() == 1 && header.front().find(';') != std::string::npos)
    throw Error({.file = file,
                 .line = line,
                 .problem = "columns are separated by semicolons",
                 .accepted = "commas between columns and a point in numbers; export the table that way"});
  const bool has_frame_ms = std::find(header.begin(), header.end(), "frame_ms") != header.end();
  for (std::size_t i = 0; i < header.size(); ++i) {
    std::string name = own_name(header[i], column_names);
    if (name == "ms" && !has_frame_ms && column_names.count("frame_ms") == 0) name = "frame_ms";
    if (!is_read(name)) unread_.push_back(name);
    if (!places_.emplace(name, i).second && !name.empty())
      throw Error({.file = file,
                   .line = line,
                   .field = name,
                   .problem = "two columns of that name",
                   .accepted = "each column once"});
  }
  for (const auto& [own, theirs] : column_names) {
    if (places_.count(own) == 0) refuse_missing(own, theirs, header, line);
    if (is_time(own) && sounds_like_a_rate(theirs))
      throw Error({.file = file,
                   .line = line,
                   .field = theirs,
                   .problem = fmt::format("sounds like a rate, and {} takes milliseconds", own),
                   .accepted = fmt::format("--column fps={} for a rate, or the column renamed in the table", theirs)});
  }
  if (!has("frame_ms") && !has("fps") && !(has("low") && has("high")))
    refuse_missing("frame_ms", "frame_ms", header, line);
  for (const char* kind : kinds_of_columns) {
    auto& named = kinds_[kind];
    for (const auto& [name, place] : places_)
      if (is_of_kind(name, kind)) named.push_back({name.substr(std::strlen(kind)), place});
  }
}

void TableHeader::refuse_missing(const std::string& own, const std::string& wanted, const CsvRow& header,
                                 int line) const {
  const std::string near = nearest_name(wanted, header);
  throw Error({.file = file_,
               .line = line,
               .field = wanted,
               .problem = "the table has no such column",
               .found = fmt::format("{}", fmt::join(header, ", ")),
               .accepted = near.empty()
                               ? fmt::format("a column {0}; or name the one that holds it: --column {0}=NAME", own)
                               : fmt::format("--column {}={}", own, near)});
}

TableRow::TableRow(const TableHeader& header, const CsvRow& values, int line)
    : header_(header), values_(values), line_(line) {
  if (values.size() != header.size())
    throw Error({.file = header.file_,
                 .line = line,
                 .problem = fmt::format("{} values in a table of {} columns", values.size(), header.size()),
                 .accepted = "as many values as the header has names; write decimals with a point, not with a comma"});
}

const std::string* TableRow::find(const std::string& column) const {
  const auto place = header_.places_.find(column);
  return place == header_.places_.end() || values_[place->second].empty() ? nullptr : &values_[place->second];
}

std::string TableRow::text(const std::string& column, const std::string& otherwise) const {
  const std::string* value = find(column);
  return value != nullptr ? *value : otherwise;
}

std::string TableRow::name(const std::string& column, const std::string& otherwise) const {
  return text_of_csv_field(text(column, otherwise));
}

void TableRow::refuse_value(const std::string& column, const std::string& problem, const std::string& found,
                            const std::string& accepted) const {
  throw Error({.file = header_.file_,
               .line = line_,
               .field = column,
               .problem = problem,
               .found = found,
               .accepted = accepted});
}

double TableRow::parsed(const std::string& value, const std::string& column) const {
  double number = 0;
  const char* end = value.data() + value.size();
  const auto result = std::from_chars(value.data(), end, number);
  if (result.ptr != end && value.find(',') != std::string::npos)
    refuse_value(column, "not a number", value, "a point in decimal numbers, not a comma: 16.7");
  if (result.ec != std::errc() || result.ptr != end || !std::isfinite(number))
    refuse_value(column, "not a number", value, "a decimal number such as 16.7");
  return number;
}

double TableRow::number(const std::string& column) const { return parsed(text(column, ""), column); }

double TableRow::not_negative(const char* column, double max) const {
  const double value = number(column);
  if (value < 0 || value > max) refuse(column, "out of range", "a number from 0");
  return value;
}

double TableRow::positive(const char* column, const char* accepted, double max) const {
  const double value = number(column);
  if (!(value > 0) || value > max) refuse(column, "not the time of a frame", accepted);
  return value;
}

std::int64_t TableRow::whole(const std::string& column) const {
  const double value = number(column);
  if (value != std::floor(value) || std::fabs(value) > max_whole)
    refuse(column, "not a whole number", "a whole number");
  return static_cast<std::int64_t>(value);
}

int TableRow::small_whole(const char* column, std::int64_t min) const {
  const std::int64_t value = whole(column);
  if (value < min || value > max_small) refuse(column, "out of range", fmt::format("a whole number from {}", min));
  return static_cast<int>(value);
}

std::int64_t TableRow::count(const char* column) const {
  const std::int64_t count = whole(column);
  if (count < 1) refuse(column, "not a count", "a whole number from 1");
  return count;
}

}  // namespace mileage
