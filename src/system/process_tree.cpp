#include "system/process_tree.h"

#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <string>

#include <fmt/format.h>

namespace mileage {
namespace {

double resident_bytes_of(pid_t process) {
  std::ifstream stream(fmt::format("/proc/{}/statm", process));
  double all_pages = 0;
  double resident_pages = 0;
  stream >> all_pages >> resident_pages;
  return resident_pages * static_cast<double>(::sysconf(_SC_PAGESIZE));
}

/// Shared memory is divided among its processes.
double proportional_bytes_of(pid_t process) {
  std::ifstream stream(fmt::format("/proc/{}/smaps_rollup", process));
  for (std::string line; std::getline(stream, line);)
    if (line.rfind("Pss:", 0) == 0) return std::stod(line.substr(4)) * 1024;
  return resident_bytes_of(process);
}

void add_below(pid_t process, std::set<pid_t>& all) {
  for (const pid_t child : children_of(process))
    if (all.insert(child).second) add_below(child, all);
}

}  // namespace

std::set<pid_t> children_of(pid_t process) {
  std::set<pid_t> children;
  std::error_code no_error;
  for (const auto& thread : std::filesystem::directory_iterator(fmt::format("/proc/{}/task", process), no_error)) {
    std::ifstream listed(thread.path() / "children");
    for (pid_t child = 0; listed >> child;) children.insert(child);
  }
  return children;
}

double resident_bytes_below(pid_t process, double exact_above_bytes) {
  std::set<pid_t> all;
  add_below(process, all);
  double sum = 0;
  for (const pid_t one : all) sum += resident_bytes_of(one);
  if (all.size() < 2 || sum <= exact_above_bytes) return sum;
  sum = 0;
  for (const pid_t one : all) sum += proportional_bytes_of(one);
  return sum;
}

}  // namespace mileage
