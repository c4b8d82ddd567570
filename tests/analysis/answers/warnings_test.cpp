#include "analysis/answers/warnings.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/curves/series_curve.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

using testing::Contains;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::Not;

Study night(int blocks = 6) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}};
  setting.counts = {100, 200, 400, 800};
  setting.blocks = blocks;
  setting.run_noise = 0.01;
  return made::study_of(setting);
}

std::vector<std::string> warnings_in(const Study& study) { return warnings_of(gather_evidence(study)); }

TEST(Warnings, AreNoneWhereNothingIsOdd) { EXPECT_THAT(warnings_in(night()), IsEmpty()); }

TEST(Warnings, TellHowManyBlocksThereAre) {
  EXPECT_THAT(warnings_in(night(2)), Contains(HasSubstr("only 2 blocks: intervals are from few repetitions")));
  EXPECT_THAT(warnings_in(night(1)),
              Contains(HasSubstr("nothing was measured twice: intervals assume that runs differ by 5 %")));
}

TEST(Warnings, TellWhatIsAssumedOfRunsThatShareAProcess) {
  Study study = night();
  for (mileage::Run& run : study.runs) run.process = 7;
  EXPECT_THAT(warnings_in(study), Contains("one process made these runs: intervals assume a spread of 5 % between "
                                           "processes."));
}

TEST(Warnings, TellOfTheMachineAndTheBuild) {
  Study study = night();
  study.head.machine.debugger = true;
  study.head.machine.governor = "powersave";
  study.head.scenario.build = {"12", "", true, false};
  const auto warnings = warnings_in(study);
  EXPECT_THAT(warnings.at(0), HasSubstr("without optimization"));
  EXPECT_THAT(warnings, Contains(HasSubstr("debugger")));
  EXPECT_THAT(warnings, Contains(HasSubstr("governor powersave")));
}

TEST(Warnings, CountTheProcessesThatAVariantLeaves) {
  Study study = night();
  study.runs[0].left_behind = 2;
  study.runs[1].left_behind = 1;
  EXPECT_THAT(warnings_in(study), Contains(HasSubstr("objects leaves processes running: 3 were ended after 2 runs")));
}

TEST(Warnings, TellOfCountersThatAreNotAsExpected) {
  Study study = night();
  study.head.scenario.expects = {{"updates", 1}};
  EXPECT_THAT(warnings_in(study), IsEmpty()) << "nobody counts them";
  const auto count = [&](double each) {
    for (mileage::Run& run : study.runs)
      run.counters["updates"] = each * static_cast<double>(run.count * run.measured_frames());
  };
  count(1);
  EXPECT_THAT(warnings_in(study), IsEmpty());
  count(3.96);
  EXPECT_THAT(warnings_in(study), Contains(HasSubstr("objects makes 3.96 updates")));
  study.head.plan.series.front().skipped_phase = "glow";
  for (mileage::Run& run : study.runs) run.series.skipped_phase = "glow";
  EXPECT_THAT(warnings_in(study), Not(Contains(HasSubstr("updates")))) << "a floor may do less";
}

TEST(Warnings, TellOfFramesThatTreatFloatsOtherwise) {
  Study study = night();
  study.runs[3].float_mode = "flush to zero";
  EXPECT_THAT(warnings_in(study), Contains(HasSubstr("objects uses another floating-point mode (flush to zero)")));
}

// Such as random sleeps.
TEST(Warnings, TellOfFramesThatWait) {
  Study study = night();
  const auto busy_for = [&](double share) {
    for (mileage::Run& run : study.runs) {
      double frames_ms = 0;
      for (const std::int64_t sample : run.samples_ns) frames_ms += static_cast<double>(sample) * 1e-6;
      run.processor_ms = share * frames_ms;
    }
  };
  busy_for(0.31);
  EXPECT_THAT(warnings_in(study), Contains(HasSubstr("objects is blocked for 69 % of its frames")));
  busy_for(0.9);
  EXPECT_THAT(warnings_in(study), IsEmpty());
}

