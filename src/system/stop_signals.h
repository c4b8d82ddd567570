// Ctrl-C, SIGTERM and SIGHUP.
#pragma once

#include <array>
#include <csignal>

namespace mileage {

/// The first signal requests a stop, the second exits with 130. May be nested. For one thread.
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

/// Since the outermost guard began, also after it ended.
bool is_stop_asked();

}  // namespace mileage
