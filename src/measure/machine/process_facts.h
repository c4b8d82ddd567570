// What the system has this process and of the whole machine while it measures.
#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "study/study.h"

namespace mileage {

/// Processor time of the calling thread, and of all threads of this process, in nanoseconds.
std::int64_t thread_busy_ns();
std::int64_t processor_ns();

/// Both of these, and what the system did for the calling thread.
struct SpentReading {
  std::int64_t thread_ns = 0;
  std::int64_t processor_ns = 0;
  std::int64_t kernel_ns = 0;  ///< Part of thread_ns, inside the system's calls; in steps that some systems make long.
  std::int64_t page_faults = 0;         ///< Pages of memory that it touched first.
  std::int64_t voluntary_switches = 0;  ///< How often it gave up its core to wait.

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

/// Resident memory of this process now, and its peak, in bytes.
double resident_bytes();
double peak_resident_bytes();

/// Readings of the machine's processor time, for the load between two moments.
struct LoadReading {
  double busy_s = 0;  ///< All cores together, since the machine started.
  double stolen_s = 0;
  double all_s = 0;                 ///< Busy, stolen and idle together.
  std::optional<double> waiting_s;  ///< Time in which anything was ready to run and had no core.
};
LoadReading read_load();
/// Load between two readings; nothing when no time passed by the system's clock (which goes in steps of 10 ms).
std::optional<MachineLoad> load_between(const LoadReading& before, const LoadReading& after);

/// What the calling thread does otherwise with floats than a program begins with: "flush to zero", "small operands are
/// zero", "rounds another way", joined by " and ". Empty where nothing, and where it is not known.
std::string float_mode();

/// Whether a debugger (or another tracer) is attached to this process.
bool is_traced();

}  // namespace mileage