TEST(Warnings, TellOfFramesThatWaitMoreThanThoseOfOthers) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"columns", [](double n) { return 1e-3 * n; }}};
  setting.counts = {100, 200, 400, 800};
  setting.blocks = 6;
  Study study = made::study_of(setting);
  const auto columns_are_busy_for = [&](double share) {
    for (mileage::Run& run : study.runs) {
      double frames_ms = 0;
      for (const std::int64_t sample : run.samples_ns) frames_ms += static_cast<double>(sample) * 1e-6;
      run.processor_ms = (run.series.variant == "columns" ? share : 0.97) * frames_ms;
    }
  };
  columns_are_busy_for(0.8);
  EXPECT_THAT(warnings_in(study), Contains(HasSubstr("columns is blocked for 20 % of its frames")));
  EXPECT_THAT(warnings_in(study), Not(Contains(HasSubstr("objects is blocked"))));
  columns_are_busy_for(0.9);
  EXPECT_THAT(warnings_in(study), Not(Contains(HasSubstr("is blocked"))));
}

TEST(Warnings, SayWhatOthersOnTheMachineAddToProgramsThatDoNotTell) {
  Study study = night();
  study.head.made_by = MadeBy::commands;
  const auto widths = [&] {
    const Interval interval = fit_curves(gather_evidence(study)).front().ms_interval_at(400);
    return std::log(*interval.high / *interval.low);
  };
  const double alone = widths();
  for (mileage::Run& run : study.runs) run.load = MachineLoad{2, 0, 0.5};
  EXPECT_THAT(warnings_in(study), Contains(HasSubstr("threads waited for a core 50 % of the time")));
  EXPECT_GT(widths(), alone + std::log(1.5)) << "its interval is as wide as that is worth";
  for (mileage::Run& run : study.runs) {
    run.yardstick = YardstickReading{1, 20, 100, 100, 100, 1, "lanterns"};
    run.waited_ns.assign(run.samples_ns.size(), 1000);
  }
  EXPECT_THAT(warnings_in(study), Not(Contains(HasSubstr("it is unknown how much"))));
  EXPECT_LT(widths(), alone + std::log(1.5));
}

TEST(Warnings, SayThatOthersHadTheCores) {
  Study study = night();
  for (mileage::Run& run : study.runs) {
    double wall_ms = 0;
    for (const std::int64_t sample : run.samples_ns) wall_ms += 1e-6 * static_cast<double>(sample);
    run.processor_ms = run.count > 400 ? 2 * wall_ms : wall_ms;
    run.load = MachineLoad{2, 0, 0.3};
  }
  EXPECT_THAT(warnings_in(study), Not(Contains(HasSubstr("used cores that"))));
  for (mileage::Run& run : study.runs) run.load = MachineLoad{2, 0, 1.0};
  EXPECT_THAT(warnings_in(study),
              Contains(HasSubstr("needs at 3 of 4 counts: on an idle machine it may take down to 50 "
                                 "% of the times shown there")));
}

TEST(Warnings, SayThatWaitingWasTakenOff) {
  Study study = night();
  for (mileage::Run& run : study.runs)
    for (std::int64_t& sample : run.samples_ns) run.waited_ns.push_back(sample / 5);
  EXPECT_THAT(warnings_in(study), Contains(HasSubstr("threads waited for a core 20 % of the frame time")));
}

TEST(Warnings, SayFirstThatTheMachineWasBusy) {
  Study study = night();
  const auto probes_take = [&](double ns) {
    for (std::size_t i = 0; i < study.runs.size(); ++i)
      study.runs[i].yardstick = YardstickReading{3, 20, ns, ns, i < 12 ? 100 : ns};
  };
  probes_take(160);
  EXPECT_THAT(warnings_in(study), Contains(HasSubstr("the machine ran 1.60x slower than at full speed")));
  probes_take(110);
  EXPECT_THAT(warnings_in(study), Not(Contains(HasSubstr("slower than"))));
}

TEST(Warnings, SayWhatTheFileAndItsMakerSay) {
  Study study = night();
  study.warnings = {"the last line is cut off"};
  study.head.notes = {"loading frames are set apart"};
  EXPECT_THAT(warnings_in(study), testing::ElementsAre("the last line is cut off", "loading frames are set apart"));
}

TEST(Warnings, OnlyCommandsAreToldThatTheyStateNoOutcome) {
  Study study = night();
  EXPECT_THAT(warnings_in(study), Not(Contains(HasSubstr("states no outcome"))));
  study.head.made_by = MadeBy::commands;
  EXPECT_THAT(warnings_in(study), Contains(HasSubstr("objects states no outcome")));
}

}  // namespace
}  // namespace mileage
