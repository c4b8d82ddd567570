// Counts, budgets and durations: 20k, 1.5M, 100..200k, 60hz, 16.7ms, 30s. Parsers throw Error (usage) for `field`.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "mileage/types/knobs.h"

namespace mileage {

inline constexpr std::int64_t max_entities = 1'000'000'000;

/// 1 to max_entities; k and M are decimal.
std::int64_t parse_count(std::string_view text, std::string_view field);

/// `1k,5k,20k`, a span `100..1M`, or both. A span has `points` rounded counts at equal ratios, ends included; 0: three
/// per decade, at least eight. Ascending, unique.
std::vector<std::int64_t> parse_counts(std::string_view text, int points, std::string_view field);

/// `60hz` or `16.7ms`; > 0.
double parse_budget_ms(std::string_view text, std::string_view field);

/// `500ms`, `30s`, `2min`; > 0.
double parse_duration_s(std::string_view text, std::string_view field);

/// `64KB`, `8MB`, `4GB` (decimal); > 0.
double parse_bytes(std::string_view text, std::string_view field);

/// 8000000 is "8MB"; three digits.
std::string bytes_text(double bytes);

/// 0.0123, 1.23, 12.3, 123, 12,300. 0 below 1e-12, exponent from 1e15.
std::string three_digits(double value);

/// "0.31 %", "4.2 %", "38 %", "120 %".
std::string percent_text(double share);

/// "0.072x", "0.96x", "1.44x", "12.3x".
std::string ratio_text(double ratio);

/// 870, 12.3k, 1.04M; can be typed.
std::string count_text(double count);

/// Nothing unless both parts exist. The value may contain "=".
std::optional<std::pair<std::string, std::string>> named_value(std::string_view text);

std::string text_of(const KnobValue& value);

/// " workers=1".
std::string knobs_text(const Knobs& knobs);

/// `2%` as a ratio in [0, 1].
double parse_share(std::string_view text, std::string_view field);

/// Signed; k and M are decimal.
std::int64_t parse_whole(std::string_view text, std::string_view field);

/// Finite.
double parse_number(std::string_view text, std::string_view field);

/// Trimmed; keeps empty parts.
std::vector<std::string> split(std::string_view text, char separator);

/// By edit distance; empty if over a third differs.
std::string nearest_name(std::string_view wanted, const std::vector<std::string>& known);

}  // namespace mileage
