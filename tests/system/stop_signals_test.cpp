#include "system/stop_signals.h"

#include <csignal>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(StopSignals, AreSeenWhileTheyAreGuarded) {
  for (const int signal : {SIGINT, SIGTERM, SIGHUP}) {
    const StopGuard guard;
    EXPECT_FALSE(is_stop_asked());
    std::raise(signal);
    EXPECT_TRUE(is_stop_asked()) << signal;
  }
}

TEST(StopSignals, AreForgottenByTheNextGuard) {
  {
    const StopGuard guard;
    std::raise(SIGTERM);
  }
  const StopGuard guard;
  EXPECT_FALSE(is_stop_asked());
}

}  // namespace
}  // namespace mileage
