#include "types/notation.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <numeric>
#include <optional>
#include <utility>

#include <fmt/format.h>

#include "types/error.h"

namespace mileage {
namespace {

/// Smaller numbers are rounding.
constexpr double shown_as_zero = 1e-12;
constexpr double shown_as_power = 1e15;

int decimals_for(double value) {
  if (value == 0) return 0;
  return std::max(0, 2 - static_cast<int>(std::floor(std::log10(std::fabs(value)) + 1e-12)));
}

double rounded_to_three(double value) {
  if (value == 0 || !std::isfinite(value)) return value;
  const double unit = std::pow(10.0, std::floor(std::log10(std::fabs(value)) + 1e-12) - 2);
  return std::round(value / unit) * unit;
}

std::string with_thousands(double whole) {
  std::string text = fmt::format("{:.0f}", std::fabs(whole));
  for (int i = static_cast<int>(text.size()) - 3; i > 0; i -= 3) text.insert(static_cast<std::size_t>(i), ",");
  return whole < 0 ? "-" + text : text;
}

std::string scaled(double value, double unit, const char* suffix) {
  std::string text = fmt::format("{:.{}f}", value / unit, decimals_for(value / unit));
  if (text.find('.') != std::string::npos) {
    text.erase(text.find_last_not_of('0') + 1);
    if (text.back() == '.') text.pop_back();
  }
  return text + suffix;
}

constexpr const char* count_accepted = "a whole number from 1 to 1,000,000,000, such as 500, 20k or 1.5M";

[[noreturn]] void refuse(std::string_view field, const char* problem, std::string_view found, const char* accepted) {
  throw Error({.kind = FaultKind::usage,
               .field = std::string(field),
               .problem = problem,
               .found = std::string(found),
               .accepted = accepted});
}

std::string_view trimmed(std::string_view text) {
  const auto first = text.find_first_not_of(" \t");
  if (first == std::string_view::npos) return {};
  return text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

/// Number at the start, and the rest.
struct Leading {
  double number;
  std::string_view unit;
};
std::optional<Leading> leading_number(std::string_view text) {
  double number = 0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number);
  if (error != std::errc() || !std::isfinite(number)) return std::nullopt;
  return Leading{number, text.substr(static_cast<std::size_t>(end - text.data()))};
}

/// k and M are decimal.
std::optional<std::int64_t> whole_number(std::string_view text) {
  const auto leading = leading_number(trimmed(text));
  if (!leading) return std::nullopt;
  const double factor = leading->unit.empty() ? 1 : leading->unit == "k" ? 1e3 : leading->unit == "M" ? 1e6 : 0;
  const double number = leading->number * factor;
  if (factor == 0 || std::fabs(number) > 1e15 || std::fabs(number - std::round(number)) > 1e-6) return std::nullopt;
  return std::llround(number);
}

struct Unit {
  std::string_view name;
  double factor;
};

double with_unit(std::string_view text, std::initializer_list<Unit> units, std::string_view field, const char* problem,
                 const char* accepted) {
  const auto leading = leading_number(trimmed(text));
  if (leading && leading->number > 0)
    for (const Unit& unit : units)
      if (leading->unit == unit.name) return leading->number * unit.factor;
  refuse(field, problem, text, accepted);
}

std::vector<std::int64_t> span_of(std::int64_t from, std::int64_t to, int points) {
  const double decades = std::log10(static_cast<double>(to) / static_cast<double>(from));
  const int steps = (points > 0 ? points : std::max(8, 1 + static_cast<int>(std::lround(3 * decades)))) - 1;
  std::vector<std::int64_t> counts;
  for (int i = 0; i <= steps; ++i)
    counts.push_back(std::llround(static_cast<double>(from) * std::pow(10.0, decades * i / std::max(1, steps))));
  counts.back() = to;
  return counts;
}

std::vector<std::int64_t> counts_of_part(const std::string& part, int points, std::string_view field) {
  const auto dots = part.find("..");
  if (dots == std::string::npos) return {parse_count(part, field)};
  const std::int64_t from = parse_count(part.substr(0, dots), field);
  const std::int64_t to = parse_count(part.substr(dots + 2), field);
  if (from >= to)
    refuse(field, "the span is empty", part, "a span from a smaller to a larger count, such as 100..200k");
  return span_of(from, to, points);
}

int edits_between(std::string_view a, std::string_view b) {
  std::vector<int> row(b.size() + 1);
  std::iota(row.begin(), row.end(), 0);
  for (std::size_t i = 1; i <= a.size(); ++i) {
    int diagonal = row[0];
    row[0] = static_cast<int>(i);
    for (std::size_t j = 1; j <= b.size(); ++j) {
      const int replaced = diagonal + (a[i - 1] == b[j - 1] ? 0 : 1);
      diagonal = row[j];
      row[j] = std::min({replaced, row[j] + 1, row[j - 1] + 1});
    }
  }
  return row.back();
}

}  // namespace

std::int64_t parse_count(std::string_view text, std::string_view field) {
  const auto count = whole_number(text);
  if (!count || *count < 1 || *count > max_entities) refuse(field, "not a count", text, count_accepted);
  return *count;
}

std::int64_t parse_whole(std::string_view text, std::string_view field) {
  const auto number = whole_number(text);
  if (!number) refuse(field, "not a whole number", text, "a whole number such as 4, 2k or 1M");
  return *number;
}

std::vector<std::int64_t> parse_counts(std::string_view text, int points, std::string_view field) {
  std::vector<std::int64_t> counts;
  for (const std::string& part : split(text, ',')) {
    const auto some = counts_of_part(part, points, field);
    counts.insert(counts.end(), some.begin(), some.end());
  }
  std::sort(counts.begin(), counts.end());
  counts.erase(std::unique(counts.begin(), counts.end()), counts.end());
  return counts;
}

double parse_budget_ms(std::string_view text, std::string_view field) {
  const char* accepted = "a rate such as 60hz or a time above zero such as 16.7ms";
  const std::string_view budget = trimmed(text);
  if (budget.size() > 2 && budget.substr(budget.size() - 2) == "hz")
    return 1000.0 / with_unit(budget, {{"hz", 1.0}}, field, "not a budget", accepted);
  return with_unit(budget, {{"ms", 1.0}}, field, "not a budget", accepted);
}

double parse_duration_s(std::string_view text, std::string_view field) {
  return with_unit(text, {{"ms", 1e-3}, {"s", 1.0}, {"min", 60.0}, {"h", 3600.0}}, field, "not a duration",
                   "a time above zero such as 500ms, 30s or 2min");
}

double parse_bytes(std::string_view text, std::string_view field) {
  return with_unit(text, {{"KB", 1e3}, {"MB", 1e6}, {"GB", 1e9}}, field, "not a size",
                   "a size above zero such as 64KB, 8MB or 4GB");
}

std::string bytes_text(double bytes) {
  for (const auto& [unit, size] : {std::pair{"GB", 1e9}, {"MB", 1e6}, {"KB", 1e3}})
    if (bytes >= size) return fmt::format("{:.3g}{}", bytes / size, unit);
  return fmt::format("{:.3g}B", bytes);
}

std::string three_digits(double value) {
  if (!std::isfinite(value)) return "?";
  if (std::fabs(value) < shown_as_zero) return "0";
  if (std::fabs(value) >= shown_as_power) return fmt::format("{:.2e}", value);
  const double rounded = rounded_to_three(value);
  if (std::fabs(rounded) >= 1000) return with_thousands(rounded);
  return fmt::format("{:.{}f}", rounded, decimals_for(rounded));
}

std::string percent_text(double share) {
  const double percent = 100 * share;
  if (!std::isfinite(percent)) return "? %";
  if (percent == 0) return "0 %";
  if (std::fabs(percent) >= 9.95) return fmt::format("{:.0f} %", percent);
  return fmt::format("{:.{}f} %", percent, std::fabs(percent) >= 0.995 || std::fabs(percent) < 0.005 ? 1 : 2);
}

std::string ratio_text(double ratio) {
  const double size = std::fabs(ratio);
  if (!std::isfinite(ratio)) return "?x";
  if (size >= 9.995) return three_digits(ratio) + "x";
  if (size >= 0.0995 || size < shown_as_zero) return fmt::format("{:.2f}x", ratio);
  return fmt::format("{:.{}f}x", ratio, 1 - static_cast<int>(std::floor(std::log10(size))));
}

std::string count_text(double count) {
  const double rounded = rounded_to_three(count);
  if (rounded >= 1e6) return scaled(rounded, 1e6, "M");
  if (rounded >= 1e3) return scaled(rounded, 1e3, "k");
  return fmt::format("{:.0f}", count);
}

double parse_share(std::string_view text, std::string_view field) {
  const auto leading = leading_number(trimmed(text));
  if (!leading || leading->unit != "%" || leading->number < 0 || leading->number > 100)
    refuse(field, "not a share", text, "a share from 0% to 100%, such as 2%");
  return leading->number / 100;
}

double parse_number(std::string_view text, std::string_view field) {
  const auto leading = leading_number(trimmed(text));
  if (!leading || !leading->unit.empty()) refuse(field, "not a number", text, "a decimal number such as 0.5");
  return leading->number;
}

std::vector<std::string> split(std::string_view text, char separator) {
  std::vector<std::string> parts;
  std::size_t start = 0;
  while (true) {
    const std::size_t end = text.find(separator, start);
    parts.emplace_back(trimmed(text.substr(start, end - start)));
    if (end == std::string_view::npos) return parts;
    start = end + 1;
  }
}

std::string nearest_name(std::string_view wanted, const std::vector<std::string>& known) {
  std::string best;
  int fewest = 1 + static_cast<int>(wanted.size()) / 3;
  for (const std::string& name : known) {
    const int edits = edits_between(wanted, name);
    if (edits < fewest || (edits == fewest && best.empty())) {
      best = name;
      fewest = edits;
    }
  }
  return best;
}

std::optional<std::pair<std::string, std::string>> named_value(std::string_view text) {
  const auto equals = text.find('=');
  if (equals == std::string_view::npos || equals == 0 || equals + 1 == text.size()) return std::nullopt;
  return std::pair{std::string(text.substr(0, equals)), std::string(text.substr(equals + 1))};
}

std::string text_of(const KnobValue& value) {
  return std::visit([](const auto& held) { return fmt::format("{}", held); }, value);
}

std::string knobs_text(const Knobs& knobs) {
  std::string text;
  for (const auto& [name, value] : knobs.values()) text += fmt::format(" {}={}", name, text_of(value));
  return text;
}

}  // namespace mileage
