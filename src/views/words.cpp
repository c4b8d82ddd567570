#include "views/words.h"

#include <algorithm>
#include <cmath>
#include <string>

#include <fmt/format.h>

#include "types/text.h"

namespace mileage {

std::size_t width_of(const std::string& text) {
  return static_cast<std::size_t>(
      std::count_if(text.begin(), text.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0) != 0x80; }));
}

std::string whole_line(std::string text) {
  text.erase(text.find_last_not_of(' ') + 1);
  return text + "\n";
}

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

std::string each_unit(const Axis& axis) { return (axis.is_whole ? "ns/" : "ms/") + axis.thing; }

std::string short_time(double ms) {
  const double size = std::fabs(ms);
  if (size >= 0.9995) return three_digits(ms) + " ms";
  return size >= 0.9995e-3 ? three_digits(ms * 1e3) + " us" : three_digits(ms * 1e6) + " ns";
}

namespace {

std::vector<std::string> first_of(const std::vector<std::string>& words, std::size_t max) {
  if (words.size() <= max) return words;
  std::vector<std::string> first(words.begin(), words.begin() + static_cast<std::ptrdiff_t>(max));
  first.push_back(fmt::format("{} more", words.size() - max));
  return first;
}

}  // namespace

std::string listed(const std::vector<std::string>& words, const char* between, std::size_t max) {
  return fmt::format("{}", fmt::join(first_of(words, max), between));
}

std::string and_list(const std::vector<std::string>& words, std::size_t max) {
  std::vector<std::string> first = first_of(words, max);
  if (first.size() < 2) return listed(first);
  const std::string last = first.back();
  first.pop_back();
  return fmt::format("{} and {}", fmt::join(first, ", "), last);
}

std::string ms_text(double ms) { return three_digits(ms) + " ms"; }

std::string precision_text(double half_width) { return "+-" + percent_text(half_width); }

std::string interval_text(const Interval& interval, const Axis& axis) {
  if (!interval.low && !interval.high) return "(no interval)";
  if (!interval.high) return fmt::format("(above {})", place_text(*interval.low, axis));
  if (!interval.low) return fmt::format("(below {})", place_text(*interval.high, axis));
  return fmt::format("({} to {})", place_text(*interval.low, axis), place_text(*interval.high, axis));
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

/// "60 Hz", or empty.
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

std::string at_budget(double budget_ms, double reserve_ms) {
  const std::string rate = whole_rate(budget_ms + reserve_ms);
  const std::string whole = rate.empty() ? "Within " + ms_text(budget_ms + reserve_ms) : "At " + rate;
  if (reserve_ms > 0)
    return fmt::format("{} with {} reserved ({} left)", whole, ms_text(reserve_ms), ms_text(budget_ms));
  return rate.empty() ? whole : fmt::format("{} ({})", whole, ms_text(budget_ms));
}

std::string typed_count(double x, const Axis& axis) {
  return axis.is_whole ? fmt::format("{:.0f}", x) : three_digits(x);
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
