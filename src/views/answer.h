// What an answer says, before anyone prints it: verdict, tables, notes, what to do next. A view states each of them
// once; text, JSON, page and CSV are renderings (answer_text.h, answer_json.h, page.h).
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

/// How the values of a column read.
enum class Format {
  text,
  series,  ///< Its label, and in JSON its variant as well.
  place,   ///< On the axis; a whole number in JSON where places are counts.
  number,  ///< Three significant digits.
  whole,
  ratio,    ///< "0.24x".
  percent,  ///< A share in [0, 1].
  flag
};

/// Where people read the 95 % interval of a column.
enum class Spread {
  none,
  hidden,  ///< In JSON and CSV only.
  column,  ///< In a column of its own, to the right.
  inside   ///< In brackets behind the value.
};

struct Column {
  std::string name;     ///< Field of JSON and CSV, unique in its table; its interval is NAME_low and NAME_high.
  std::string heading;  ///< What people read. Empty: a field of JSON and CSV only.
  Format format = Format::text;
  std::string meaning;  ///< With the unit; for the reference.
  Spread spread = Spread::none;
};

/// A value, its interval and how it reads. A cell without a value may say why (`said`).
struct Entry {
  using Value = std::variant<std::monostate, bool, std::int64_t, double, std::string>;
  Value value;
  Interval interval;
  std::string said;     ///< Shown in place of the formatted value.
  std::string missing;  ///< Why there is no interval, where that is worth a word.
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
  /// The same value, read otherwise.
  Entry reads(std::string text) && {
    said = std::move(text);
    return std::move(*this);
  }
};

/// No value, for this reason.
Entry absent(std::string why = {});
Entry series_entry(const About& about, std::size_t series);
/// The number of something that people type back: in full.
Entry typed(double number);

class Table {
 public:
  /// `name`: of its rows in JSON; tables of one name are one list there. `title` is shown above it. Where several
  /// studies are answered, a column `study` comes first.
  Table(const About& about, std::string name, std::string title, std::vector<Column> columns);

  /// One cell per column.
  void row(std::vector<Entry> cells);
  /// For people the rows of one `row_name` become one row, with a column for each value of `column_name`.
  Table& pivoted(std::string row_name, std::string column_name, std::string value_name);
  /// Left to --more for people.
  Table& on_request(bool is = true);

  /// Takes the rows of a table with the same name, title and columns; false for any other.
  bool take_rows_of(const Table& other);

  bool empty() const { return rows_.empty(); }
  /// Whether people see anything of it.
  bool is_shown() const;
  const std::string& name() const { return name_; }
  const std::string& title() const { return title_; }
  const std::vector<Column>& columns() const { return columns_; }
  const std::vector<std::vector<Entry>>& rows() const { return rows_; }
  const Axis& axis() const { return axis_; }
  bool is_on_request() const { return on_request_; }

  /// As people read it: headings, whether numbers, and texts. Columns without a value in any row are not there.
  struct Shown {
    std::vector<std::string> headings;
    std::vector<bool> to_the_right;
    std::vector<std::vector<std::string>> rows;
  };
  Shown shown() const;
  /// For a terminal: headings, rule, rows. What is wider than `columns` is folded: further columns follow below, behind
  /// the names of their rows. A text in the last column is left to be wrapped.
  std::string text(std::size_t columns = 100) const;
  /// Header and rows; intervals as two fields.
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

/// One line that changes what the reader does.
struct Note {
  enum class Kind { note, warning, failure };
  std::string text;
  Kind kind = Kind::note;
  bool on_request = false;  ///< Left to --more for people.
};

struct Answer {
  std::vector<std::string> verdict;  ///< Sentences.
  std::string drawing;               ///< In characters, for a terminal alone; whole lines.
  std::vector<Table> tables;
  std::vector<Note> notes;
  std::vector<std::string> next;   ///< Commands that work when pasted.
  std::vector<std::string> files;  ///< Written on request, such as figures.

  /// Tables of one kind become one, so that several studies stand side by side.
  void add(Answer other);
  void note(std::string text, bool on_request = false) { notes.push_back({std::move(text), {}, on_request}); }
};

/// The columns that most tables begin with: the variant with what sets it apart, and a place on the axis.
Column series_column();
Column hidden_series_column();  ///< In JSON and CSV only.
Column place_column(const About& about);

/// How a value of a column reads, without its interval.
std::string value_text(const Entry& cell, const Column& column, const Axis& axis);
/// "331k to 354k", "above 331k"; nothing where both ends are open.
std::string spread_text(const Interval& interval, const Column& column, const Axis& axis);

}  // namespace mileage
