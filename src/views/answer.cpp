#include "views/answer.h"

#include <algorithm>
#include <array>
#include <stdexcept>

#include <fmt/format.h>

#include "study/csv_reader.h"
#include "types/notation.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Minimum width for wrapping a last column.
constexpr std::size_t narrowest_wrapped = 24;

std::string number_text(double value, const Column& column, const Axis& axis) {
  switch (column.format) {
    case Format::place:
      return place_text(value, axis);
    case Format::ratio:
      return ratio_text(value);
    case Format::percent:
      return percent_text(value);
    case Format::whole:
      return fmt::format("{:.0f}", value);
    default:
      return three_digits(value);
  }
}

/// Without unit, for ends of an interval.
std::string end_text(double value, const Column& column, const Axis& axis) {
  std::string text = number_text(value, column, axis);
  if (column.format == Format::ratio) text.pop_back();
  if (column.format == Format::percent) text.resize(text.size() - 2);
  return text;
}

bool is_to_the_right(const Column& column) { return column.format != Format::text && column.format != Format::series; }

std::string with_spread(const Entry& cell, const Column& column, const Axis& axis) {
  const std::string value = value_text(cell, column, axis);
  const std::string spread = column.spread == Spread::inside ? spread_text(cell.interval, column, axis) : "";
  return spread.empty() || cell.is_absent() ? value : fmt::format("{} ({})", value, spread);
}

std::string spread_cell(const Entry& cell, const Column& column, const Axis& axis) {
  const std::string spread = cell.is_absent() ? "" : spread_text(cell.interval, column, axis);
  return spread.empty() ? cell.missing : spread;
}

void drop_empty_columns(Table::Shown& shown) {
  for (std::size_t i = shown.headings.size(); i-- > 0;) {
    if (std::any_of(shown.rows.begin(), shown.rows.end(), [&](const auto& row) { return !row[i].empty(); })) continue;
    const auto at = static_cast<std::ptrdiff_t>(i);
    shown.headings.erase(shown.headings.begin() + at);
    shown.to_the_right.erase(shown.to_the_right.begin() + at);
    for (auto& row : shown.rows) row.erase(row.begin() + at);
  }
}

std::size_t width_of_column(const Table::Shown& shown, std::size_t column) {
  std::size_t width = width_of(shown.headings[column]);
  for (const auto& row : shown.rows) width = std::max(width, width_of(row[column]));
  return width + 2;
}

/// The first columns, up to the first left-aligned one, name the rows.
std::vector<std::vector<std::size_t>> folds_of(const Table::Shown& shown, std::size_t columns) {
  const auto first_text = std::find(shown.to_the_right.begin(), shown.to_the_right.end(), false);
  const std::size_t names = first_text == shown.to_the_right.end()
                                ? 1
                                : static_cast<std::size_t>(first_text - shown.to_the_right.begin()) + 1;
  std::size_t width_of_names = 0;
  for (std::size_t i = 0; i < names; ++i) width_of_names += width_of_column(shown, i);
  std::vector<std::vector<std::size_t>> folds{{}};
  for (std::size_t i = 0; i < names; ++i) folds.back().push_back(i);
  std::size_t used = width_of_names;
  for (std::size_t i = names; i < shown.headings.size(); ++i) {
    const bool is_wrapped = i + 1 == shown.headings.size() && !shown.to_the_right[i];
    const std::size_t whole = width_of_column(shown, i);
    const std::size_t width = is_wrapped ? std::min(whole, narrowest_wrapped + 2) : whole;
    if (used + width > columns && folds.back().size() > names) {
      folds.emplace_back(folds.front().begin(), folds.front().begin() + static_cast<std::ptrdiff_t>(names));
      used = width_of_names;
    }
    folds.back().push_back(i);
    used += width;
  }
  return folds;
}

std::string fold_text(const Table::Shown& shown, const std::vector<std::size_t>& fold) {
  std::string headings, rules;
  std::vector<std::string> lines(shown.rows.size());
  for (const std::size_t i : fold) {
    const std::size_t width = width_of_column(shown, i) - 2;
    const auto padded = [&](const std::string& text) {
      const std::string blanks(width - width_of(text), ' ');
      return "  " + (shown.to_the_right[i] ? blanks + text : text + blanks);
    };
    headings += padded(shown.headings[i]);
    rules += "  " + std::string(width, '-');
    for (std::size_t row = 0; row < lines.size(); ++row) lines[row] += padded(shown.rows[row][i]);
  }
  std::string text = whole_line(headings) + whole_line(rules);
  for (const std::string& line : lines) text += whole_line(line);
  return text;
}

