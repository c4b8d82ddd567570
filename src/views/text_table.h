// A table for the terminal: columns as wide as they need, numbers to the right.
#pragma once

#include <string>
#include <vector>

namespace mileage {

class TextTable {
 public:
  enum class Align { left, right };

  /// A column with its heading; columns stand in the order they are added.
  void column(std::string heading, Align align = Align::left);
  /// A row; missing cells stay empty, more cells than columns are not allowed.
  void row(std::vector<std::string> cells) { rows_.push_back(std::move(cells)); }

  bool empty() const { return rows_.empty(); }
  /// Heading, rule and rows, each line indented by two spaces and ended by a line feed.
  std::string text() const;

  const std::vector<std::string>& headings() const { return headings_; }
  const std::vector<Align>& aligns() const { return aligns_; }
  const std::vector<std::vector<std::string>>& rows() const { return rows_; }

 private:
  std::vector<std::string> headings_;
  std::vector<Align> aligns_;
  std::vector<std::vector<std::string>> rows_;
};

/// Number of characters that a UTF-8 text takes on a terminal (one per code point).
std::size_t width_of(const std::string& text);

/// A text without the blanks at its end, and with a line feed.
std::string whole_line(std::string text);

}  // namespace mileage
