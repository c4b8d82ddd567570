// How bundled scenarios declare implementations.
#pragma once

#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "mileage/types/catalogue.h"

namespace mileage::festival {

Build festival_build();

/// Knobs workers and batch.
std::vector<Knob> job_knobs(const char* things, std::int64_t batch);

struct Implementation {
  const char* name;
  const char* note;
  const char* effort;
  std::int64_t lines;  ///< 0 if not counted.
  Factory factory;
  std::vector<Knob> knobs = {};
  bool approximate = false;
  bool may_skip = false;
  std::vector<std::string> stubs = {};  ///< Skippable phases.
};

void add_implementation(Catalogue& catalogue, const std::string& scenario, Implementation one,
                        AvailabilityCheck check_availability = {}, Starter starter = {});

class BundledScenario {
 public:
  /// `expects`: counters per entity.
  BundledScenario(Catalogue& catalogue, const char* name, const char* note, const char* entities,
                  std::vector<Knob> knobs, const char* reference, std::vector<Expectation> expects = {});
  void add(Implementation one) { add_implementation(catalogue_, name_, std::move(one)); }

 private:
  Catalogue& catalogue_;
  std::string name_;
};

}  // namespace mileage::festival
