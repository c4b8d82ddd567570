#include "measure/machine/remembered_full_speed.h"

#include <cstdlib>

#include <gtest/gtest.h>

#include "support/scratch.h"

namespace mileage {
namespace {

class RememberedFullSpeed : public testing::Test {
 protected:
  RememberedFullSpeed() {
    ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1);
    machine_.processor = "Lantern 3000";
    machine_.cores = 2;
  }
  ~RememberedFullSpeed() override { ::unsetenv("MILEAGE_STATE"); }

  testing_support::ScratchFolder folder_;
  Machine machine_;
};

TEST_F(RememberedFullSpeed, KeepsTheBestSlowdownOfAMachine) {
  EXPECT_FALSE(remembered_full_speed_ns(machine_));
  remember_full_speed(machine_, 120);
  EXPECT_EQ(remembered_full_speed_ns(machine_), 120);
  remember_full_speed(machine_, 150);
  EXPECT_EQ(remembered_full_speed_ns(machine_), 120) << "a slow hour is no news";
  remember_full_speed(machine_, 110);
  EXPECT_NEAR(*remembered_full_speed_ns(machine_), 117.4, 0.1)
      << "a quarter of the way: one lucky hour does not decide";
  remember_full_speed(machine_, 120);
  EXPECT_NEAR(*remembered_full_speed_ns(machine_), 117.53, 0.02) << "and is forgotten again, slowly";
  remember_full_speed(machine_, 60);
  EXPECT_EQ(remembered_full_speed_ns(machine_), 60) << "another speed altogether";
  EXPECT_FALSE(remembered_full_speed_ns(machine_, 2));
  remember_full_speed(machine_, 90, 2);
  EXPECT_EQ(remembered_full_speed_ns(machine_), 60);
  Head head;
  head.machine = machine_;
  head.machine.processor += ", another";
  head.machine.cores = 2;
  remember_full_speed(head.machine, 70);
  remember_full_speed(head.machine, 90, 2);
  set_remembered_full_speeds(head);
  EXPECT_EQ(head.full_speed_ns, 70);
  EXPECT_EQ(head.full_speed_on_cores_ns.at("2"), 90);
}

TEST_F(RememberedFullSpeed, TellsMachinesApart) {
  remember_full_speed(machine_, 120);
  machine_.cores = 8;
  EXPECT_FALSE(remembered_full_speed_ns(machine_));
}

TEST_F(RememberedFullSpeed, ForgetsQuietlyWhatItCannotRead) {
  std::filesystem::create_directories(folder_ / "state");
  testing_support::write_text(remembered_full_speeds_file(), "not json");
  EXPECT_FALSE(remembered_full_speed_ns(machine_));
  remember_full_speed(machine_, 120);
  EXPECT_EQ(remembered_full_speed_ns(machine_), 120);
}

}  // namespace
}  // namespace mileage
