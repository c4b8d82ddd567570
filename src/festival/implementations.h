// A way of a scenario, as the bundled ones are written down.
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
  const char* effort;  ///< Of the programmer.
  std::int64_t lines;  ///< 0 where nobody counted.
  Factory factory;
  std::vector<Knob> knobs = {};
  bool approximate = false;
  bool may_skip = false;
  std::vector<std::string> stubs = {};  ///< Phases that it can skip.
};

inline void add_implementation(Catalogue& catalogue, const char* scenario, Implementation way,
                               AvailabilityCheck check_availability = {}, Starter starter = {}) {
  VariantFacts facts;
  facts.name = way.name;
  facts.note = way.note;
  facts.effort = way.effort;
  facts.lines = way.lines;
  facts.knobs = std::move(way.knobs);
  facts.approximate = way.approximate;
  facts.may_skip = way.may_skip;
  facts.stubs = std::move(way.stubs);
  catalogue.add_variant(scenario, std::move(facts), std::move(way.factory), std::move(check_availability),
                        std::move(starter));
}

}  // namespace mileage::festival
