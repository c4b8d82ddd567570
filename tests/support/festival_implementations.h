// Festival implementations compared with their references.
#pragma once

#include <map>
#include <memory>
#include <string>
#include <vector>

#include <fmt/format.h>
#include <gtest/gtest.h>

#include "mileage/festival/festival.h"
#include "support/unmarked.h"

namespace mileage::testing_support {

inline const Catalogue& festival() {
  static const Catalogue catalogue = [] {
    Catalogue made;
    add_festival(made);
    return made;
  }();
  return catalogue;
}

inline mileage::SetUp set_up_of(const std::string& scenario, std::int64_t count,
                                const std::map<std::string, KnobValue>& knobs = {}, std::uint64_t seed = 1) {
  const Scenario& work = *festival().find(scenario);
  mileage::SetUp set_up{count, seed, work.step_s, {}};
  for (const Knob& knob : work.knobs) set_up.knobs.set(knob.name, knob.default_value);
  for (const VariantFacts& facts : work.variants)
    for (const Knob& knob : facts.knobs) set_up.knobs.set(knob.name, knob.default_value);
  for (const auto& [name, value] : knobs) set_up.knobs.set(name, value);
  return set_up;
}

struct Came {
  Outcome outcome;
  std::map<std::string, double> counters;
  std::int64_t alive = 0;
};

/// Some frames, with arrivals in the middle.
inline Came came_to(Variant& variant, const mileage::SetUp& set_up, int frames) {
  CountingSink sink;
  Frame usual(sink), arriving(sink, set_up.arrivals);
  for (int i = 0; i < frames; ++i) variant.run_frame(i == frames / 2 ? arriving : usual);
  return {variant.outcome(), sink.counters, variant.alive()};
}

inline Came came_to(const std::string& scenario, const std::string& variant, const mileage::SetUp& set_up, int frames) {
  return came_to(*(*festival().factory(scenario, variant))(set_up), set_up, frames);
}

inline std::string differing(const Outcome& expected, const Outcome& found) {
  std::string text;
  for (const Disagreement& one : disagreements(expected, found))
    text += fmt::format("{}: {} instead of {}\n", one.quantity, one.found, one.expected);
  return text;
}

/// Difference from the reference; counts must match.
inline std::string differing(const std::string& scenario, const std::string& variant, const mileage::SetUp& set_up,
                             int frames) {
  const Came found = came_to(scenario, variant, set_up, frames);
  EXPECT_EQ(found.alive, set_up.count + set_up.arrivals);
  return differing(came_to(scenario, festival().find(scenario)->reference, set_up, frames).outcome, found.outcome);
}

/// Those that must agree with the reference.
inline std::vector<std::string> ways_to_agree(const std::string& scenario) {
  std::vector<std::string> names;
  const Scenario& work = *festival().find(scenario);
  for (const VariantFacts& facts : work.variants)
    if (!facts.approximate && facts.name != work.reference) names.push_back(facts.name);
  return names;
}

inline double stated(const Outcome& outcome, const std::string& name) {
  for (const Quantity& one : outcome.quantities())
    if (one.name == name) return one.value;
  ADD_FAILURE() << "no quantity " << name;
  return 0;
}

inline std::string test_name(std::string variant) {
  for (char& letter : variant)
    if (letter == '-') letter = '_';
  return variant;
}

}  // namespace mileage::testing_support
