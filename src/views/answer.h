// Answer: verdict, tables, notes, next steps. Views fill it; text, JSON, page and CSV render it (answer_text.h,
// answer_json.h, page.h).
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/statistics/interval.h"

namespace mileage {

enum class Format {
  text,
  series,  ///< Label; in JSON also the variant.
  place,   ///< On the axis; integer in JSON for counts.
  number,
  whole,
  ratio,    ///< "0.24x".
  percent,  ///< Of a share in [0, 1].
  flag
};

/// Where people see a column's interval.
enum class Spread {
  none,
  hidden,  ///< JSON and CSV only.
  column,  ///< Own column.
  inside   ///< In brackets.
};

struct Column {
  std::string name;     ///< JSON and CSV field, unique in its table; interval: NAME_low, NAME_high.
  std::string heading;  ///< Empty: JSON and CSV only.
  Format format = Format::text;
  std::string meaning;  ///< With unit; for the reference.
  Spread spread = Spread::none;
};

/// A value with its interval, or the reason for none (`said`).
struct Entry {
  using Value = std::variant<std::monostate, bool, std::int64_t, double, std::string>;
  Value value;
  Interval interval;
  std::string said;     ///< Instead of the formatted value.
  std::string missing;  ///< Why there is no interval.
  std::string variant;  ///< Of a series.

  Entry() = default;
  Entry(std::string text) : value(std::move(text)) {}
  Entry(const char* text) : value(std::string(text)) {}
  Entry(double number) : value(number) {}
  Entry(bool flag) : value(flag) {}
  Entry(std::int64_t whole) : value(whole) {}
  Entry(int whole) : value(std::int64_t{whole}) {}
  Entry(std::size_t whole) : value(static_cast<std::int64_t>(whole)) {}
  Entry(const std::optional<double>& number) {
    if (number) value = *number;
  }
  Entry(const std::optional<double>& number, Interval of, std::string why = {}) : Entry(number) {
    interval = std::move(of);
    missing = std::move(why);
  }

  bool is_absent() const { return std::holds_alternative<std::monostate>(value); }
  /// Other text for the same value.
  Entry reads(std::string text) && {
    said = std::move(text);
    return std::move(*this);
  }
};

Entry absent(std::string why = {});
Entry series_entry(const About& about, std::size_t series);
/// In full, to be typed back.
Entry typed(double number);

class Table {
 public:
  /// `name`: of its JSON rows, shared by tables of one name. `title` is shown. A column `study` comes first if there
  /// are several.
  Table(const About& about, std::string name, std::string title, std::vector<Column> columns);

  /// By column.
  void row(std::vector<Entry> cells);
  /// For people: rows of one `row_name` become one row, with a column per value of `column_name`.
  Table& pivoted(std::string row_name, std::string column_name, std::string value_name);
  /// Only with --more.
  Table& on_request(bool is = true);

  /// Merges a table with the same name, title and columns; false otherwise.
  bool take_rows_of(const Table& other);

  bool empty() const { return rows_.empty(); }
  bool is_shown() const;
  const std::string& name() const { return name_; }
  const std::string& title() const { return title_; }
  const std::vector<Column>& columns() const { return columns_; }
  const std::vector<std::vector<Entry>>& rows() const { return rows_; }
  const Axis& axis() const { return axis_; }
  bool is_on_request() const { return on_request_; }

  /// What people read, without empty columns.
  struct Shown {
    std::vector<std::string> headings;
    std::vector<bool> to_the_right;
    std::vector<std::vector<std::string>> rows;
  };
  Shown shown() const;
  /// For a terminal. Columns beyond the width continue below, next to the row names. The last column is not wrapped
  /// here.
  std::string text(std::size_t columns = 100) const;
  /// Intervals as two fields.
  std::string csv() const;

 private:
  Shown shown_in_order() const;
  Shown shown_pivoted() const;

  std::string name_, title_, study_;
  std::vector<Column> columns_;
  std::vector<std::vector<Entry>> rows_;
  Axis axis_;
  std::optional<std::array<std::string, 3>> pivot_;
  bool on_request_ = false;
};

/// One line that matters to the reader.
struct Note {
  enum class Kind { note, warning, failure };
  std::string text;
  Kind kind = Kind::note;
  bool on_request = false;  ///< Only with --more.
};

struct Answer {
  std::vector<std::string> verdict;
  std::string drawing;  ///< Characters for a terminal, whole lines.
  std::vector<Table> tables;
  std::vector<Note> notes;
  std::vector<std::string> next;   ///< Commands to paste.
  std::vector<std::string> files;  ///< Written, such as figures.

  /// Merges tables of one kind, for several studies.
  void add(Answer other);
  void note(std::string text, bool on_request = false) { notes.push_back({std::move(text), {}, on_request}); }
};

/// Common first columns: variant with what distinguishes it, and place.
Column series_column();
Column hidden_series_column();  ///< JSON and CSV only.
Column place_column(const About& about);

/// Without interval.
std::string value_text(const Entry& cell, const Column& column, const Axis& axis);
/// "331k to 354k", "above 331k"; empty if both ends are open.
std::string spread_text(const Interval& interval, const Column& column, const Axis& axis);

}  // namespace mileage
