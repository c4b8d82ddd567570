// A row of a frame table. Errors name file, line and column.
#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "study/csv_reader.h"

namespace mileage {

/// Positions of columns.
class TableHeader {
 public:
  /// `column_names`: "frame_ms" -> "tick_ms". Throws Error (bad input): missing or duplicate columns, separators other
  /// than commas.
  TableHeader(const std::string& file, const CsvRow& header, const std::map<std::string, std::string>& column_names,
              int line);

  std::size_t size() const { return size_; }
  /// Unknown columns.
  const std::vector<std::string>& unread() const { return unread_; }
  bool has(const std::string& name) const { return places_.count(name) > 0; }
  /// `low` and `high` instead of frame times.
  bool is_read_by_eye() const { return !has("frame_ms") && !has("fps"); }

  /// Columns with a prefix such as "phase:".
  struct Named {
    std::string name;
    std::size_t place;
  };
  const std::vector<Named>& of_kind(const char* kind) const { return kinds_.find(kind)->second; }

 private:
  friend class TableRow;
  [[noreturn]] void refuse_missing(const std::string& own, const std::string& wanted, const CsvRow& header,
                                   int line) const;

  std::string file_;
  std::map<std::string, std::size_t> places_;
  std::vector<std::string> unread_;
  std::map<std::string, std::vector<Named>, std::less<>> kinds_;
  std::size_t size_ = 0;
};

/// Header and values must outlive it. Functions throw Error (bad input).
class TableRow {
 public:
  /// Checks the number of values.
  TableRow(const TableHeader& header, const CsvRow& values, int line);

  /// Whether the cell has a value.
  bool tells(const std::string& column) const { return find(column) != nullptr; }
  std::string text(const std::string& column, const std::string& otherwise) const;
  /// Without a spreadsheet's apostrophe.
  std::string name(const std::string& column, const std::string& otherwise) const;

  double number(const std::string& column) const;
  double not_negative(const char* column, double max) const;
  /// A time or frame rate.
  double positive(const char* column, const char* accepted, double max) const;
  std::int64_t whole(const std::string& column) const;
  int small_whole(const char* column, std::int64_t min) const;
  std::int64_t count(const char* column) const;

  /// Of a prefixed column; may be empty.
  const std::string& value_of(const TableHeader::Named& column) const { return values_[column.place]; }
  double parsed(const std::string& value, const std::string& column) const;

  [[noreturn]] void refuse(const std::string& column, const std::string& problem, const std::string& accepted) const {
    refuse_value(column, problem, text(column, ""), accepted);
  }
  [[noreturn]] void refuse_value(const std::string& column, const std::string& problem, const std::string& found,
                                 const std::string& accepted) const;

 private:
  const std::string* find(const std::string& column) const;

  const TableHeader& header_;
  const CsvRow& values_;
  int line_;
};

}  // namespace mileage
