#include "measure/machine/machine_facts.h"

#include <sys/utsname.h>
#include <unistd.h>

#include <fstream>
#include <string>
#include <thread>

#include <fmt/format.h>

#include "measure/machine/process_facts.h"

namespace mileage {
namespace {

std::string first_line(const std::string& path) {
  std::ifstream stream(path);
  std::string line;
  std::getline(stream, line);
  return line;
}

std::string processor_name() {
  std::ifstream stream("/proc/cpuinfo");
  for (std::string line; std::getline(stream, line);) {
    const auto colon = line.find(": ");
    if (line.rfind("model name", 0) == 0 && colon != std::string::npos) return line.substr(colon + 2);
  }
  return {};
}

double bytes_of(const std::string& size) {
  if (size.empty()) return 0;
  const double number = std::stod(size);
  return size.back() == 'K' ? number * 1024 : size.back() == 'M' ? number * 1024 * 1024 : number;
}

std::map<std::string, double> caches() {
  std::map<std::string, double> sizes;
  for (int index = 0; index < 8; ++index) {
    const std::string folder = fmt::format("/sys/devices/system/cpu/cpu0/cache/index{}/", index);
    const std::string level = first_line(folder + "level");
    if (level.empty() || first_line(folder + "type") == "Instruction") continue;
    sizes["L" + level] = bytes_of(first_line(folder + "size"));
  }
  return sizes;
}

/// Name and version numbers; what a local build adds behind a dash may name its maker and is left out.
std::string kernel() {
  utsname names{};
  if (::uname(&names) != 0) return {};
  const std::string release = names.release;
  return fmt::format("{} {}", names.sysname, release.substr(0, release.find('-')));
}

}  // namespace

Machine machine_facts() {
  Machine machine;
  machine.processor = processor_name();
  machine.cores = static_cast<int>(std::thread::hardware_concurrency());
  machine.cache_bytes = caches();
  machine.memory_bytes = static_cast<double>(::sysconf(_SC_PHYS_PAGES)) * static_cast<double>(::sysconf(_SC_PAGESIZE));
  machine.system = kernel();
  machine.governor = first_line("/sys/devices/system/cpu/cpu0/cpufreq/scaling_governor");
  machine.debugger = is_traced();
  return machine;
}

}  // namespace mileage
