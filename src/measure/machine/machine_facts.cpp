#include "measure/machine/machine_facts.h"

#include <sys/utsname.h>
#include <unistd.h>

#include <fstream>
#include <new>
#include <string>
#include <thread>
#include <utility>

#include <fmt/format.h>
#include <hwloc.h>

#include "measure/machine/process_facts.h"

namespace mileage {
namespace {

std::string first_line(const std::string& path) {
  std::ifstream stream(path);
  std::string line;
  std::getline(stream, line);
  return line;
}

class Topology {
 public:
  Topology() {
    if (hwloc_topology_init(&topology_) != 0) throw std::bad_alloc();
    is_loaded_ = hwloc_topology_load(topology_) == 0;
  }
  ~Topology() { hwloc_topology_destroy(topology_); }
  Topology(const Topology&) = delete;
  Topology& operator=(const Topology&) = delete;

  std::string processor() const {
    const hwloc_obj_t package = first(HWLOC_OBJ_PACKAGE);
    const char* model = package != nullptr ? hwloc_obj_get_info_by_name(package, "CPUModel") : nullptr;
    return model != nullptr ? model : "";
  }
  /// Data and unified caches of one core.
  std::map<std::string, double> caches() const {
    std::map<std::string, double> sizes;
    for (const auto& [name, type] : {std::pair{"L1", HWLOC_OBJ_L1CACHE},
                                     {"L2", HWLOC_OBJ_L2CACHE},
                                     {"L3", HWLOC_OBJ_L3CACHE},
                                     {"L4", HWLOC_OBJ_L4CACHE}})
      if (const hwloc_obj_t cache = first(type)) sizes[name] = static_cast<double>(cache->attr->cache.size);
    return sizes;
  }

 private:
  hwloc_obj_t first(hwloc_obj_type_t type) const {
    return is_loaded_ ? hwloc_get_obj_by_type(topology_, type, 0) : nullptr;
  }

  hwloc_topology_t topology_ = nullptr;
  bool is_loaded_ = false;
};

/// hwloc misses memory that was added to a running virtual machine.
double memory_bytes() {
  return static_cast<double>(::sysconf(_SC_PHYS_PAGES)) * static_cast<double>(::sysconf(_SC_PAGESIZE));
}

/// Without a local build's suffix, which may name its maker.
std::string kernel() {
  utsname names{};
  if (::uname(&names) != 0) return {};
  const std::string release = names.release;
  return fmt::format("{} {}", names.sysname, release.substr(0, release.find('-')));
}

}  // namespace

Machine machine_facts() {
  Machine machine;
  const Topology topology;
  machine.processor = topology.processor();
  machine.cores = static_cast<int>(std::thread::hardware_concurrency());
  machine.cache_bytes = topology.caches();
  machine.memory_bytes = memory_bytes();
  machine.system = kernel();
  machine.governor = first_line("/sys/devices/system/cpu/cpu0/cpufreq/scaling_governor");
  machine.debugger = is_traced();
  return machine;
}

}  // namespace mileage
