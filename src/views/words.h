// Numbers as text: three significant digits with a unit.
#pragma once

#include <string>
#include <vector>

#include "analysis/curves/reading.h"
#include "analysis/evidence/axis.h"
#include "types/notation.h"

namespace mileage {

/// "50k lanterns", or "reach 0.5".
std::string named_place(double x, const Axis& axis);

/// "ns/lantern" on whole axes, else "ms/unit of reach".
std::string each_unit(const Axis& axis);
/// Of that unit, per ms.
double each_factor(const Axis& axis);
std::string each_number(double ms_each, const Axis& axis);

/// "0.0123 ms".
std::string ms_text(double ms);

/// "48.5 ns", "0.79 us", "12.3 ms".
std::string short_time(double ms);

/// "a, b, 12 more": at most `max`, so that a sentence of thousands of variants stays one.
std::string listed(const std::vector<std::string>& words, const char* between = ", ", std::size_t max = 8);
/// "a, b and c"; "a, b and 12 more".
std::string and_list(const std::vector<std::string>& words, std::size_t max = 8);

/// "+-2.1 %".
std::string precision_text(double half_width);

/// "(1.01M to 1.07M)", "(no interval)"; an open end is "?".
std::string interval_text(const Interval& interval, const Axis& axis);

/// "(0.218 to 0.235)"; "(no interval)" if an end is open.
std::string range_text(const Interval& interval);
/// "0.227 (0.218 to 0.235)", or the number.
std::string with_range(double value, const Interval& interval);

/// "16.7 ms (60 Hz)", "11.7 ms (60 Hz less 5.00 ms)".
std::string budget_text(double budget_ms, double reserve_ms = 0);

/// "At 60 Hz (16.7 ms)"; "Within 7.70 ms"; "At 60 Hz with 9.00 ms reserved (7.67 ms left)".
std::string at_budget(double budget_ms, double reserve_ms = 0);

/// To be typed back: "65536".
std::string typed_count(double x, const Axis& axis);

std::string machine_text(const Machine& machine);
/// "What a frame costs (scatter=1)".
std::string with_conditions(const std::string& title, const std::string& conditions);

/// "33 MiB".
std::string memory_text(double bytes);
/// For commands to paste; "mileage" by default.
void set_program_name(const std::string& name);
/// "./flock cost night.study.jsonl".
std::string pasted_command(const std::string& rest);

/// Code points of a UTF-8 text.
std::size_t width_of(const std::string& text);
/// Without trailing blanks, with a line feed.
std::string whole_line(std::string text);

}  // namespace mileage
