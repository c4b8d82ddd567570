#include "measure/machine/process_facts.h"

#include <algorithm>
#include <cstdlib>
#include <utility>

#include <sys/resource.h>
#include <time.h>
#include <unistd.h>

#include <fstream>
#include <string>
#include <thread>

namespace mileage {
namespace {

std::int64_t clock_ns(clockid_t clock) {
  timespec now{};
  ::clock_gettime(clock, &now);
  return std::int64_t{now.tv_sec} * 1'000'000'000 + now.tv_nsec;
}

/// "some avg10=0.00 avg60=0.00 avg300=0.00 total=5372631246", in us; not on every system.
std::optional<double> waiting_s() {
  std::ifstream stream("/proc/pressure/cpu");
  for (std::string word; stream >> word;)
    if (word.rfind("total=", 0) == 0) return std::atof(word.c_str() + 6) * 1e-6;
  return std::nullopt;
}

}  // namespace

std::int64_t thread_busy_ns() { return clock_ns(CLOCK_THREAD_CPUTIME_ID); }

std::int64_t processor_ns() { return clock_ns(CLOCK_PROCESS_CPUTIME_ID); }

SpentReading read_spent() {
  rusage usage{};
  ::getrusage(RUSAGE_THREAD, &usage);
  const std::int64_t kernel_us = std::int64_t{usage.ru_stime.tv_sec} * 1'000'000 + usage.ru_stime.tv_usec;
  return {thread_busy_ns(), processor_ns(), kernel_us * 1000, usage.ru_minflt + usage.ru_majflt, usage.ru_nvcsw};
}

double resident_bytes() {
  std::ifstream stream("/proc/self/statm");
  double all_pages = 0;
  double resident_pages = 0;
  stream >> all_pages >> resident_pages;
  return resident_pages * static_cast<double>(::sysconf(_SC_PAGESIZE));
}

double peak_resident_bytes() {
  rusage usage{};
  ::getrusage(RUSAGE_SELF, &usage);
  return static_cast<double>(usage.ru_maxrss) * 1024;
}

LoadReading read_load() {
  std::ifstream stream("/proc/stat");
  std::string cpu;
  double user = 0, nice = 0, system = 0, idle = 0, iowait = 0, irq = 0, softirq = 0, steal = 0;
  stream >> cpu >> user >> nice >> system >> idle >> iowait >> irq >> softirq >> steal;
  const double ticks = static_cast<double>(::sysconf(_SC_CLK_TCK));
  const double busy = user + nice + system + irq + softirq;
  return {busy / ticks, steal / ticks, (busy + steal + idle + iowait) / ticks, waiting_s()};
}

std::optional<MachineLoad> load_between(const LoadReading& before, const LoadReading& after) {
  const double passed_s = after.all_s - before.all_s;
  if (passed_s <= 0) return std::nullopt;
  const double cores = std::thread::hardware_concurrency();
  MachineLoad load{
      (after.busy_s - before.busy_s) / passed_s * cores, (after.stolen_s - before.stolen_s) / passed_s, {}};
  if (before.waiting_s && after.waiting_s)
    load.waiting_share = std::clamp((*after.waiting_s - *before.waiting_s) * cores / passed_s, 0.0, 1.0);
  return load;
}

std::string float_mode() {
  std::string mode;
#if defined(__x86_64__)
  const unsigned bits = __builtin_ia32_stmxcsr();
  const std::pair<unsigned, const char*> modes[] = {
      {0x8000U, "flush to zero"}, {0x0040U, "small operands are zero"}, {0x6000U, "rounds another way"}};
  for (const auto& [mask, name] : modes)
    if ((bits & mask) != 0) mode += (mode.empty() ? "" : " and ") + std::string(name);
#endif
  return mode;
}

bool is_traced() {
  std::ifstream stream("/proc/self/status");
  for (std::string line; std::getline(stream, line);)
    if (line.rfind("TracerPid:", 0) == 0) return std::stoi(line.substr(10)) != 0;
  return false;
}

}  // namespace mileage
