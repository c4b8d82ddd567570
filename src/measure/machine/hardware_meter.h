// What the processor itself counts while frames run, where the kernel lets a process read it: cycles, instructions,
// cache misses and branch misses of this process, and the energy of the whole package.
#pragma once

#include <cstdint>
#include <filesystem>
#include <functional>
#include <map>
#include <string>
#include <vector>

#include "system/descriptors.h"

namespace mileage {

/// Where counts come from; tests put recorded ones in their place.
struct HardwareSources {
  /// Opens a counter of one of the kernel's generic hardware events (PERF_COUNT_HW_...) over this process and the
  /// threads that it will start: a descriptor, or -1. Reading it gives a count and the times for which it was wanted
  /// and did run, eight bytes each.
  std::function<int(std::uint64_t event)> open;
  /// Folder with a folder for each zone of energy that the kernel has.
  std::filesystem::path energy;
};
HardwareSources machine_sources();

class HardwareMeter {
 public:
  /// Opens what there is. Threads started before are not counted: it belongs before the world is set up.
  explicit HardwareMeter(const HardwareSources& sources);

  /// Nothing is there on most virtual machines.
  bool is_there() const { return !events_.empty() || !zones_.empty(); }
  void begin();
  /// What was counted since begin(), by the names of counters: "cycles", "instructions", "cache misses", "branch
  /// misses" (user mode alone), and "joules" of all packages together, other programs included. An event that shared
  /// its counter with others is scaled to the whole time; one that never ran is excluded.
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
    double range = 0;  ///< Beyond it the zone begins at 0 again.
    double before = 0;
  };
  static Reading read(const Event& event);

  std::vector<Event> events_;
  std::vector<Zone> zones_;
};

}  // namespace mileage
