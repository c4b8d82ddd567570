#include "device/jostle_compute.h"

#include <gtest/gtest.h>

#include "support/device_here.h"
#include "support/festival_implementations.h"

namespace mileage::device {
namespace {

using testing_support::came_to;
using testing_support::differing;
using testing_support::set_up_of;

std::string differs(const mileage::SetUp& set_up, int frames) {
  const auto found = make_jostle_compute(set_up);
  return differing(came_to("jostle", "grid", set_up, frames).outcome, came_to(*found, set_up, frames).outcome);
}

TEST(JostleCompute, DoesWhatTheProcessorDoes) {
  SKIP_WITHOUT_DEVICE();
  for (const std::int64_t count : {1, 2, 17, 129, 1000})
    EXPECT_EQ(differs(set_up_of("jostle", count), 40), "") << count;
  EXPECT_EQ(differs(set_up_of("jostle", 300, {{"cell", 2.5}, {"density", 1.2}}, 2), 40), "");
}

TEST(JostleCompute, RestsLaunchesAndLetsInThoseThatArrive) {
  SKIP_WITHOUT_DEVICE();
  EXPECT_EQ(differs(set_up_of("jostle", 200, {{"rest", std::string("on")}, {"launch", 0.1}}), 400), "");
  mileage::SetUp set_up = set_up_of("jostle", 200, {{"launch", 2.0}, {"together", std::string("on")}});
  set_up.arrivals = 50;
  EXPECT_EQ(differs(set_up, 30), "");
}

TEST(JostleCompute, CountsWhatItTestsAndFinds) {
  SKIP_WITHOUT_DEVICE();
  const mileage::SetUp set_up = set_up_of("jostle", 500);
  const auto found = make_jostle_compute(set_up);
  const auto counters = came_to(*found, set_up, 5).counters;
  const auto expected = came_to("jostle", "hashed-jobs", set_up, 5).counters;
  for (const char* counter : {"pairs tested", "contacts", "awake"})
    EXPECT_EQ(counters.at(counter), expected.at(counter)) << counter;
}

}  // namespace
}  // namespace mileage::device
