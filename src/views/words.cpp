#include "views/words.h"

#include <cmath>
#include <set>
#include <string>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/notation.h"
#include "types/text.h"

namespace mileage {
namespace {

/// Digits after the point that leave three significant ones.
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

std::string size_text(double bytes) {
  const double mib = bytes / (1024.0 * 1024.0);
  if (mib >= 1024) return fmt::format("{} GiB", three_digits(mib / 1024));
  return mib >= 1 ? fmt::format("{} MiB", three_digits(mib)) : fmt::format("{} KiB", three_digits(bytes / 1024));
}

}  // namespace

std::string memory_text(double bytes) { return size_text(bytes); }

namespace {

std::string cold_text(double cold_bytes, const Machine& machine) {
  std::string text = fmt::format("cold {}: walked between frames, outside their time", bytes_text(cold_bytes));
  for (const auto& [name, bytes] : machine.cache_bytes)
    text += fmt::format("; {} {} ({})", cold_bytes > bytes ? "more than" : "less than", name, size_text(bytes));
  if (!machine.cache_bytes.empty() && cold_bytes <= machine.cache_bytes.rbegin()->second)
    text += ", which stays warm";
  return text;
}

}  // namespace

std::string three_digits(double value) {
  if (!std::isfinite(value)) return "?";
  const double rounded = rounded_to_three(value);
  if (std::fabs(rounded) >= 1000) return with_thousands(rounded);
  return fmt::format("{:.{}f}", rounded, decimals_for(rounded));
}

std::string count_text(double count) {
  const double rounded = rounded_to_three(count);
  if (rounded >= 1e6) return scaled(rounded, 1e6, "M");
  if (rounded >= 1e3) return scaled(rounded, 1e3, "k");
  return fmt::format("{:.0f}", count);
}

std::string place_text(double x, const std::string& axis) { return axis == "count" ? count_text(x) : three_digits(x); }

std::string ms_text(double ms) { return three_digits(ms) + " ms"; }

std::string precision_text(double half_width) { return fmt::format("+-{:.2g} %", 100 * half_width); }

std::string interval_text(const Interval& interval, const std::string& axis) {
  if (!interval.low && !interval.high) return "(no interval)";
  if (!interval.high) return fmt::format("(above {})", place_text(*interval.low, axis));
  if (!interval.low) return fmt::format("(below {})", place_text(*interval.high, axis));
  return fmt::format("({} to {})", place_text(*interval.low, axis), place_text(*interval.high, axis));
}

std::string budget_text(double budget_ms) {
  return fmt::format("{} ({} frames a second)", ms_text(budget_ms), three_digits(1000 / budget_ms));
}

std::string rate_text(double budget_ms) {
  const double rate = 1000 / budget_ms;
  if (std::fabs(rate - std::round(rate)) < 1e-6) return fmt::format("at {:.0f} Hz", rate);
  return "within " + ms_text(budget_ms);
}

std::string law_text(const Law& law, const std::string& one) {
  const auto each = [&](double ms) { return fmt::format("{} ns {}", three_digits(ms * 1e6), with_article(one)); };
  const std::string fixed = law.fixed_ms > 0 ? fmt::format("{} fixed + ", ms_text(law.fixed_ms)) : "no fixed cost, ";
  switch (law.kind) {
    case LawKind::constant: return fmt::format("constant: {} at any count", ms_text(law.fixed_ms));
    case LawKind::linear: return fmt::format("grows in proportion: {}{}", fixed, each(law.coefficients[0]));
    case LawKind::n_log_n:
      return fmt::format("N log N: {}{} and doubling", fixed, each(law.coefficients[0]));
    case LawKind::quadratic:
      return fmt::format("quadratic: {}{} at 1k", fixed, ms_text(law.coefficients[0] * 1e6));
    case LawKind::linear_and_quadratic:
      return fmt::format("linear and quadratic: {}{} + {} at 1k", fixed, each(law.coefficients[0]), ms_text(law.coefficients[1] * 1e6));
    case LawKind::power:
      return fmt::format("grows with the power {}: {}{} ms at 1k", three_digits(law.exponent), fixed,
                         three_digits(law.coefficients[0] * std::pow(1000.0, law.exponent)));
    case LawKind::one_knee:
    case LawKind::two_knees: break;
  }
  std::string text = fmt::format("linear, {}{}", fixed, each(law.coefficients[0]));
  for (std::size_t i = 0; i < law.knees.size(); ++i) text += ", " + knee_text(law, i);
  return text;
}

std::string knee_text(const Law& law, std::size_t knee) {
  const double below = law.coefficients[knee];
  const double above = law.coefficients[knee + 1];
  const std::string place = count_text(law.knees[knee]);
  if (below <= 0) return fmt::format("flat below {}", place);
  if (above <= 0) return fmt::format("flat above {}", place);
  return above >= below ? fmt::format("{} times steeper above {}", three_digits(above / below), place)
                        : fmt::format("{} of the slope above {}", three_digits(above / below), place);
}

const char* no_capacity_text(NoCapacity none) {
  switch (none) {
    case NoCapacity::there_is_one: return "";
    case NoCapacity::over_at_once: return "over the budget at once";
    case NoCapacity::within_as_measured: return "within the budget as far as measured";
    case NoCapacity::within_as_far_as_trusted: return "within the budget up to four times what was measured";
  }
  return "";
}

std::string laws_text(const std::vector<Law>& names, const std::string& one) {
  std::string text;
  for (const Law& law : names) text += (text.empty() ? "" : "; or ") + law_text(law, one);
  return names.size() > 1 ? "cannot tell: " + text : text;
}

const char* law_name(LawKind kind) {
  switch (kind) {
    case LawKind::constant: return "constant";
    case LawKind::linear: return "linear";
    case LawKind::n_log_n: return "n log n";
    case LawKind::quadratic: return "quadratic";
    case LawKind::linear_and_quadratic: return "linear and quadratic";
    case LawKind::power: return "power";
    case LawKind::one_knee: return "linear with a knee";
    case LawKind::two_knees: return "linear with two knees";
  }
  return "";
}

const char* not_tested_text(NotTested why) {
  switch (why) {
    case NotTested::tested:
      return "";
    case NotTested::too_few_blocks:
      return "not tested: fewer than three blocks tell too little of their noise";
    case NotTested::too_few_places:
      return "not tested: fewer than three places fit any law";
  }
  return "";
}

const char* source_text(Source source) {
  switch (source) {
    case Source::local: return "from counts around it";
    case Source::law: return "along the law";
    case Source::interpolated: return "between points";
    case Source::extrapolated: return "beyond the measured range";
  }
  return "";
}

std::string along_axis_text(const Findings& findings) {
  return findings.axis == "count" ? findings.head.scenario.entities : findings.axis;
}

std::string one_along_axis(const Findings& findings) {
  return findings.axis == "count" ? one_entity(findings.head.scenario) : "unit of " + findings.axis;
}

std::string one_entity(const Scenario& scenario) {
  return scenario.entity.empty() ? singular(scenario.entities) : scenario.entity;
}

std::string evidence_text(const Findings& findings) {
  return fmt::format("{}: {} block{}, {} visits{}", findings.study, findings.blocks, findings.blocks == 1 ? "" : "s",
                     findings.visits, findings.failures.empty() ? "" : fmt::format(", {} failed", findings.failures.size()));
}

std::vector<std::string> cold_lines(const Findings& findings) {
  std::set<double> sizes;
  for (const SeriesFinding& one : findings.series)
    if (one.series.is_cold()) sizes.insert(one.series.cold_bytes);
  std::vector<std::string> lines;
  for (const double bytes : sizes) lines.push_back(cold_text(bytes, findings.head.machine));
  return lines;
}

std::string machine_text(const Machine& machine) {
  std::string text = machine.processor.empty() ? "processor unknown" : machine.processor;
  text += fmt::format(", {} core{}", machine.cores, machine.cores == 1 ? "" : "s");
  for (const auto& [name, bytes] : machine.cache_bytes) text += fmt::format(", {} {}", name, size_text(bytes));
  text += fmt::format(", memory {}", size_text(machine.memory_bytes));
  return machine.system.empty() ? text : text + ", " + machine.system;
}

std::vector<std::string> origin_lines(const Head& head) {
  if (head.imported) return {"recorded elsewhere: nothing is known of the machine and the build"};
  const Build& build = head.scenario.build;
  std::string how = "build unknown";
  if (!head.commands.empty())
    how = fmt::format("commands: {}", fmt::join(head.commands, "; "));
  else if (build.known)
    how = fmt::format("compiler {}{}{}", build.compiler, build.flags.empty() ? "" : ", " + build.flags, build.optimised ? "" : ", NOT OPTIMISED");
  return {machine_text(head.machine), how};
}

}  // namespace mileage
