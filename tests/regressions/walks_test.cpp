#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <filesystem>
#include <sstream>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/scratch.h"

namespace mileage {
namespace {

using testing::SizeIs;
using testing_support::Ran;
using testing_support::read_text;
using testing_support::run_in;
using testing_support::ScratchFolder;

struct Step {
  std::string command;
  std::string output;
};

struct Walk {
  bool is_exact = false;  ///< Same output everywhere; else it measures.
  std::string folder;
  std::vector<Step> steps;
};

/// After "<!-- exact: FOLDER -->" or "<!-- measured: FOLDER -->": commands after "$ " with output.
std::vector<Walk> walks_in(const std::string& page) {
  std::vector<Walk> walks;
  bool inside = false;
  std::istringstream lines(page);
  for (std::string line; std::getline(lines, line);) {
    for (const std::string kind : {"exact", "measured"})
      if (const std::string mark = "<!-- " + kind + ": "; line.rfind(mark, 0) == 0)
        walks.push_back({kind == "exact", line.substr(mark.size(), line.rfind(" -->") - mark.size()), {}});
    if (line.rfind("```", 0) == 0)
      inside = line == "```console";
    else if (inside && line.rfind("$ ", 0) == 0)
      walks.back().steps.push_back({line.substr(2), ""});
    else if (inside)
      walks.back().steps.back().output += line + "\n";
  }
  return walks;
}

/// With single blanks.
std::vector<std::string> headings_in(const std::string& output) {
  std::vector<std::string> headings;
  std::istringstream lines(output);
  std::string before;
  for (std::string line; std::getline(lines, line); before = line) {
    if (line.rfind("  --", 0) != 0 || line.find_first_not_of("- ") != std::string::npos) continue;
    std::istringstream words(before);
    std::string heading;
    for (std::string word; words >> word;) heading += (heading.empty() ? "" : " ") + word;
    headings.push_back(heading);
  }
  return headings;
}

void remove_studies(const std::filesystem::path& folder) {
  std::vector<std::filesystem::path> studies;
  for (const auto& entry : std::filesystem::directory_iterator(folder))
    if (entry.path().string().find(".study.jsonl") != std::string::npos) studies.push_back(entry.path());
  for (const auto& study : studies) std::filesystem::remove(study);
}

class Walks : public testing::Test {
 protected:
  Walks() {
    std::filesystem::copy(MILEAGE_SOURCE_DIR "/docs/walks", folder_ / "walks",
                          std::filesystem::copy_options::recursive);
    std::filesystem::create_directory(folder_ / "bin");
    std::filesystem::create_symlink(MILEAGE_PROGRAM, folder_ / "bin/mileage");
    std::filesystem::create_symlink(MILEAGE_RINGS, folder_ / "bin/rings");
    ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1);
    for (const char* page : {"first-hour.md", "questions.md"})
      for (Walk& walk : walks_in(read_text(std::filesystem::path(MILEAGE_SOURCE_DIR "/docs") / page)))
        walks_.push_back(std::move(walk));
  }
  Ran run(const Walk& walk, const Step& step) const {
    const std::string path =
        "PATH='" + (folder_ / "bin").string() + "':\"$PATH\"; export PATH; COLUMNS=100; export COLUMNS; ";
    return run_in(folder_ / "walks" / walk.folder, path + step.command);
  }
  /// Empty if every command answers as in the guide.
  std::string what_is_wrong(const Walk& walk) const {
    remove_studies(folder_ / "walks" / walk.folder);
    std::string wrong;
    for (const Step& step : walk.steps) {
      const Ran ran = run(walk, step);
      if (ran.code != 0) wrong += step.command + " ended with " + std::to_string(ran.code) + "\n" + ran.out + ran.err;
      const std::vector<std::string> headings = headings_in(ran.out);
      for (const std::string& heading : headings_in(step.output))
        if (std::none_of(headings.begin(), headings.end(),
                         [&](const std::string& one) { return one.rfind(heading, 0) == 0; }))
          wrong += step.command + " lacks \"" + heading + "\"\n" + ran.out + ran.err;
    }
    return wrong;
  }
  ScratchFolder folder_;
  std::vector<Walk> walks_;
};

TEST_F(Walks, FromTablesSayTheSameEverywhere) {
  ASSERT_THAT(walks_, SizeIs(3 + 8));
  for (const Walk& walk : walks_) {
    if (!walk.is_exact) continue;
    ASSERT_FALSE(walk.steps.empty());
    for (const Step& step : walk.steps) {
      const Ran ran = run(walk, step);
      EXPECT_EQ(ran.code, 0) << step.command << "\n" << ran.err;
      EXPECT_EQ(ran.out, step.output) << step.command;
    }
  }
}

TEST_F(Walks, ThatMeasureAnswerTheSameQuestions) {
  if (std::system("command -v python3 >/dev/null") != 0) GTEST_SKIP() << "python3 is not here";
  std::size_t measured = 0;
  for (const Walk& walk : walks_) {
    if (walk.is_exact) continue;
    // A shared machine may stand still for longer than a study takes.
    std::string wrong = what_is_wrong(walk);
    for (int again = 0; again < 2 && !wrong.empty(); ++again) wrong = what_is_wrong(walk);
    EXPECT_EQ(wrong, "");
    measured += walk.steps.size();
  }
  EXPECT_GE(measured, 2U);
}

}  // namespace
}  // namespace mileage
