#include "measure/machine/hardware_meter.h"

#include <linux/perf_event.h>
#include <sys/syscall.h>
#include <unistd.h>

#include <algorithm>
#include <fstream>
#include <utility>

namespace mileage {
namespace {

constexpr std::pair<const char*, std::uint64_t> events[] = {{"cycles", PERF_COUNT_HW_CPU_CYCLES},
                                                            {"instructions", PERF_COUNT_HW_INSTRUCTIONS},
                                                            {"cache misses", PERF_COUNT_HW_CACHE_MISSES},
                                                            {"branch misses", PERF_COUNT_HW_BRANCH_MISSES}};

int open_event(std::uint64_t event) {
  perf_event_attr wanted{};
  wanted.type = PERF_TYPE_HARDWARE;
  wanted.size = sizeof wanted;
  wanted.config = event;
  wanted.inherit = 1;
  wanted.exclude_kernel = 1;
  wanted.exclude_hv = 1;
  wanted.read_format = PERF_FORMAT_TOTAL_TIME_ENABLED | PERF_FORMAT_TOTAL_TIME_RUNNING;
  return static_cast<int>(::syscall(SYS_perf_event_open, &wanted, 0, -1, -1, PERF_FLAG_FD_CLOEXEC));
}

/// Negative if unreadable.
double number_in(const std::filesystem::path& file) {
  std::ifstream stream(file);
  double number = -1;
  stream >> number;
  return stream ? number : -1;
}

/// "package-0", none of its parts.
bool is_package(const std::filesystem::path& zone) {
  std::ifstream stream(zone / "name");
  std::string name;
  std::getline(stream, name);
  return name.rfind("package", 0) == 0;
}

}  // namespace

HardwareSources machine_sources() { return {open_event, "/sys/class/powercap"}; }

HardwareMeter::HardwareMeter(const HardwareSources& sources) {
  for (const auto& [name, event] : events)
    if (Descriptor counter(sources.open(event)); counter.is_open()) events_.push_back({name, std::move(counter), {}});
  std::error_code none;
  for (const auto& entry : std::filesystem::directory_iterator(sources.energy, none)) {
    const Zone zone{entry.path() / "energy_uj", number_in(entry.path() / "max_energy_range_uj"), 0};
    if (is_package(entry.path()) && number_in(zone.microjoules) >= 0) zones_.push_back(zone);
  }
}

HardwareMeter::Reading HardwareMeter::read(const Event& event) {
  std::uint64_t words[3] = {};
  if (::read(event.counter.number(), words, sizeof words) != static_cast<ssize_t>(sizeof words)) return {};
  return {static_cast<double>(words[0]), static_cast<double>(words[1]), static_cast<double>(words[2])};
}

void HardwareMeter::begin() {
  for (Event& event : events_) event.before = read(event);
  for (Zone& zone : zones_) zone.before = number_in(zone.microjoules);
}

std::map<std::string, double> HardwareMeter::since_begin() const {
  std::map<std::string, double> counts;
  for (const Event& event : events_) {
    const Reading now = read(event);
    const double ran_ns = now.ran_ns - event.before.ran_ns;
    if (ran_ns > 0)
      counts[event.name] = (now.count - event.before.count) * (now.wanted_ns - event.before.wanted_ns) / ran_ns;
  }
  for (const Zone& zone : zones_) {
    const double used = number_in(zone.microjoules) - zone.before;
    counts["joules"] += (used < 0 && zone.range > 0 ? used + zone.range : std::max(used, 0.0)) * 1e-6;
  }
  return counts;
}

}  // namespace mileage
