// How numbers are worded: three significant digits, with a unit, as people write them.
#pragma once

#include <string>

#include "analysis/curves/reading.h"
#include "analysis/evidence/axis.h"
#include "types/notation.h"

namespace mileage {

/// A place by what stands there: "50k lanterns", or "reach 0.5" on an axis that counts nothing.
std::string named_place(double x, const Axis& axis);

/// A cost for each step along the axis: "46.2 ns a lantern" where places are whole numbers of things, "15 ms a unit of
/// reach" otherwise; and its unit alone.
std::string each_text(double ms_each, const Axis& axis);
std::string each_unit(const Axis& axis);
/// That unit in one millisecond.
double each_factor(const Axis& axis);
/// The number alone, in that unit.
std::string each_number(double ms_each, const Axis& axis);

/// "0.0123 ms".
std::string ms_text(double ms);

/// "+-2.1 %": a relative half-width.
std::string precision_text(double half_width);

/// "(1.01M to 1.07M)", or "(no interval)"; an end that is open is worded as "?".
std::string interval_text(const Interval& interval, const Axis& axis);

/// The same, or "none: " with the reason why there is none.
std::string interval_or_reason(const Interval& interval, const Axis& axis, const std::string& missing);

/// "(0.218 to 0.235)": an interval of a number that is no place; "(no interval)" where an end is open.
std::string range_text(const Interval& interval);
/// "0.227 (0.218 to 0.235)"; the number alone where an end is open.
std::string with_range(double value, const Interval& interval);

/// "16.7 ms (60 Hz)", the time alone where that is no whole rate; "11.7 ms (60 Hz less 5.00 ms)" of what a reserve
/// leaves.
std::string budget_text(double budget_ms, double reserve_ms = 0);

/// "at 60 Hz" where the budget is that of a usual rate, "within 7.7 ms" otherwise.
std::string rate_text(double budget_ms);

/// "from counts around it", "along the law", "between points", "beyond the measured range".
const char* source_text(Source source);

std::string machine_text(const Machine& machine);
/// A title, with the conditions that it holds under: "What a frame costs (scatter=1)".
std::string with_conditions(const std::string& title, const std::string& conditions);

/// "33 MiB".
std::string memory_text(double bytes);
/// The program as people call it in commands that they are to paste: "mileage" unless set.
void set_program_name(const std::string& name);
/// A command of it: "./flock cost night.study.jsonl".
std::string pasted_command(const std::string& rest);

}  // namespace mileage
