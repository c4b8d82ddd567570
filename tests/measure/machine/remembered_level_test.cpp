#include "measure/machine/remembered_level.h"

#include <cstdlib>

#include <gtest/gtest.h>

#include "support/scratch.h"

namespace mileage {
namespace {

class RememberedLevel : public testing::Test {
 protected:
  RememberedLevel() {
    ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1);
    machine_.processor = "Lantern 3000";
    machine_.cores = 2;
  }
  ~RememberedLevel() override { ::unsetenv("MILEAGE_STATE"); }

  testing_support::ScratchFolder folder_;
  Machine machine_;
};

TEST_F(RememberedLevel, KeepsTheBestLevelOfAMachine) {
  EXPECT_FALSE(remembered_level_ns(machine_));
  remember_level(machine_, 120);
  EXPECT_EQ(remembered_level_ns(machine_), 120);
  remember_level(machine_, 150);
  EXPECT_EQ(remembered_level_ns(machine_), 120) << "a slow hour is no news";
  remember_level(machine_, 110);
  EXPECT_NEAR(*remembered_level_ns(machine_), 117.4, 0.1) << "a quarter of the way: one lucky hour does not decide";
  remember_level(machine_, 120);
  EXPECT_NEAR(*remembered_level_ns(machine_), 117.53, 0.02) << "and is forgotten again, slowly";
  remember_level(machine_, 60);
  EXPECT_EQ(remembered_level_ns(machine_), 60) << "another speed altogether";
  EXPECT_FALSE(remembered_level_ns(machine_, 2));
  remember_level(machine_, 90, 2);
  EXPECT_EQ(remembered_level_ns(machine_), 60);
  Head head;
  head.machine = machine_;
  head.machine.processor += ", another";
  head.machine.cores = 2;
  remember_level(head.machine, 70);
  remember_level(head.machine, 90, 2);
  tell_remembered_levels(head);
  EXPECT_EQ(head.remembered_yardstick_ns, 70);
  EXPECT_EQ(head.remembered_on_cores_ns.at("2"), 90);
}

TEST_F(RememberedLevel, TellsMachinesApart) {
  remember_level(machine_, 120);
  machine_.cores = 8;
  EXPECT_FALSE(remembered_level_ns(machine_));
}

TEST_F(RememberedLevel, ForgetsQuietlyWhatItCannotRead) {
  std::filesystem::create_directories(folder_ / "state");
  testing_support::write_text(remembered_levels_file(), "not json");
  EXPECT_FALSE(remembered_level_ns(machine_));
  remember_level(machine_, 120);
  EXPECT_EQ(remembered_level_ns(machine_), 120);
}

}  // namespace
}  // namespace mileage
