#include "system/stop_signals.h"

#include <unistd.h>

namespace mileage {
namespace {

constexpr int interrupted = 130;
volatile std::sig_atomic_t is_asked = 0;
int guards = 0;

void ask(int) {
  if (is_asked != 0) ::_exit(interrupted);
  is_asked = 1;
}

}  // namespace

StopGuard::StopGuard() {
  if (guards++ == 0) is_asked = 0;
  struct sigaction action {};
  action.sa_handler = ask;
  for (std::size_t i = 0; i < signals.size(); ++i) {
    ::sigaction(signals[i], nullptr, &before_[i]);
    const bool is_nohup = signals[i] == SIGHUP && before_[i].sa_handler == SIG_IGN;
    if (!is_nohup) ::sigaction(signals[i], &action, nullptr);
  }
}

StopGuard::~StopGuard() {
  --guards;
  for (std::size_t i = 0; i < signals.size(); ++i) ::sigaction(signals[i], &before_[i], nullptr);
}

bool is_stop_asked() { return is_asked != 0; }

}  // namespace mileage
