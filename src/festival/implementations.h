// A bundled scenario and its implementations, as they are written down.
#pragma once

#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "mileage/types/catalogue.h"

namespace mileage::festival {

/// How the festival's variants were compiled.
Build festival_build();

/// Knobs workers and batch, of this many things each.
std::vector<Knob> job_knobs(const char* things, std::int64_t batch);

struct Implementation {
  const char* name;
  const char* note;
  const char* effort;  ///< What it requires of the programmer.
  std::int64_t lines;  ///< 0 where nobody counted.
  Factory factory;
  std::vector<Knob> knobs = {};
  bool approximate = false;
  bool may_skip = false;
  std::vector<std::string> stubs = {};  ///< Phases that it can skip.
};

void add_implementation(Catalogue& catalogue, const std::string& scenario, Implementation one,
                        AvailabilityCheck check_availability = {}, Starter starter = {});

/// Adds a scenario of the festival's build, and then its implementations.
class BundledScenario {
 public:
  /// `expects`: counters whose amounts per entity are known.
  BundledScenario(Catalogue& catalogue, const char* name, const char* note, const char* entities,
                  std::vector<Knob> knobs, const char* reference, std::vector<Expectation> expects = {});
  void add(Implementation one) { add_implementation(catalogue_, name_, std::move(one)); }

 private:
  Catalogue& catalogue_;
  std::string name_;
};

}  // namespace mileage::festival
