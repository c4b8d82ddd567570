#include "measure/runners/command_runner.h"

#include <gmock/gmock.h>

#include "analysis/evidence/agreement.h"
#include "support/pictures.h"
#include "support/scratch.h"
#include "support/scripted.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing::SizeIs;
using testing_support::read_text;
using testing_support::ScratchFolder;
using testing_support::write_text;

/// 2 ms frames after a slow start, and an outcome.
constexpr const char* usual_table = R"(awk -v n={frames} -v c={count} 'BEGIN {
  print "frame_ms,alive,setup_ms,phase:drift,outcome:glow"
  for (i = 0; i < n; ++i) printf "%.4f,%d,7.5,1,%s\n", (i < 4 ? 9 - 2 * i : 2 + 0.01 * (i % 3)),
    c, (i == n - 1 ? "0.625" : "") }' > {table})";

class Commands : public testing::Test {
 protected:
  mileage::Run run(const std::string& script, std::int64_t count = 100, double limit_s = 5) {
    return run_with({"sh", "-c", script}, count, limit_s);
  }

  mileage::Run run_with(std::vector<std::string> words, std::int64_t count = 100, double limit_s = 5) {
    plan_.words["plain"] = std::move(words);
    plan_.directory = folder_.path();
    CommandRunner runner({}, plan_, {&clock_, nullptr});
    RunRequest request = request_;
    request.count = count;
    return runner.run(request, limit_s);
  }

  std::string failure(const std::string& script, double limit_s = 5) {
    const mileage::Run made = run(script, 100, limit_s);
    EXPECT_EQ(made.status, RunStatus::failed);
    return made.failure;
  }

  ScratchFolder folder_;
  SystemClock clock_;
  CommandPlan plan_;
  RunRequest request_{"night", {"plain", {}}, 100, 7, 20, 20};
};

TEST_F(Commands, ATableBecomesARunWithItsWarmUpSetApart) {
  const mileage::Run made = run(usual_table);
  ASSERT_EQ(made.status, RunStatus::kept) << made.failure;
  EXPECT_GE(made.warmup_ns.size(), 4U);
  EXPECT_EQ(made.warmup_ns.front(), 9'000'000);
  EXPECT_EQ(made.warmup_ns.size() + made.samples_ns.size(), 40U);
  EXPECT_LT(made.samples_ns.front(), 2'100'000);
  EXPECT_EQ(made.alive, 100);
  EXPECT_EQ(made.setup_ms, 7.5);
  EXPECT_EQ(made.phases_ms.at("drift"), static_cast<double>(made.samples_ns.size()));
  EXPECT_EQ(made.outcome.quantities().front().value, 0.625);
  EXPECT_GT(made.whole_processor_ms, 0);
  EXPECT_FALSE(made.thread_busy_ms) << "nobody knows what a command's threads did in its frames";
}

TEST_F(Commands, WhatArrivesIsCutOutOfItsTable) {
  const char* table = R"(awk -v n={frames} -v c={count} -v a={arrive} 'BEGIN {
    print "frame_ms,alive"
    for (i = 0; i < n; ++i) printf "%.4f,%d\n", (i == 15 ? 7 : 2 + 0.01 * (i % 3)), (i < 15 ? c - a : c) }' > {table})";
  request_.arrive = 30;
  const mileage::Run made = run(table);
  ASSERT_EQ(made.status, RunStatus::kept) << made.failure;
  EXPECT_EQ(made.arrived, 30);
  EXPECT_EQ(made.warmup_ns.front(), 7'000'000);
  EXPECT_GE(made.samples_ns.size(), 20U);
  EXPECT_THAT(failure(usual_table), HasSubstr("left a table in which 0 come at once, and 30 were to"));
}