std::string csv_number(double value) { return fmt::format("{}", value); }

std::string csv_cell(const Entry& cell) {
  return std::visit(
      [](const auto& value) -> std::string {
        using Value = std::decay_t<decltype(value)>;
        if constexpr (std::is_same_v<Value, std::monostate>)
          return {};
        else if constexpr (std::is_same_v<Value, std::string>)
          return csv_field(value);
        else if constexpr (std::is_same_v<Value, double>)
          return csv_number(value);
        else
          return fmt::format("{}", value);
      },
      cell.value);
}

}  // namespace

Entry absent(std::string why) {
  Entry cell;
  cell.said = std::move(why);
  return cell;
}

Entry series_entry(const About& about, std::size_t series) {
  Entry cell(about.label(series));
  cell.variant = about.series[series].series.variant;
  return cell;
}

Column series_column() {
  return {"series", "variant", Format::series, "variant, with the settings in which it differs"};
}

Column hidden_series_column() { return {"series", "", Format::series, series_column().meaning}; }

Column place_column(const About& about) {
  return {about.axis.name, about.axis.things, Format::place, "place on the axis"};
}

Entry typed(double number) { return Entry(number).reads(text_of(KnobValue(number))); }

Table::Table(const About& about, std::string name, std::string title, std::vector<Column> columns)
    : name_(std::move(name)),
      title_(std::move(title)),
      study_(about.is_one_of_several ? about.study : ""),
      columns_(std::move(columns)),
      axis_(about.axis) {
  if (!study_.empty()) columns_.insert(columns_.begin(), {"study", "study", Format::text, "study file"});
}

void Table::row(std::vector<Entry> cells) {
  if (!study_.empty()) cells.insert(cells.begin(), study_);
  if (cells.size() != columns_.size()) throw std::logic_error("a row of " + name_ + " lacks cells or has too many");
  rows_.push_back(std::move(cells));
}

bool Table::take_rows_of(const Table& other) {
  const auto is_same = [](const Column& one, const Column& another) {
    return one.name == another.name && one.heading == another.heading;
  };
  if (name_ != other.name_ || title_ != other.title_ ||
      !std::equal(columns_.begin(), columns_.end(), other.columns_.begin(), other.columns_.end(), is_same))
    return false;
  rows_.insert(rows_.end(), other.rows_.begin(), other.rows_.end());
  return true;
}

Table& Table::pivoted(std::string row_name, std::string column_name, std::string value_name) {
  pivot_ = {std::move(row_name), std::move(column_name), std::move(value_name)};
  return *this;
}

Table& Table::on_request(bool is) {
  on_request_ = is;
  return *this;
}

bool Table::is_shown() const {
  return !empty() && (pivot_ || std::any_of(columns_.begin(), columns_.end(),
                                            [](const Column& one) { return !one.heading.empty(); }));
}

Table::Shown Table::shown() const {
  Shown shown = pivot_ ? shown_pivoted() : shown_in_order();
  drop_empty_columns(shown);
  return shown;
}

Table::Shown Table::shown_in_order() const {
  Shown shown;
  shown.rows.resize(rows_.size());
  for (std::size_t i = 0; i < columns_.size(); ++i) {
    const Column& column = columns_[i];
    if (column.heading.empty()) continue;
    shown.headings.push_back(column.heading);
    shown.to_the_right.push_back(is_to_the_right(column));
    for (std::size_t row = 0; row < rows_.size(); ++row)
      shown.rows[row].push_back(with_spread(rows_[row][i], column, axis_));
    if (column.spread != Spread::column) continue;
    shown.headings.emplace_back("95 % interval");
    shown.to_the_right.push_back(false);
    for (std::size_t row = 0; row < rows_.size(); ++row)
      shown.rows[row].push_back(spread_cell(rows_[row][i], column, axis_));
  }
  return shown;
}

