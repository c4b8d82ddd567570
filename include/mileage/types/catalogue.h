// Catalogue: the scenarios and variants that a program offers for measuring.
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

/// How the code of a scenario was compiled, as far as it is known.
struct Build {
  std::string compiler;    ///< Such as "12.2.0"; empty when unknown.
  std::string flags;       ///< Empty when unknown.
  bool known = false;      ///< Whether `optimized` says anything.
  bool optimized = false;  ///< False for a build whose times mean nothing.
};

/// Tells of the file that calls it: it is `static`, so that each file that includes this header has its own.
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

/// What is known of a variant without building it.
struct VariantFacts {
  std::string name;              ///< Lower case, no spaces; unique within its scenario.
  std::string note;              ///< One line: how it does the work.
  std::vector<Knob> knobs;       ///< Settings that only this variant has, such as workers; choices of the programmer.
  std::string unavailable;       ///< Why it cannot run on this machine; empty when it can.
  std::string device;            ///< Graphics device that it runs on, with its driver; empty for the processor.
  bool software_device = false;  ///< Whether that device is the processor's cores in disguise.
  bool approximate = false;      ///< Its outcome may differ: its measured error then is next to its cost.
  bool may_skip = false;         ///< It may leave entities alone in a frame, and so be faster than touching them all.
  std::string effort;            ///< One line: what it requires of the programmer; empty when nobody said.
  std::int64_t lines = 0;        ///< Its size in lines of code, as far as they are its own; 0 when nobody counted.
  /// Phases that it skips of its frames where SetUp::skipped_phase names them, so that a frame without one can be
  /// measured: what is left is the floor under whatever that phase could be made to cost.
  std::vector<std::string> stubs;
};

/// What a counter is to come to, for each entity and frame.
struct Expectation {
  std::string counter;    ///< Such as "updates".
  double per_entity = 1;  ///< > 0.
};

/// The work itself: what must happen to every entity each frame.
struct Scenario {
  std::string name;                    ///< Lower case, no spaces; unique within the catalogue.
  std::string note;                    ///< One line: what the work is.
  std::string entities = "entities";   ///< What is counted, in the plural: "lanterns".
  std::string entity = "";             ///< One of them: "lantern"; empty where the plural tells it.
  std::vector<Knob> knobs;             ///< Conditions of the work, such as density; the same for all variants compared.
  double step_s = 1.0 / 60.0;          ///< Simulated seconds per frame; > 0.
  std::string reference;               ///< Variant whose outcome counts as correct; empty means the first one.
  Build build;                         ///< Give build_of_this_file() in the file that holds the variants.
  bool prepares = false;               ///< Set by Catalogue::prepare.
  std::vector<Expectation> expects;    ///< Counters whose amounts are known beforehand: where they differ, it is said.
  std::vector<VariantFacts> variants;  ///< Filled by Catalogue::add_variant, simplest first by convention.

  const VariantFacts* find(std::string_view variant) const;
};

/// Fills in what is known only on the machine itself: `unavailable`, `device`, `software_device`. May take its time.
using AvailabilityCheck = std::function<void(VariantFacts&)>;

/// Starts what a variant needs from the system before it has a world, such as the driver of a device, and lets go of it
/// again. A run calls it before setting up: its time and memory stand apart from the world's. May throw, which fails
/// the run.
using Starter = std::function<void()>;

/// Loads what the worlds of a scenario share, such as files of a level: it may take long, and leaves what it loaded
/// where factories find it. It is called once in a process that makes runs. Mileage starts one such process for a
/// study, and makes every run in a copy of it (fork): so it starts no thread, opens no device, and leaves nothing
/// behind that two processes cannot share, such as a position in an open file. What it loaded lies at the same
/// addresses in all runs. May throw, which fails the runs.
using Preparation = std::function<void()>;

/// Scenarios in the order they were added, each with its variants in the order they were added. Adding is done once at
/// the start of a program; afterwards a catalogue is only read, and may be read from several threads.
///
/// A mistake (a name used twice or not plain, a variant of an unknown scenario, a default out of range) is kept instead
/// of thrown, so that registering works in programs without exceptions; the tool and the run report mistakes before
/// anything else.
class Catalogue {
 public:
  void add(Scenario scenario);
  /// Adds a variant to a scenario of this catalogue, also to one that another library added. `check_availability` may
  /// be empty; it is called by scenarios_here() only, never in a run. `starter` may be empty; it is called once in each
  /// run.
  void add_variant(std::string_view scenario, VariantFacts facts, Factory factory,
                   AvailabilityCheck check_availability = {}, Starter starter = {});

  /// Gives a scenario of this catalogue something to prepare, once.
  void prepare(std::string_view scenario, Preparation preparation);

  const std::vector<Scenario>& scenarios() const { return scenarios_; }
  /// The same, with what is known only on this machine.
  std::vector<Scenario> scenarios_here() const;
  const Scenario* find(std::string_view scenario) const;
  /// The factory of a variant, or nullptr when there is none of that name.
  const Factory* factory(std::string_view scenario, std::string_view variant) const;
  /// The starter of a variant, or nullptr when it has none.
  const Starter* starter(std::string_view scenario, std::string_view variant) const;

  /// What a scenario prepares, or nullptr when it has nothing.
  const Preparation* preparation(std::string_view scenario) const;

  /// One line per mistake made while adding; empty when all is well.
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
