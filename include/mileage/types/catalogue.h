// Catalogue: scenarios and variants that a program offers.
#pragma once

#include <cstdint>
#include <functional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "mileage/types/knobs.h"
#include "mileage/types/variant.h"

namespace mileage {

struct Build {
  std::string compiler;    ///< Such as "12.2.0"; may be empty.
  std::string flags;       ///< May be empty.
  bool known = false;      ///< Whether `optimized` is known.
  bool optimized = false;  ///< Times of unoptimized builds mean little.
};

/// `static`, so that it describes the file that includes this header.
static inline Build build_of_this_file() {
  Build build;
#if defined(__VERSION__)
  build.compiler = __VERSION__;
#endif
#if defined(__GNUC__) || defined(__clang__)
  build.known = true;
#endif
#if defined(__OPTIMIZE__)
  build.optimized = true;
#endif
  return build;
}

struct VariantFacts {
  std::string name;              ///< Lower case, no spaces; unique in its scenario.
  std::string note;              ///< One line: how it does the work.
  std::vector<Knob> knobs;       ///< Of this variant only, such as workers.
  std::string unavailable;       ///< Why it cannot run here; empty if it can.
  std::string device;            ///< With driver; empty for the processor.
  bool software_device = false;  ///< The device is emulated on the processor.
  bool approximate = false;      ///< May deviate; the error is reported with the cost.
  bool may_skip = false;         ///< May skip entities, and so be faster than touching all.
  std::string effort;            ///< One line: what it requires of the programmer; may be empty.
  std::int64_t lines = 0;        ///< Own lines of code; 0 if not counted.
  /// Phases that it can skip (SetUp::skipped_phase), to measure the frame without them.
  std::vector<std::string> stubs;
};

/// Expected counter per entity and frame.
struct Expectation {
  std::string counter;    ///< Such as "updates".
  double per_entity = 1;  ///< > 0.
};

/// What must happen to every entity each frame.
struct Scenario {
  std::string name;                    ///< Lower case, no spaces; unique in the catalogue.
  std::string note;                    ///< One line.
  std::string entities = "entities";   ///< Plural: "lanterns".
  std::string entity = "";             ///< Singular; empty: derived.
  std::vector<Knob> knobs;             ///< Conditions, equal for all variants.
  double step_s = 1.0 / 60.0;          ///< Simulated seconds per frame; > 0.
  std::string reference;               ///< Variant with the correct outcome; empty: the first.
  Build build;                         ///< build_of_this_file() of the variants' file.
  bool prepares = false;               ///< Set by Catalogue::prepare.
  std::vector<Expectation> expects;    ///< Deviations are reported.
  std::vector<VariantFacts> variants;  ///< Filled by Catalogue::add_variant; simplest first.

  const VariantFacts* find(std::string_view variant) const;
};

/// Sets `unavailable`, `device`, `software_device` on the machine. May be slow.
using AvailabilityCheck = std::function<void(VariantFacts&)>;

/// Starts and releases what a variant needs before its world, such as a device driver. Called in each run before
/// set-up, timed separately. May throw, which fails the run.
using Starter = std::function<void()>;

/// Loads what a scenario's worlds share, such as level files. Called once in a process whose forks make all runs: start
/// no threads, open no devices, keep no shared file positions. Addresses are equal in all runs. May throw, which fails
/// the runs.
using Preparation = std::function<void()>;

/// Filled once at program start, then read-only and thread-safe. Mistakes (duplicate or invalid names, unknown
/// scenarios, defaults out of range) are collected instead of thrown and reported first.
class Catalogue {
 public:
  void add(Scenario scenario);
  /// Also for scenarios of other libraries. `check_availability` may be empty; called by scenarios_here() only.
  /// `starter` may be empty.
  void add_variant(std::string_view scenario, VariantFacts facts, Factory factory,
                   AvailabilityCheck check_availability = {}, Starter starter = {});

  /// Once per scenario.
  void prepare(std::string_view scenario, Preparation preparation);

  const std::vector<Scenario>& scenarios() const { return scenarios_; }
  /// With facts of this machine.
  std::vector<Scenario> scenarios_here() const;
  const Scenario* find(std::string_view scenario) const;
  /// nullptr if unknown.
  const Factory* factory(std::string_view scenario, std::string_view variant) const;
  /// nullptr if none.
  const Starter* starter(std::string_view scenario, std::string_view variant) const;

  /// nullptr if none.
  const Preparation* preparation(std::string_view scenario) const;

  /// One line each.
  const std::vector<std::string>& mistakes() const { return mistakes_; }

 private:
  struct Recipe {
    std::string scenario;
    std::string variant;
    Factory factory;
    AvailabilityCheck check_availability;
    Starter starter;
  };

  std::vector<Scenario> scenarios_;
  std::vector<Recipe> recipes_;
  std::vector<std::pair<std::string, Preparation>> preparations_;
  std::vector<std::string> mistakes_;
};

}  // namespace mileage
