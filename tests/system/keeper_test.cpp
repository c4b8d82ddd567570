#include "system/keeper.h"

#include <signal.h>

#include <string>
#include <thread>

#include <gtest/gtest.h>

#include "system/child_process.h"

namespace mileage {
namespace {

bool is_alive(int process) { return ::kill(process, 0) == 0; }

/// Starts a sleeper, prints its pid, exits.
ChildReport run_watched(const std::string& script) {
  Command command;
  command.words = {"sh", "-c", script};
  return run_child(command, {5, 0}, {});
}

TEST(Keeper, EndsWhatAChildLeaves) {
  const ChildReport report = run_watched("sleep 600 & echo $!");
  EXPECT_TRUE(report.is_well());
  EXPECT_EQ(report.left_behind, 1);
  EXPECT_FALSE(is_alive(std::stoi(report.output)));
}

TEST(Keeper, EndsWhatLeftItsGroupToo) {
  const ChildReport report = run_watched("setsid sleep 600 & sleep 0.1; echo $!");
  EXPECT_EQ(report.left_behind, 1);
  EXPECT_FALSE(is_alive(std::stoi(report.output)));
}

TEST(Keeper, TellsNothingOfAChildThatLeavesNothing) { EXPECT_EQ(run_watched("true").left_behind, 0); }

}  // namespace
}  // namespace mileage
