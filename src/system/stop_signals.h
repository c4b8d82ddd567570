// What asks a process to stop: Ctrl-C, SIGTERM, and SIGHUP of a terminal that goes.
#pragma once

#include <array>
#include <csignal>

namespace mileage {

/// While it lives, the first of these signals only asks what runs to stop; a second one ends the process at once, with
/// exit code 130. Guards may be nested. For one thread.
class StopGuard {
 public:
  StopGuard();
  ~StopGuard();
  StopGuard(const StopGuard&) = delete;
  StopGuard& operator=(const StopGuard&) = delete;

 private:
  static constexpr std::array<int, 3> signals{SIGINT, SIGTERM, SIGHUP};
  std::array<struct sigaction, signals.size()> before_{};
};

/// Whether this process was asked to stop since the outermost guard began; stays true when that is gone.
bool is_stop_asked();

}  // namespace mileage
