#include "views/words.h"

#include <cmath>
#include <string>

#include <fmt/format.h>

#include "types/text.h"

namespace mileage {

std::string memory_text(double bytes) {
  const double mib = bytes / (1024.0 * 1024.0);
  if (mib >= 1024) return fmt::format("{} GiB", three_digits(mib / 1024));
  return mib >= 1 ? fmt::format("{} MiB", three_digits(mib)) : fmt::format("{} KiB", three_digits(bytes / 1024));
}

std::string named_place(double x, const Axis& axis) {
  const std::string place = place_text(x, axis);
  return axis.things == axis.name ? axis.name + " " + place : place + " " + axis.things;
}

std::string each_number(double ms_each, const Axis& axis) { return three_digits(ms_each * each_factor(axis)); }

double each_factor(const Axis& axis) { return axis.is_whole ? 1e6 : 1; }

std::string each_unit(const Axis& axis) { return (axis.is_whole ? "ns " : "ms ") + with_article(axis.thing); }

std::string each_text(double ms_each, const Axis& axis) { return each_number(ms_each, axis) + " " + each_unit(axis); }

std::string ms_text(double ms) { return three_digits(ms) + " ms"; }

std::string precision_text(double half_width) { return "+-" + percent_text(half_width); }

std::string interval_text(const Interval& interval, const Axis& axis) {
  if (!interval.low && !interval.high) return "(no interval)";
  if (!interval.high) return fmt::format("(above {})", place_text(*interval.low, axis));
  if (!interval.low) return fmt::format("(below {})", place_text(*interval.high, axis));
  return fmt::format("({} to {})", place_text(*interval.low, axis), place_text(*interval.high, axis));
}

std::string interval_or_reason(const Interval& interval, const Axis& axis, const std::string& missing) {
  return missing.empty() ? interval_text(interval, axis) : "none: " + missing;
}

std::string range_text(const Interval& interval) {
  return interval.closed() ? fmt::format("({} to {})", three_digits(*interval.low), three_digits(*interval.high))
                           : "(no interval)";
}

std::string with_range(double value, const Interval& interval) {
  return three_digits(value) + (interval.closed() ? " " + range_text(interval) : "");
}

std::string with_conditions(const std::string& title, const std::string& conditions) {
  return conditions.empty() ? title : fmt::format("{} ({})", title, conditions);
}

/// "60 Hz"; nothing where that is no whole rate.
std::string whole_rate(double budget_ms) {
  const double rate = 1000 / budget_ms;
  return std::fabs(rate - std::round(rate)) < 1e-6 ? fmt::format("{:.0f} Hz", rate) : "";
}

std::string budget_text(double budget_ms, double reserve_ms) {
  const std::string rate = whole_rate(budget_ms + reserve_ms);
  const std::string before = rate.empty() ? ms_text(budget_ms + reserve_ms) : rate;
  if (reserve_ms > 0) return fmt::format("{} ({} less {})", ms_text(budget_ms), before, ms_text(reserve_ms));
  return rate.empty() ? ms_text(budget_ms) : fmt::format("{} ({})", ms_text(budget_ms), rate);
}

std::string rate_text(double budget_ms) {
  const double rate = 1000 / budget_ms;
  if (std::fabs(rate - std::round(rate)) < 1e-6) return fmt::format("at {:.0f} Hz", rate);
  return "within " + ms_text(budget_ms);
}

const char* source_text(Source source) {
  switch (source) {
    case Source::local:
      return "from counts around it";
    case Source::law:
      return "along the law";
    case Source::interpolated:
      return "between points";
    case Source::extrapolated:
      return "beyond the measured range, if nothing worse than a knee of 1.5 comes";
    case Source::step:
      return "between two counts, where the cost jumps";
  }
  return "";
}

std::string machine_text(const Machine& machine) {
  std::string text = machine.processor.empty() ? "processor unknown" : machine.processor;
  text += fmt::format(", {} core{}", machine.cores, machine.cores == 1 ? "" : "s");
  for (const auto& [name, bytes] : machine.cache_bytes) text += fmt::format(", {} {}", name, memory_text(bytes));
  text += fmt::format(", memory {}", memory_text(machine.memory_bytes));
  return machine.system.empty() ? text : text + ", " + machine.system;
}

namespace {

std::string& program_name() {
  static std::string name = "mileage";
  return name;
}

}  // namespace

void set_program_name(const std::string& name) { program_name() = name; }

std::string pasted_command(const std::string& rest) { return program_name() + " " + rest; }

}  // namespace mileage
