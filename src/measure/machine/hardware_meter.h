// Hardware counters of this process (cycles, instructions, cache and branch misses) and energy of the package, where
// the kernel allows.
#pragma once

#include <cstdint>
#include <filesystem>
#include <functional>
#include <map>
#include <string>
#include <vector>

#include "system/descriptors.h"

namespace mileage {

/// Replaced by recorded values in tests.
struct HardwareSources {
  /// Opens a PERF_COUNT_HW_ event over this process and future threads: a descriptor, or -1. A read gives count, time
  /// wanted and time running.
  std::function<int(std::uint64_t event)> open;
  /// One folder per energy zone of the kernel.
  std::filesystem::path energy;
};
HardwareSources machine_sources();

class HardwareMeter {
 public:
  /// Before the world is set up: existing threads are not counted.
  explicit HardwareMeter(const HardwareSources& sources);

  /// False on most virtual machines.
  bool is_there() const { return !events_.empty() || !zones_.empty(); }
  void begin();
  /// "cycles", "instructions", "cache misses", "branch misses" (user mode), "joules" (all packages, other programs
  /// included). Shared events are scaled to the whole time; those that never ran are omitted.
  std::map<std::string, double> since_begin() const;

 private:
  struct Reading {
    double count = 0;
    double wanted_ns = 0;
    double ran_ns = 0;
  };
  struct Event {
    const char* name;
    Descriptor counter;
    Reading before;
  };
  struct Zone {
    std::filesystem::path microjoules;
    double range = 0;  ///< Counter wraps around here.
    double before = 0;
  };
  static Reading read(const Event& event);

  std::vector<Event> events_;
  std::vector<Zone> zones_;
};

}  // namespace mileage
