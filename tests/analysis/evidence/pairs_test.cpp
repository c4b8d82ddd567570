#include "analysis/evidence/pairs.h"

#include <gmock/gmock.h>

namespace mileage {
namespace {

using testing::ElementsAre;
using testing::IsEmpty;
using Index = std::pair<std::size_t, std::size_t>;

Scenario river() {
  Scenario scenario;
  scenario.knobs = {Knob::real("wind", "", {.default_value = 0, .min = 0, .max = 9})};
  for (const char* name : {"objects", "records", "columns", "jobs"}) scenario.variants.push_back({name, "", {}, ""});
  return scenario;
}

Series of(const std::string& variant, const std::string& build = "", double wind = 0) {
  Series series{variant, {}, 0, build};
  series.knobs.set("wind", wind);
  return series;
}

TEST(Pairs, EachVariantStandsBesideTheNextOneThatIsThere) {
  EXPECT_THAT(compared_pairs({of("objects"), of("columns"), of("jobs")}, river(), {}),
              ElementsAre(Index{0, 1}, Index{1, 2}));
  EXPECT_THAT(compared_pairs({of("jobs"), of("objects")}, river(), {}), ElementsAre(Index{0, 1}));
  EXPECT_THAT(compared_pairs({of("jobs")}, river(), {}), IsEmpty());
}

TEST(Pairs, ABaselineStandsBesideAllOthers) {
  EXPECT_THAT(compared_pairs({of("objects"), of("records"), of("columns"), of("jobs", "", 3)}, river(), {}, "columns"),
              ElementsAre(Index{0, 2}, Index{1, 2}));
}

TEST(Pairs, SeriesOfOneVariantStandBesideEachOther) {
  Series two = of("jobs");
  two.knobs.set("workers", 2.0);
  EXPECT_THAT(compared_pairs({of("jobs"), two}, river(), {}), ElementsAre(Index{0, 1}));
}

TEST(Pairs, UnlikeConditionsAreNeverCompared) {
  EXPECT_THAT(compared_pairs({of("objects"), of("records", "", 3)}, river(), {}), IsEmpty());
  EXPECT_THAT(compared_pairs({of("objects"), of("jobs", "", 3)}, river(), {"objects", "jobs"}), IsEmpty());
}

TEST(Pairs, BuildsAreComparedVariantByVariant) {
  EXPECT_THAT(compared_pairs({of("objects", "before"), of("objects", "after"), of("records", "after")}, river(), {}),
              ElementsAre(Index{0, 1}, Index{1, 2}));
}

TEST(Pairs, NamesAskForAllPairsOfThose) {
  EXPECT_THAT(compared_pairs({of("objects"), of("records"), of("columns"), of("jobs")}, river(), {"objects", "jobs"}),
              ElementsAre(Index{0, 3}));
}

}  // namespace
}  // namespace mileage
