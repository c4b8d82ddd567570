#include "views/text_table.h"

#include <algorithm>

namespace mileage {
namespace {

std::string padded(const std::string& text, std::size_t width, TextTable::Align align) {
  const std::string blanks(width - std::min(width, width_of(text)), ' ');
  return align == TextTable::Align::left ? text + blanks : blanks + text;
}

}  // namespace

std::string whole_line(std::string text) {
  text.erase(text.find_last_not_of(' ') + 1);
  return text + "\n";
}

std::size_t width_of(const std::string& text) {
  return static_cast<std::size_t>(
      std::count_if(text.begin(), text.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0) != 0x80; }));
}

void TextTable::column(std::string heading, Align align) {
  headings_.push_back(std::move(heading));
  aligns_.push_back(align);
}

std::string TextTable::text() const {
  std::vector<std::size_t> widths;
  for (std::size_t i = 0; i < headings_.size(); ++i) {
    widths.push_back(width_of(headings_[i]));
    for (const auto& cells : rows_)
      if (i < cells.size()) widths[i] = std::max(widths[i], width_of(cells[i]));
  }
  const auto line_of = [&](const std::vector<std::string>& cells) {
    std::string line;
    for (std::size_t i = 0; i < headings_.size(); ++i)
      line += "  " + padded(i < cells.size() ? cells[i] : std::string(), widths[i], aligns_[i]);
    return whole_line(line);
  };
  std::vector<std::string> rules;
  for (const std::size_t width : widths) rules.emplace_back(width, '-');
  std::string text = line_of(headings_) + line_of(rules);
  for (const auto& cells : rows_) text += line_of(cells);
  return text;
}

}  // namespace mileage
