#include "analysis/evidence/selection.h"

#include <algorithm>
#include <iterator>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/evidence/labels.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

bool is_value(const KnobValue& value, const std::string& text) {
  const auto* number = std::get_if<double>(&value);
  if (number == nullptr) return std::get<std::string>(value) == text;
  const bool is_scaled = text.find_first_of("kM") != std::string::npos;
  return (is_scaled ? static_cast<double>(parse_whole(text, "knob")) : parse_number(text, "knob")) == *number;
}

void check_names(const std::vector<Series>& all, const std::vector<std::string>& names, const char* field) {
  for (const std::string& name : names) {
    if (std::any_of(all.begin(), all.end(), [&](const Series& one) { return is_called(one, name); })) continue;
    std::vector<std::string> known;
    for (const Series& one : all)
      if (std::find(known.begin(), known.end(), one.variant) == known.end()) known.push_back(one.variant);
    throw Error({.kind = FaultKind::usage,
                 .field = field,
                 .problem = "no such variant in the study",
                 .found = name,
                 .accepted = fmt::format("{}", fmt::join(known, ", "))});
  }
}

void check_knobs(const std::vector<Series>& all, const Selection& selection) {
  for (const auto& [name, values] : selection.knobs)
    for (const std::string& text : values) {
      std::vector<std::string> known;
      const bool is_there = std::any_of(all.begin(), all.end(), [&, &name = name](const Series& one) {
        const auto value = one.knobs.values().find(name);
        if (value == one.knobs.values().end()) return false;
        if (const std::string here = text_of(value->second); std::find(known.begin(), known.end(), here) == known.end())
          known.push_back(here);
        return is_value(value->second, text);
      });
      if (!is_there)
        throw Error({.kind = FaultKind::usage,
                     .field = "knob",
                     .problem = known.empty() ? "no variant of the study has this knob" : "not measured at this value",
                     .found = name + "=" + text,
                     .accepted = fmt::format("{}", fmt::join(known, ", "))});
    }
}

}  // namespace

bool Selection::holds(const Series& series) const {
  const auto is_named = [&](const std::string& name) { return is_called(series, name); };
  if (!variants.empty() && std::none_of(variants.begin(), variants.end(), is_named)) return false;
  return std::all_of(knobs.begin(), knobs.end(), [&](const auto& knob) {
    const auto value = series.knobs.values().find(knob.first);
    return value == series.knobs.values().end() ||
           std::any_of(knob.second.begin(), knob.second.end(),
                       [&](const std::string& text) { return is_value(value->second, text); });
  });
}

std::vector<Series> select_series(const std::vector<Series>& all, const Selection& selection) {
  check_names(all, selection.variants, "variants");
  check_knobs(all, selection);
  std::vector<Series> selected;
  std::copy_if(all.begin(), all.end(), std::back_inserter(selected),
               [&](const Series& one) { return selection.holds(one); });
  if (selection.baseline.empty()) return selected;
  check_names(selected, {selection.baseline}, "baseline");
  std::stable_partition(selected.begin(), selected.end(),
                        [&](const Series& one) { return is_called(one, selection.baseline); });
  return selected;
}

}  // namespace mileage
