#include "views/strip.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include <fmt/format.h>

#include "views/words.h"

namespace mileage {
namespace {

/// Log axis over the range of a strip.
struct Scale {
  double from;
  double to;
  std::size_t width;

  std::size_t column(double x) const {
    const double share = std::log(x / from) / std::log(to / from);
    return static_cast<std::size_t>(std::lround(std::clamp(share, 0.0, 1.0) * static_cast<double>(width)));
  }
};

char filler(const ChoiceRange& stretch) {
  if (!stretch.fits) return '.';
  if (stretch.not_measured) return '-';
  return stretch.matters ? '=' : '/';
}

std::string bar_piece(const std::string& name, const ChoiceRange& stretch, std::size_t width) {
  std::string piece(width, filler(stretch));
  if (width > 0) piece[0] = '|';
  if (name.size() + 3 <= width) piece.replace(1, name.size() + 2, " " + name + " ");
  return piece;
}

/// Writes `text` at `column` if free; moved left to fit.
bool put(std::string& line, std::size_t column, const std::string& text) {
  const std::size_t start = std::min(column, line.size() - std::min(line.size(), text.size()));
  const std::size_t from = start == 0 ? 0 : start - 1;
  if (line.find_first_not_of(' ', from) < start + text.size() + 1) return false;
  line.replace(start, text.size(), text);
  return true;
}

std::string axis_line(const Scale& scale, const Axis& axis) {
  std::string line(scale.width + 6, ' ');
  put(line, 0, place_text(scale.from, axis));
  put(line, scale.width, place_text(scale.to, axis));
  for (double x = std::pow(10.0, std::ceil(std::log10(scale.from))); x < scale.to; x *= 10)
    put(line, scale.column(x), place_text(x, axis));
  return line;
}

/// Capacities for the first budget, on as many lines as needed.
std::vector<std::string> capacity_lines(const About& about, const GroupChoice& group, const CapacityAnswer& capacities,
                                        const Scale& scale) {
  std::vector<std::string> lines;
  for (const SeriesCapacity& one : capacities.capacities) {
    const bool is_member = std::find(group.members.begin(), group.members.end(), one.series) != group.members.end();
    if (!is_member || one.capacity.budget_ms != capacities.budgets_ms.front() || !one.capacity.at) continue;
    if (*one.capacity.at < scale.from || *one.capacity.at > scale.to) continue;
    const std::string text = fmt::format("^ {} {}", group.label(one.series), place_text(*one.capacity.at, about.axis));
    const std::size_t column = scale.column(*one.capacity.at);
    const bool is_placed = std::any_of(lines.begin(), lines.end(), [&](std::string& line) {
      return column + text.size() <= line.size() && put(line, column, text);
    });
    if (is_placed) continue;
    lines.emplace_back(std::max(scale.width, column + text.size()) + 1, ' ');
    put(lines.back(), column, text);
  }
  return lines;
}

}  // namespace

std::string terminal_strip(const About& about, const GroupChoice& group, const CapacityAnswer& capacities,
                           std::size_t width) {
  if (group.stretches.empty()) return {};
  const Scale scale{group.stretches.front().from, group.stretches.back().to, width};
  std::string bar;
  for (const ChosenStretch& stretch : group.stretches) {
    const std::size_t columns = scale.column(stretch.to) - scale.column(stretch.from);
    bar += bar_piece(group.label(stretch.use), stretch, columns);
  }
  std::string text = whole_line("  " + bar + "|") + whole_line("  " + axis_line(scale, about.axis));
  for (const std::string& line : capacity_lines(about, group, capacities, scale)) text += whole_line("  " + line);
  return text;
}

std::string strip_legend() {
  return "== pays off   // no difference pays off   -- inconclusive   .. over the budget   ^ capacity";
}

}  // namespace mileage
