#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "support/scratch.h"

namespace mileage {
namespace {

using nlohmann::json;
using testing::HasSubstr;
using testing_support::Ran;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

constexpr const char* whole_plan = R"(# two ways, warm and cold
scenario = "drift"
variants = ["objects", "columns"]
counts = [100, "1k", "10k"]
cold = ["0", "8MB"]
budget = "60hz"
precision = "3%"
for = "breakeven:objects,columns"
time = "60s"
blocks = 8
frames = 10
seed = 4

[knobs]
scatter = [0, 1]
)";

class PlanFile : public testing::Test {
 protected:
  Ran dry_run(const std::string& plan, const std::string& arguments = "") const {
    write_text(folder_ / "night.toml", plan);
    return run_in(folder_.path(), "'" MILEAGE_PROGRAM "' measure night.toml --dry-run " + arguments);
  }
  ScratchFolder folder_;
};

TEST_F(PlanFile, HoldsAWholePlan) {
  const json told = json::parse(dry_run(whole_plan, "--json").out);
  EXPECT_EQ(told["cells"].size(), 3U * 2U * 3U);  // Two scatters of objects and columns, warm and cold, three counts.
  EXPECT_EQ(told["blocks"], 8);
  EXPECT_EQ(told["time_s"], 60);
  EXPECT_FALSE(std::filesystem::exists(folder_ / "drift.study.jsonl"));
}

TEST_F(PlanFile, OptionsHoldInsteadOfWhatItSays) {
  const json told =
      json::parse(dry_run(whole_plan, "--counts 50,60 --knob scatter=1 --cold 64KB --blocks 2 --json").out);
  EXPECT_EQ(told["cells"].size(), 2U * 2U);
  EXPECT_EQ(told["blocks"], 2);
}

TEST_F(PlanFile, ADryRunShowsOrderAndTime) {
  const Ran ran = dry_run(whole_plan);
  EXPECT_EQ(ran.code, 0) << ran.err;
  for (const char* part : {"18 cells", "Order of the first block", "columns cold 8MB", "A block takes", "8 blocks",
                           "after 60.0 s at the latest"})
    EXPECT_THAT(ran.out, HasSubstr(part));
}

TEST_F(PlanFile, ADryRunTakesTheTimeFromWhatWasMeasured) {
  write_text(folder_ / "night.toml",
             "scenario = 'drift'\nvariants = 'columns'\ncounts = '10,20'\nblocks = 1\nframes = 3\n");
  ASSERT_EQ(run_in(folder_.path(), "'" MILEAGE_PROGRAM "' measure night.toml -o x.study.jsonl").code, 0);
  const json told = json::parse(
      run_in(folder_.path(), "'" MILEAGE_PROGRAM "' measure night.toml -o x.study.jsonl --dry-run --json").out);
  EXPECT_EQ(told["block_s"]["min"], told["block_s"]["max"]);
}

struct BadPlan {
  const char* plan;
  const char* said;
};
void PrintTo(const BadPlan& bad, std::ostream* out) { *out << bad.plan; }
class BadPlans : public PlanFile, public testing::WithParamInterface<BadPlan> {};

TEST_P(BadPlans, NameLineAndKeyAndWhatIsAccepted) {
  const Ran ran = dry_run(GetParam().plan);
  EXPECT_EQ(ran.code, 3);
  EXPECT_THAT(ran.err, HasSubstr(GetParam().said));
  EXPECT_EQ(ran.out, "");
}

INSTANTIATE_TEST_SUITE_P(
    Plans, BadPlans,
    testing::Values(
        BadPlan{"scenario = \"drift\"\nvariant = \"objects\"\n",
                "night.toml:2: variant: no such key in a plan; found \"variant\"; accepted: variants"},
        BadPlan{"scenario = \"drift\"\nwibble = 1\n", "accepted: no-refine, knobs, arrive, budget"},
        BadPlan{"scenario = \"drift\"\nblocks = \"many\"\n",
                "night.toml:2: blocks: the value has the wrong type; accepted: a whole number"},
        BadPlan{"scenario = \"drift\"\nblocks = 0\n", "night.toml:2: blocks"},
        BadPlan{"scenario = \"drift\"\ncounts = [1, [2]]\n", "night.toml:2: counts"},
        BadPlan{"scenario = \"drift\"\ncounts = []\n", "at least one value"},
        BadPlan{"scenario = \"drift\"\nno-refine = 1\n",
                "night.toml:2: no-refine: the value has the wrong type; accepted: true or false"},
        BadPlan{"scenario = \"drift\"\nknobs = 3\n", "a table: [knobs]"},
        BadPlan{"scenario = \"drift\nseed = 1\n", "night.toml:1: not TOML"},
        BadPlan{"scenario = \"drift\"\nbudget = \"fast\"\n",
                "night.toml:2: budget: not a budget; found \"fast\"; accepted: a rate such as 60hz"},
        BadPlan{"scenario = \"drift\"\nprecision = \"0%\"\n",
                "night.toml:2: precision: no measurement is without error; found \"0%\""},
        BadPlan{
            "scenario = \"drift\"\n[knobs]\nscater = 1\n",
            "night.toml:3: knob scater: no such knob in this scenario; found \"scater\"; accepted: ballast, batch,"}));

TEST_F(PlanFile, OneThatIsMissingIsNamed) {
  const Ran ran = run_in(folder_.path(), "'" MILEAGE_PROGRAM "' measure none.toml");
  EXPECT_EQ(ran.code, 3);
  EXPECT_THAT(ran.err, HasSubstr("none.toml: No such file"));
}

}  // namespace
}  // namespace mileage
