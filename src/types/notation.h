// How people write counts, budgets and durations: 20k, 1.5M, 100..200k, 60hz, 16.7ms, 30s.
// Functions that read throw Error (usage) that names `field`, what was found and what would be accepted.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "mileage/types/knobs.h"

namespace mileage {

/// Largest accepted count.
inline constexpr std::int64_t max_entities = 1'000'000'000;

/// A whole number from 1 to max_entities; k and M are decimal.
std::int64_t parse_count(std::string_view text, std::string_view field);

/// A list `1k,5k,20k`, a span `100..1M`, or a list of both. A span becomes `points` counts at equal ratios, both ends
/// included, rounded to whole numbers; points 0 means about three per decade and at least eight. Ascending, no doubles.
std::vector<std::int64_t> parse_counts(std::string_view text, int points, std::string_view field);

/// A budget in milliseconds: a rate `60hz` (1000/60 ms) or a time `16.7ms`. Above 0.
double parse_budget_ms(std::string_view text, std::string_view field);

/// A duration in seconds: `500ms`, `30s`, `2min`. Above 0.
double parse_duration_s(std::string_view text, std::string_view field);

/// A size in bytes: `64KB`, `8MB`, `4GB` (decimal). Above 0.
double parse_bytes(std::string_view text, std::string_view field);

/// A size as parse_bytes reads it, with up to three digits: 8000000 is "8MB".
std::string bytes_text(double bytes);

/// Three significant digits: 0.0123, 1.23, 12.3, 123, 12,300. 0 below 1e-12, with an exponent from 1e15 on.
std::string three_digits(double value);

/// A share in percent with two significant digits, and no exponent: "0.31 %", "4.2 %", "38 %", "120 %".
std::string percent_text(double share);

/// A ratio, to two digits below 0.1, to two decimals below 10: "0.072x", "0.96x", "1.44x", "12.3x".
std::string ratio_text(double ratio);

/// A count as it can be typed: 870, 12.3k, 1.04M; small ones in full.
std::string count_text(double count);

/// "name=value" as its two parts; nothing where either is missing. The value may hold further "=".
std::optional<std::pair<std::string, std::string>> named_value(std::string_view text);

/// A knob's value as people write it.
std::string text_of(const KnobValue& value);

/// Knobs as people write them, each with a blank before it: " workers=1".
std::string knobs_text(const Knobs& knobs);

/// A share such as `2%` as a ratio in [0, 1].
double parse_share(std::string_view text, std::string_view field);

/// A whole number of either sign; k and M are decimal.
std::int64_t parse_whole(std::string_view text, std::string_view field);

/// A finite decimal number.
double parse_number(std::string_view text, std::string_view field);

/// The parts of a list separated by `separator`, white space around them subtracted; an empty part is kept.
std::vector<std::string> split(std::string_view text, char separator);

/// The name among `known` nearest to `wanted` by edits, or empty when none is near (more than a third of it wrong).
std::string nearest_name(std::string_view wanted, const std::vector<std::string>& known);

}  // namespace mileage