Table::Shown Table::shown_pivoted() const {
  const auto index_of = [&](const std::string& name) {
    return static_cast<std::size_t>(
        std::find_if(columns_.begin(), columns_.end(), [&](const Column& one) { return one.name == name; }) -
        columns_.begin());
  };
  const std::size_t row_at = index_of((*pivot_)[0]), column_at = index_of((*pivot_)[1]), at = index_of((*pivot_)[2]);
  Shown shown{{columns_[row_at].heading}, {false}, {}};
  for (const auto& cells : rows_) {
    const std::string row = value_text(cells[row_at], columns_[row_at], axis_);
    const std::string column = value_text(cells[column_at], columns_[column_at], axis_);
    const auto heading = std::find(shown.headings.begin() + 1, shown.headings.end(), column);
    const auto place = static_cast<std::size_t>(heading - shown.headings.begin());
    if (heading == shown.headings.end()) {
      shown.headings.push_back(column);
      shown.to_the_right.push_back(is_to_the_right(columns_[at]));
      for (auto& earlier : shown.rows) earlier.emplace_back();
    }
    auto there = std::find_if(shown.rows.begin(), shown.rows.end(), [&](const auto& one) { return one[0] == row; });
    if (there == shown.rows.end()) {
      there = shown.rows.insert(there, std::vector<std::string>(shown.headings.size()));
      (*there)[0] = row;
    }
    (*there)[place] = with_spread(cells[at], columns_[at], axis_);
  }
  return shown;
}

std::string Table::text(std::size_t columns) const {
  const Shown shown = this->shown();
  std::string text;
  for (const std::vector<std::size_t>& fold : folds_of(shown, columns))
    text += (text.empty() ? "" : "\n") + fold_text(shown, fold);
  return text;
}

std::string Table::csv() const {
  std::string text;
  const auto add = [&](const std::string& field) { text += (text.empty() || text.back() == '\n' ? "" : ",") + field; };
  for (const Column& column : columns_) {
    add(csv_field(column.name));
    if (column.spread != Spread::none) add(csv_field(column.name + "_low") + "," + csv_field(column.name + "_high"));
  }
  text += "\n";
  const auto end = [](const std::optional<double>& value) { return value ? csv_number(*value) : std::string(); };
  for (const auto& cells : rows_) {
    for (std::size_t i = 0; i < cells.size(); ++i) {
      if (i > 0) text += ",";
      text += csv_cell(cells[i]);
      if (columns_[i].spread != Spread::none)
        text += "," + end(cells[i].interval.low) + "," + end(cells[i].interval.high);
    }
    text += "\n";
  }
  return text;
}

void Answer::add(Answer other) {
  const auto move_to = [](auto& to, auto& from) {
    to.insert(to.end(), std::make_move_iterator(from.begin()), std::make_move_iterator(from.end()));
  };
  move_to(verdict, other.verdict);
  drawing += other.drawing;
  for (Table& table : other.tables)
    if (std::none_of(tables.begin(), tables.end(), [&](Table& mine) { return mine.take_rows_of(table); }))
      tables.push_back(std::move(table));
  move_to(notes, other.notes);
  move_to(next, other.next);
  move_to(files, other.files);
}

std::string value_text(const Entry& cell, const Column& column, const Axis& axis) {
  if (!cell.said.empty() || cell.is_absent()) return cell.said;
  if (const auto* text = std::get_if<std::string>(&cell.value)) return *text;
  if (const auto* flag = std::get_if<bool>(&cell.value)) return *flag ? "yes" : "no";
  if (const auto* whole = std::get_if<std::int64_t>(&cell.value))
    return column.format == Format::place ? place_text(static_cast<double>(*whole), axis) : fmt::format("{}", *whole);
  return number_text(std::get<double>(cell.value), column, axis);
}

std::string spread_text(const Interval& interval, const Column& column, const Axis& axis) {
  if (!interval.low && !interval.high) return {};
  if (!interval.high) return "above " + end_text(*interval.low, column, axis);
  if (!interval.low) return "below " + end_text(*interval.high, column, axis);
  return fmt::format("{} to {}", end_text(*interval.low, column, axis), end_text(*interval.high, column, axis));
}

}  // namespace mileage
