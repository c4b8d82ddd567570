// How numbers are worded: three significant digits, with a unit, as people write them.
#pragma once

#include <string>

#include "analysis/findings.h"

namespace mileage {

/// Three significant digits without an exponent: 0.0123, 1.23, 12.3, 123, 12,300.
std::string three_digits(double value);

/// A count as it can be typed: 870, 12.3k, 1.04M; small ones in full.
std::string count_text(double count);

/// A place on the axis: a count for the axis "count", three digits otherwise.
std::string place_text(double x, const std::string& axis);

/// "0.0123 ms".
std::string ms_text(double ms);

/// "+-2.1 %": a relative half-width.
std::string precision_text(double half_width);

/// "(1.01M to 1.07M)", or "(no interval)"; an end that is open is worded as "?".
std::string interval_text(const Interval& interval, const std::string& axis);

/// "16.7 ms (60 frames a second)".
std::string budget_text(double budget_ms);

/// "at 60 Hz" where the budget is that of a usual rate, "within 7.7 ms" otherwise.
std::string rate_text(double budget_ms);

/// A law in words; `one` is one step along the axis: "grows in proportion: 0.012 ms fixed + 61.2 ns a lantern".
std::string law_text(const Law& law, const std::string& one);

/// What changes at a knee: "3.10 times steeper above 41k".
std::string knee_text(const Law& law, std::size_t knee);

/// Why there is no capacity.
const char* no_capacity_text(NoCapacity none);

/// All names of a curve: one, or several that the data cannot tell apart.
std::string laws_text(const std::vector<Law>& names, const std::string& one);

/// Name of a law as it stands in JSON: "constant", "linear", "power".
const char* law_name(LawKind kind);

/// "from counts around it", "along the law", "between points", "beyond the measured range".
const char* source_text(Source source);

/// What is counted along the axis, in the plural: the entities of the scenario, or the name of the knob or counter.
std::string along_axis_text(const Findings& findings);
/// One step along it: "lantern", "unit of work".
std::string one_along_axis(const Findings& findings);

/// "lantern": as the scenario says, or by its plural.
std::string one_entity(const Scenario& scenario);

/// Why no law was tested: "not tested: fewer than three blocks ...".
const char* not_tested_text(NotTested why);

/// "drift.study.jsonl: 6 blocks, 312 visits", and the machine.
std::string evidence_text(const Findings& findings);
/// For every size that was walked between frames, which caches it exceeds: "cold 8MB: walked between frames, outside their
/// time; more than L1 (32 KiB); more than L2 (1 MiB); less than L3 (33 MiB), which stays warm".
std::vector<std::string> cold_lines(const Findings& findings);
std::string machine_text(const Machine& machine);
/// "33 MiB".
std::string memory_text(double bytes);
/// The machine, and how what was measured was built or which commands were measured: a line each. For recordings from elsewhere
/// one line that says that nothing is known of either.
std::vector<std::string> origin_lines(const Head& head);

}  // namespace mileage