TEST_F(Commands, AProgramThatTakesTheYardstickItselfIsAskedToAndTrusted) {
  int own = 0;
  scripted::ScriptedYardstick yardstick([&own] {
    ++own;
    return 1e6;
  });
  plan_.words["plain"] = {"sh", "-c", R"sh(echo "frame_ms,yardstick_us"
    for i in 1 2 3 4 5 6 7 8 9 10 11 12; do echo "2,$((MILEAGE_YARDSTICK * 15))"; done)sh"};
  CommandRunner runner({}, plan_, {&clock_, &yardstick});
  request_.min_frames = 5;
  const mileage::Run first = runner.run(request_, 5);
  ASSERT_EQ(first.status, RunStatus::kept) << first.failure;
  ASSERT_TRUE(first.yardstick);
  EXPECT_NEAR(first.yardstick->mean_ns(), 15'000, 1e-6);
  EXPECT_EQ(first.yardstick->program, "sh");
  EXPECT_EQ(own, 20) << "20 ms before the first run, when nothing was known of it";
  EXPECT_TRUE(runner.run(request_, 5).yardstick);
  EXPECT_EQ(own, 20);
}

double stated(const mileage::Run& run, const std::string& quantity) {
  for (const Quantity& one : run.outcome.quantities())
    if (one.name == quantity) return one.value;
  return -1;
}

TEST_F(Commands, APictureIsHeldAgainstThatOfTheReference) {
  testing_support::write_png(folder_ / "plain.png", testing_support::grey_picture());
  testing_support::write_png(folder_ / "coarse.png", testing_support::grey_picture(250));
  testing_support::write_png(folder_ / "small.png", Picture{10, 10, std::vector<std::uint8_t>(300, 80)});
  Scenario scenario;
  scenario.name = "night";
  for (const char* name : {"plain", "coarse", "small", "none"}) {
    scenario.variants.push_back({name, "", {}, ""});
    plan_.words[name] = {"sh", "-c", std::string(usual_table) + "; cp " + name + ".png {picture}"};
  }
  plan_.directory = folder_.path();
  CommandRunner runner(scenario, plan_, {&clock_, nullptr});
  const auto checked = [&](const char* variant) {
    RunRequest request{"night", {variant, {}}, 100, 7, 20, 20};
    request.check_frames = 30;
    return runner.run(request, 5);
  };
  const mileage::Run coarse = checked("coarse");
  ASSERT_EQ(coarse.status, RunStatus::kept) << coarse.failure;
  EXPECT_DOUBLE_EQ(stated(coarse, picture_pixels), 0.05);
  EXPECT_NEAR(stated(coarse, picture_mean), 0.05 * 100 / 255, 1e-9);
  EXPECT_EQ(stated(checked("plain"), picture_pixels), 0);
  EXPECT_FALSE(disagreements(checked("plain").outcome, coarse.outcome).empty());
  EXPECT_THAT(checked("small").failure, HasSubstr("left a picture of 10 x 10, and that of the reference has 100 x 50"));
  EXPECT_THAT(checked("none").failure, HasSubstr("sh ended with exit code 1"));
}

TEST_F(Commands, AFrameTableMayBePrinted) {
  std::string printed = usual_table;
  printed.erase(printed.find(" > {table}"));
  const mileage::Run made = run(printed);
  EXPECT_EQ(made.status, RunStatus::kept) << made.failure;
}

TEST_F(Commands, PlaceholdersAreReplacedAndNothingElseIsRead) {
  request_.series.knobs.set("batch", 64.0);
  plan_.environment["LANTERN_MOOD"] = "calm; rm -rf $HOME";
  run_with({"sh", "-c", "printf '%s|' \"$@\" > told; printf '%s' \"$LANTERN_MOOD\" >> told", "name", "{count}",
            "{seed}", "{frames}", "--batch={batch}", "$(id) *", "{other}"});
  EXPECT_EQ(read_text(folder_ / "told"), "100|7|40|--batch=64|$(id) *|{other}|calm; rm -rf $HOME");
}

TEST_F(Commands, ACheckRunsExactlyItsFrames) {
  request_.check_frames = 20;
  plan_.tolerance = 0.01;
  const mileage::Run made = run(usual_table);
  ASSERT_EQ(made.status, RunStatus::kept) << made.failure;
  EXPECT_THAT(made.samples_ns, SizeIs(0));
  EXPECT_EQ(made.outcome.quantities().front().tolerance, 0.01);
}

TEST_F(Commands, AnOutcomeAfterUnknownManyFramesIsNotCompared) {
  std::string own_frames = usual_table;
  own_frames.replace(own_frames.find("{frames}"), 8, "50");
  const mileage::Run made = run(own_frames);
  ASSERT_EQ(made.status, RunStatus::kept) << made.failure;
  EXPECT_TRUE(made.outcome.empty());
}

TEST_F(Commands, ACellThatWasMeasuredIsAskedForAsManyFramesAsItNeeds) {
  plan_.words["plain"] = {"sh", "-c", usual_table};
  plan_.directory = folder_.path();
  CommandRunner runner({}, plan_, {&clock_, nullptr});
  request_.min_ms = 100;  // 50 frames of 2 ms, and twenty to settle.
  EXPECT_EQ(runner.run(request_, 5).samples_ns.size() + runner.run(request_, 5).warmup_ns.size(), 36U + 4U);
  const mileage::Run again = runner.run(request_, 5);
  EXPECT_NEAR(static_cast<double>(again.samples_ns.size() + again.warmup_ns.size()), 70, 1);
}

TEST_F(Commands, EveryWayToFailGivesOnePlainLine) {
  EXPECT_THAT(run_with({"./no_such_game"}).failure, HasSubstr("no_such_game could not be started: No such file"));
  write_text(folder_ / "text.txt", "not a program\n");
  EXPECT_THAT(run_with({"./text.txt"}).failure, HasSubstr("text.txt could not be started: Permission denied"));
  EXPECT_THAT(failure("echo one >&2; echo the wick is wet >&2; exit 3"),
              HasSubstr("sh ended with exit code 3; last output: one / the wick is wet"));
  EXPECT_THAT(failure("echo no room left; exit 4"), HasSubstr("sh ended with exit code 4; last output: no room left"));
  EXPECT_THAT(failure("kill -SEGV $$"), HasSubstr("sh was ended by SIGSEGV"));
  EXPECT_THAT(failure("sleep 30", 0.3), HasSubstr("sh took longer than its limit of 0.3 s"));
  EXPECT_THAT(failure("exec >&- 2>&-; sleep 30", 0.3), HasSubstr("took longer than its limit"));
  EXPECT_THAT(failure("true {table}"), HasSubstr("sh left no frame table"));
  EXPECT_THAT(failure(": > {table}"), HasSubstr("no frames in it"));
  EXPECT_THAT(failure("true"), HasSubstr("printed nothing, and its command names no {table}"));
  EXPECT_THAT(failure("printf 'frame_ms\\n1\\nx\\n' > {table}"), HasSubstr("table.csv:3: frame_ms: not a number"));
  EXPECT_THAT(failure("printf 'frame_ms\\n1\\n1\\n1\\n1\\n1\\n1\\n1\\n' > {table} # {frames}"),
              HasSubstr("left 7 frames, and 40 were asked for"));
  EXPECT_THAT(failure("printf 'frame_ms\\n1\\n1\\n1\\n' > {table}"),
              HasSubstr("left 3 frames, fewer than the 20 of a run"));
  EXPECT_THAT(failure("awk 'BEGIN { print \"frame_ms,alive\"; for (i = 0; i < 40; ++i) print \"2,99\" }' > {table}"),
              HasSubstr("was asked for 100 entities, and 99 are alive"));
  EXPECT_THAT(failure("awk 'BEGIN { print \"frame_ms,count\"; for (i = 0; i < 40; ++i) print \"2,50\" }' > {table}"),
              HasSubstr("was asked for 100 entities, and 50 are alive"));
}

TEST_F(Commands, WhatIsKeptHoldsNoPathAndNoValueOfTheEnvironment) {
  plan_.words["plain"] = {"/home/someone/game", "--table", "{table}"};
  plan_.environment["SECRET"] = "hidden";
  plan_.builds["before"] = "/home/someone/build/game";
  const auto told = command_lines(plan_);
  EXPECT_THAT(told, testing::ElementsAre("plain: game --table {table}", "build before: game", "environment: SECRET"));
  EXPECT_THAT(failure("echo /home/someone/night went out >&2; exit 1"), HasSubstr("last output: night went out"));
}

TEST_F(Commands, ABuildReplacesTheProgram) {
  write_text(folder_ / "after", "#!/bin/sh\necho \"$0\" \"$@\" | sed 's#.*/##' > told\n");
  std::filesystem::permissions(folder_ / "after", std::filesystem::perms::owner_all);
  plan_.builds["after"] = folder_ / "after";
  request_.series.build = "after";
  run_with({"./before", "{count}"});
  EXPECT_EQ(read_text(folder_ / "told"), "after 100\n");
  run_with({"env", "{program}", "{seed}"});
  EXPECT_EQ(read_text(folder_ / "told"), "after 7\n");
}

}  // namespace
}  // namespace mileage
