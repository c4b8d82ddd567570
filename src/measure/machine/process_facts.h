// What the system reports of this process and of the machine.
#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "study/study.h"

namespace mileage {

/// CPU time of the calling thread, and of the process, in ns.
std::int64_t thread_busy_ns();
std::int64_t processor_ns();

/// Both, and kernel activity of the calling thread.
struct SpentReading {
  std::int64_t thread_ns = 0;
  std::int64_t processor_ns = 0;
  std::int64_t kernel_ns = 0;    ///< Part of thread_ns; coarse on some systems.
  std::int64_t page_faults = 0;  ///< First touches of memory.
  std::int64_t voluntary_switches = 0;

  SpentReading& operator+=(const SpentReading& other) {
    thread_ns += other.thread_ns;
    processor_ns += other.processor_ns;
    kernel_ns += other.kernel_ns;
    page_faults += other.page_faults;
    voluntary_switches += other.voluntary_switches;
    return *this;
  }
  SpentReading operator-(const SpentReading& other) const {
    return {thread_ns - other.thread_ns, processor_ns - other.processor_ns, kernel_ns - other.kernel_ns,
            page_faults - other.page_faults, voluntary_switches - other.voluntary_switches};
  }
};
SpentReading read_spent();

/// Current and peak, in bytes.
double resident_bytes();
double peak_resident_bytes();

/// Machine CPU time, for load between two readings.
struct LoadReading {
  double busy_s = 0;  ///< All cores, since boot.
  double stolen_s = 0;
  double all_s = 0;                 ///< Busy, stolen and idle.
  std::optional<double> waiting_s;  ///< Something was runnable without a core.
};
LoadReading read_load();
/// Nothing within one 10 ms step.
std::optional<MachineLoad> load_between(const LoadReading& before, const LoadReading& after);

/// Deviations of the calling thread from default: "flush to zero", "small operands are zero", "rounds another way",
/// joined by " and ". Empty for none or unknown.
std::string float_mode();

/// By a debugger or another tracer.
bool is_traced();

}  // namespace mileage
