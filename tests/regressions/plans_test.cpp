#include <gmock/gmock.h>

#include "support/scratch.h"

namespace mileage {
namespace {

using testing::AllOf;
using testing::HasSubstr;
using testing_support::Ran;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

struct BadPlan {
  const char* name;
  std::string text;
  const char* said;
};
void PrintTo(const BadPlan& bad, std::ostream* out) { *out << bad.name; }

const std::string a_variant = "[variant.a]\nrun = [\"true\"]\n";

class BadPlans : public testing::TestWithParam<BadPlan> {};

TEST_P(BadPlans, AreRefusedInTheirPlace) {
  const ScratchFolder folder;
  write_text(folder / "night.toml", GetParam().text);
  const Ran ran = run_in(folder.path(), "'" MILEAGE_PROGRAM "' measure night.toml -o x.study.jsonl");
  EXPECT_EQ(ran.code, 3) << ran.err;
  EXPECT_THAT(ran.err, AllOf(HasSubstr("night.toml:"), HasSubstr(GetParam().said)));
  EXPECT_FALSE(std::filesystem::exists(folder / "x.study.jsonl"));
}

INSTANTIATE_TEST_SUITE_P(
    Plans, BadPlans,
    testing::Values(
        BadPlan{"counts", "scenario = \"drift\"\ncounts = [\"abc\"]\n",
                "night.toml:2: counts: not a count; found \"abc\"; accepted: a whole number from 1"},
        BadPlan{"budget", "scenario = \"drift\"\nbudget = \"fast\"\n",
                "night.toml:2: budget: not a budget; found \"fast\""},
        BadPlan{"time", "scenario = \"drift\"\n\ntime = \"soon\"\n", "night.toml:3: time: not a duration"},
        BadPlan{"goal", "scenario = \"drift\"\nfor = \"speed\"\n",
                "night.toml:2: for: not a figure to measure for; found \"speed\""},
        BadPlan{"variants", "scenario = \"drift\"\nvariants = \"objets\"\n",
                "night.toml:2: variants: no such variant in this scenario; found \"objets\""},
        BadPlan{"knob", "scenario = \"drift\"\n[knobs]\nscatter = 7\n",
                "night.toml:3: knob scatter: not a value of this knob; found \"7\"; accepted: a number from 0 to 1"},
        BadPlan{"limit", a_variant + "[command]\ntime-limit = \"soon\"\n",
                "night.toml:4: time-limit: not a duration; found \"soon\""},
        BadPlan{"frames_huge", a_variant + "[command]\nframes = 1e12\n",
                "night.toml:4: frames: out of range; found \"1000000000000\""},
        BadPlan{"frames_too_few", a_variant + "[command]\nframes = 10\n",
                "night.toml: command.frames: a run needs at least 20 frames; found \"10\""},
        BadPlan{"frames_negative", a_variant + "[command]\nframes = -3\n",
                "night.toml:4: frames: out of range; found \"-3\""},
        BadPlan{"frames_fractional", a_variant + "[command]\nframes = 2.5\n",
                "night.toml:4: frames: out of range; found \"2.5\""},
        BadPlan{"tolerance_nan", a_variant + "[command]\ntolerance = nan\n",
                "night.toml:4: tolerance: out of range; found \"nan\""},
        BadPlan{"tolerance_negative", a_variant + "[command]\ntolerance = -1\n",
                "night.toml:4: tolerance: out of range; found \"-1\""},
        BadPlan{"default_nan", a_variant + "[knob.wind]\ndefault = nan\n",
                "night.toml:4: default: out of range; found \"nan\""},
        BadPlan{"min_above_max", a_variant + "[knob.wind]\nmin = 5\nmax = 2\ndefault = 3\n",
                "night.toml:4: knob.wind: min: above max"},
        BadPlan{"affects", a_variant + "[knob.wind]\naffects = [\"z\"]\n",
                "night.toml:4: knob.wind: affects: no such variant; found \"z\""},
        BadPlan{"reference", "reference = \"z\"\n" + a_variant,
                "night.toml:1: reference: no such variant; found \"z\""},
        BadPlan{"long_placeholder", "[variant.a]\nrun = [\"x\", \"{" + std::string(19'000, 'a') + "}\"]\n",
                "no such placeholder"},
        BadPlan{"longer_placeholder", "[variant.a]\nrun = [\"x\", \"{" + std::string(27'000, 'a') + "}\"]\n",
                "night.toml:2: a line of 27"},
        BadPlan{"deep_key",
                [] {
                  std::string key;
                  for (int i = 0; i < 31'000; ++i) key += "a.";
                  return key + "a = 1\n";
                }(),
                "night.toml:1: a line of 62"},
        BadPlan{"deep_short_key",
                "a." + std::string("b.c.d.e.f.g.h.i.j.k.l.m.n.o.p.q.r.s.t.u.v.w.x.y.z.") +
                    "b.c.d.e.f.g.h.i.j.k.l.m.n.o.p.q.r.s.t.u.v.w.x.y.z.a.b.c.d.e.f.g.h.i.j.k.l.m.n.o.p.q = 1\n",
                "night.toml:1: keys nested too deeply"},
        BadPlan{"many_variants",
                [] {
                  std::string text;
                  for (int i = 0; i < 1001; ++i) text += "[variant.v" + std::to_string(i) + "]\nrun=[\"true\"]\n";
                  return text;
                }(),
                "too many variants; found \"1001\"; accepted: at most 1000"}));

TEST(BadOptions, AreNamedAsTheVerbHasThem) {
  const ScratchFolder folder;
  const Ran picture = run_in(folder.path(), "'" MILEAGE_PROGRAM "' picture --count 0");
  EXPECT_THAT(picture.err, HasSubstr("--count: not a count"));
  EXPECT_THAT(run_in(folder.path(), "'" MILEAGE_PROGRAM "' measure --scenario drift --counts 0 -o x").err,
              HasSubstr("--counts: not a count"));
  write_text(folder / "night.toml", "scenario = \"drift\"\ncounts = [100]\n");
  EXPECT_THAT(run_in(folder.path(), "'" MILEAGE_PROGRAM "' measure night.toml --counts 0 -o x").err,
              HasSubstr("mileage: --counts: not a count"))
      << "the option was wrong, not the plan";
}

}  // namespace
}  // namespace mileage
