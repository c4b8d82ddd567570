#include "device/night_show.h"

#include <gmock/gmock.h>

#include "device/drawn_variant.h"
#include "support/device_here.h"
#include "support/unmarked.h"

namespace mileage::device {
namespace {

SetUp show_of(std::int64_t count, double work = 1) {
  mileage::SetUp set_up{count, 8, 1.0 / 60, {}};
  for (const auto& [name, value] :
       std::map<std::string, double>{{"kinds", 3}, {"size", 1}, {"facets", 12}, {"work", work}, {"in-flight", 1}})
    set_up.knobs.set(name, value);
  set_up.knobs.set("pixels", std::string("1280x720"));
  return set_up;
}

struct ShowImplementation {
  const char* name;
  std::unique_ptr<Variant> (*make)(const SetUp&);
};
void PrintTo(const ShowImplementation& way, std::ostream* out) { *out << way.name; }

class NightShow : public testing::TestWithParam<ShowImplementation> {};

TEST_P(NightShow, ShowsWhatTheColumnsShow) {
  SKIP_WITHOUT_DEVICE();
  for (const double work : {1.0, 3.0}) {
    Outcome expected;
    Picture picture;
    {
      const auto columns = make_show_columns(show_of(300, work));
      testing_support::run_frames(*columns, 40);
      expected = columns->outcome();
      picture = columns->picture();
    }
    const auto found = GetParam().make(show_of(300, work));
    testing_support::run_frames(*found, 40);
    EXPECT_EQ(found->alive(), 300);
    for (const Disagreement& one : disagreements(expected, found->outcome()))
      ADD_FAILURE() << one.quantity << ": " << one.found << " instead of " << one.expected;
    EXPECT_LT(unlike_pixels(picture, found->picture()), 40);
  }
}

INSTANTIATE_TEST_SUITE_P(Implementations, NightShow,
                         testing::Values(ShowImplementation{"compute", make_show_compute},
                                         ShowImplementation{"round-trip", make_show_round_trip}));

TEST(NightShowFrames, MoveWhatIsSeen) {
  SKIP_WITHOUT_DEVICE();
  const auto show = make_show_compute(show_of(300));
  testing_support::run_frames(*show, 1);
  const Picture first = show->picture();
  testing_support::run_frames(*show, 60);
  EXPECT_GT(unlike_pixels(first, show->picture()), 1000);
}

TEST(NightShowFrames, LeaveTheDeviceOnlyWhereTheySaySo) {
  SKIP_WITHOUT_DEVICE();
  const auto compute = testing_support::counters_of_a_frame(*make_show_compute(show_of(1000)));
  EXPECT_EQ(compute.at("bytes uploaded"), 16);
  EXPECT_EQ(compute.count("bytes read back"), 0U);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_show_columns(show_of(1000))).at("bytes uploaded"), 32'000);
  const auto around = testing_support::counters_of_a_frame(*make_show_round_trip(show_of(1000)));
  EXPECT_EQ(around.at("bytes uploaded"), 32'016);
  EXPECT_EQ(around.at("bytes read back"), 40'000);
}

}  // namespace
}  // namespace mileage::device
