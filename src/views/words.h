// How numbers are worded: three significant digits, with a unit, as people write them.
#pragma once

#include <string>
#include <vector>

#include "analysis/curves/reading.h"
#include "analysis/evidence/axis.h"
#include "types/notation.h"

namespace mileage {

/// A place by what stands there: "50k lanterns", or "reach 0.5" on an axis that counts nothing.
std::string named_place(double x, const Axis& axis);

/// The unit of a cost per step along the axis: "ns/lantern" where places are whole numbers of things, "ms/unit of
/// reach" otherwise.
std::string each_unit(const Axis& axis);
/// That unit in one millisecond.
double each_factor(const Axis& axis);
/// The number alone, in that unit.
std::string each_number(double ms_each, const Axis& axis);

/// "0.0123 ms".
std::string ms_text(double ms);

/// A time of any size: "48.5 ns", "0.79 us", "12.3 ms".
std::string short_time(double ms);

/// "a", "a and b", "a, b and c".
std::string and_list(const std::vector<std::string>& words);

/// "+-2.1 %": a relative half-width.
std::string precision_text(double half_width);

/// "(1.01M to 1.07M)", or "(no interval)"; an end that is open is worded as "?".
std::string interval_text(const Interval& interval, const Axis& axis);

/// "(0.218 to 0.235)": an interval of a number that is no place; "(no interval)" where an end is open.
std::string range_text(const Interval& interval);
/// "0.227 (0.218 to 0.235)"; the number alone where an end is open.
std::string with_range(double value, const Interval& interval);

/// "16.7 ms (60 Hz)", the time alone where that is no whole rate; "11.7 ms (60 Hz less 5.00 ms)" of what a reserve
/// leaves.
std::string budget_text(double budget_ms, double reserve_ms = 0);

/// "At 60 Hz (16.7 ms)"; "Within 7.70 ms" where that is no whole rate; "At 60 Hz with 9.00 ms reserved (7.67 ms left)".
std::string at_budget(double budget_ms, double reserve_ms = 0);

/// A place in full, to be typed back: "65536".
std::string typed_count(double x, const Axis& axis);

std::string machine_text(const Machine& machine);
/// A title, with the conditions that it holds under: "What a frame costs (scatter=1)".
std::string with_conditions(const std::string& title, const std::string& conditions);

/// "33 MiB".
std::string memory_text(double bytes);
/// The program as people call it in commands that they are to paste: "mileage" unless set.
void set_program_name(const std::string& name);
/// A command of it: "./flock cost night.study.jsonl".
std::string pasted_command(const std::string& rest);

/// Number of characters that a UTF-8 text takes on a terminal (one per code point).
std::size_t width_of(const std::string& text);
/// A text without the blanks at its end, and with a line feed.
std::string whole_line(std::string text);

}  // namespace mileage
