#include "study/study_file.h"

#include <sys/resource.h>

#include <algorithm>
#include <cmath>
#include <csignal>
#include <set>

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "study/study_json.h"
#include "support/made_studies.h"
#include "support/scratch.h"
#include "types/error.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing_support::read_text;
using testing_support::ScratchFolder;
using testing_support::write_text;

Study study_with_knobs() {
  made::Setting setting;
  Knobs knobs;
  knobs.set("wind", 2.5);
  knobs.set("order", std::string("shuffled"));
  setting.truths = {{"objects", [](double n) { return 1e-4 * n; }, knobs}};
  setting.counts = {100, 1000};
  setting.blocks = 2;
  return made::study_of(setting);
}

std::filesystem::path written(const ScratchFolder& folder, const Study& study) {
  const auto path = folder / "small.study.jsonl";
  StudyWriter writer(path, study.head);
  for (const mileage::Run& run : study.runs) writer.append(run);
  return path;
}

std::string message_of(const std::filesystem::path& path) {
  try {
    read_study(path);
  } catch (const Error& error) {
    EXPECT_EQ(error.fault().kind, FaultKind::bad_input);
    return error.what();
  }
  return "read without complaint";
}

TEST(StudyFile, ReadsBackWhatWasWritten) {
  const ScratchFolder folder;
  Study study = study_with_knobs();
  study.runs[0].phases_ms["gather"] = 1.5;
  study.runs[0].counters["updates"] = 2000;
  study.runs[1].status = RunStatus::failed;
  study.runs[1].failure = "ended by SIGSEGV";
  study.runs[1].samples_ns.clear();
  const Study read = read_study(written(folder, study));
  EXPECT_EQ(to_json(read.head), to_json(study.head));
  ASSERT_EQ(read.runs.size(), study.runs.size());
  for (std::size_t i = 0; i < read.runs.size(); ++i) EXPECT_EQ(to_json(read.runs[i]), to_json(study.runs[i]));
  EXPECT_TRUE(read.warnings.empty());
  EXPECT_EQ(read.name, "small.study.jsonl");
}

// Written by the first program with format version 1; shortened.
TEST(StudyFile, ReadsTheFirstFilesOfItsVersion) {
  const Study study = read_study(MILEAGE_SOURCE_DIR "/tests/data/first.study.jsonl");
  EXPECT_TRUE(study.warnings.empty());
  EXPECT_EQ(study.head.scenario.name, "drift");
  EXPECT_FALSE(study.head.full_speed_ns);
  ASSERT_GT(study.runs.size(), 20U);
  EXPECT_FALSE(study.runs.back().yardstick);
  EXPECT_EQ(study.runs.back().status, RunStatus::kept);
}

TEST(StudyFile, ReadsVersionTwoAsTheSameStudy) {
  const Study second = read_study(MILEAGE_SOURCE_DIR "/tests/data/second.study.jsonl");
  const Study today = read_study(MILEAGE_SOURCE_DIR "/docs/walks/slow/ladder.study.jsonl");
  Json head = to_json(second.head);
  head["version"] = study_format_version;
  EXPECT_EQ(head, to_json(today.head));
  std::set<RunStatus> statuses;
  for (const mileage::Run& run : second.runs) {
    statuses.insert(run.status);
    const Json json = to_json(run);
    EXPECT_TRUE(std::any_of(today.runs.begin(), today.runs.end(), [&](const mileage::Run& same) {
      return to_json(same) == json;
    })) << json.dump();
  }
  EXPECT_THAT(statuses, testing::UnorderedElementsAre(RunStatus::check, RunStatus::range_finding, RunStatus::kept,
                                                      RunStatus::disturbed));
}

TEST(StudyFile, IgnoresFieldsItDoesNotKnow) {
  const ScratchFolder folder;
  const auto path = written(folder, study_with_knobs());
  std::string text = read_text(path);
  text.replace(text.find("\"count\":"), 8, "\"moon\":{\"full\":true},\"count\":");
  write_text(path, text);
  EXPECT_EQ(read_study(path).runs.size(), 4U);
}

TEST(StudyFile, LeavesOutALastLineThatWasCutOff) {
  const ScratchFolder folder;
  const auto path = written(folder, study_with_knobs());
  const std::string text = read_text(path);
  write_text(path, text.substr(0, text.size() - 30));
  const Study study = read_study(path);
  EXPECT_EQ(study.runs.size(), 3U);
  ASSERT_EQ(study.warnings.size(), 1U);
  EXPECT_THAT(study.warnings[0], HasSubstr("line 5"));
}

TEST(StudyFile, ACutOffHeadIsNoStudyEvenWhereItReads) {
  const ScratchFolder folder;
  const auto path = written(folder, study_with_knobs());
  const std::string text = read_text(path);
  write_text(path, text.substr(0, text.find('\n')));
  EXPECT_THAT(message_of(path), HasSubstr(":1: the head of the study is cut off"));
}

TEST(StudyFile, GoesOnBehindTheLastWholeLine) {
  const ScratchFolder folder;
  const Study study = study_with_knobs();
  const auto path = written(folder, study);
  const std::string text = read_text(path);
  write_text(path, text.substr(0, text.size() - 30));
  {
    Study found;
    StudyWriter writer(path, found);
    EXPECT_EQ(found.runs.size(), 3U);
    EXPECT_THROW(StudyWriter second(path, found), Error);  // While the first lives.
    writer.append(study.runs[3]);
  }
  EXPECT_EQ(read_text(path), text);
}

TEST(StudyFile, NamesInWhatTwoHeadsDiffer) {
  const Study study = study_with_knobs();
  EXPECT_TRUE(differences(study.head, study.head).empty());
  Head other = study.head;
  other.plan.seed = 9;
  other.plan.counts.push_back(5000);
  EXPECT_THAT(
      differences(study.head, other),
      testing::ElementsAre("counts is [100,1000] in the file, [100,1000,5000] now", "seed is 1 in the file, 9 now"));
}

TEST(StudyFile, NamesTheLineThatIsBroken) {
  const ScratchFolder folder;
  const auto path = written(folder, study_with_knobs());
  std::string text = read_text(path);
  const auto third = text.find('\n', text.find('\n') + 1) + 1;
  text.replace(third, 5, "{{{{{");
  write_text(path, text);
  EXPECT_THAT(message_of(path), HasSubstr("small.study.jsonl:3: not a line of JSON"));
}

struct BrokenField {
  const char* from;
  const char* to;
  const char* said;
};
void PrintTo(const BrokenField& field, std::ostream* out) { *out << field.to; }
class StudyWithABrokenField : public testing::TestWithParam<BrokenField> {};

TEST_P(StudyWithABrokenField, IsRefusedWithLineAndField) {
  const ScratchFolder folder;
  const auto path = written(folder, study_with_knobs());
  std::string text = read_text(path);
  const auto runs = text.find('\n');
  text.replace(text.find(GetParam().from, runs), std::string(GetParam().from).size(), GetParam().to);
  write_text(path, text);
  EXPECT_THAT(message_of(path), HasSubstr(GetParam().said));
}

INSTANTIATE_TEST_SUITE_P(
    StudyFile, StudyWithABrokenField,
    testing::Values(
        BrokenField{"\"count\":100", "\"count\":-3", ":2: count: out of range; found \"-3\""},
        BrokenField{"\"count\":100", "\"count\":\"many\"", ":2: count: the value has the wrong type"},
        BrokenField{"\"count\":100", "\"coumt\":100", ":2: count: the field is missing"},
        BrokenField{"\"kept\"", "\"lost\"", ":2: status: not a status"},
        BrokenField{"\"samples_ns\":[", "\"samples_ns\":[0,", ":2: samples_ns: a sample without time in it"},
        BrokenField{"\"frames_per_sample\":1", "\"frames_per_sample\":0", ":2: frames_per_sample: out of range"}));

TEST(StudyFile, RefusesWhatIsNoStudy) {
  const ScratchFolder folder;
  EXPECT_THAT(message_of(folder / "none.study.jsonl"), HasSubstr("No such file"));
  EXPECT_THAT(message_of(folder.path()), HasSubstr("this is a folder"));
  write_text(folder / "empty", "");
  EXPECT_THAT(message_of(folder / "empty"), HasSubstr("the file is empty"));
  write_text(folder / "other", "{\"a\":1}\n");
  EXPECT_THAT(message_of(folder / "other"), HasSubstr("other:1: not a study of Mileage"));
  write_text(folder / "text", "once upon a time\n");
  EXPECT_THAT(message_of(folder / "text"), HasSubstr("text:1: not a line of JSON"));
  write_text(folder / "future", "{\"format\":\"mileage-study\",\"version\":4}\n");
  EXPECT_THAT(message_of(folder / "future"), HasSubstr("future:1: version: written in a version"));
}

TEST(StudyFile, NeverTouchesAFileThatExists) {
  const ScratchFolder folder;
  const auto path = folder / "night.study.jsonl";
  write_text(path, "precious");
  EXPECT_THROW(StudyWriter(path, study_with_knobs().head), Error);
  EXPECT_EQ(read_text(path), "precious");
}

TEST(StudyFile, SaysWhyItCannotWrite) {
  const ScratchFolder folder;
  try {
    StudyWriter writer(folder / "no-such-folder" / "x.study.jsonl", study_with_knobs().head);
    FAIL();
  } catch (const Error& error) {
    EXPECT_EQ(error.fault().kind, FaultKind::cannot_write);
    EXPECT_THAT(error.what(), HasSubstr("No such file or directory"));
  }
}

/// A file size limit acts like a full disk.
class FullDisk {
 public:
  explicit FullDisk(rlim_t bytes) {
    ::signal(SIGXFSZ, SIG_IGN);
    ::getrlimit(RLIMIT_FSIZE, &before_);
    const rlimit limit{bytes, before_.rlim_max};
    ::setrlimit(RLIMIT_FSIZE, &limit);
  }
  ~FullDisk() {
    ::setrlimit(RLIMIT_FSIZE, &before_);
    ::signal(SIGXFSZ, SIG_DFL);
  }

 private:
  rlimit before_{};
};

TEST(StudyFile, AFullDiskLeavesAReadableFile) {
  const ScratchFolder folder;
  const Study study = study_with_knobs();
  const auto path = folder / "full.study.jsonl";
  StudyWriter writer(path, study.head);
  writer.append(study.runs[0]);
  {
    const FullDisk disk(std::filesystem::file_size(path) + 20);
    try {
      writer.append(study.runs[1]);
      FAIL();
    } catch (const Error& error) {
      EXPECT_EQ(error.fault().kind, FaultKind::cannot_write);
    }
  }
  const Study read = read_study(path);
  EXPECT_EQ(read.runs.size(), 1U);
  EXPECT_TRUE(read.warnings.empty());
}

TEST(StudyFile, CarriesOutcomesThatAreNoNumbers) {
  Study study = study_with_knobs();
  study.runs[0].outcome.state("mean height", std::nan(""), 0.1);
  const ScratchFolder folder;
  const Study read = read_study(written(folder, study));
  EXPECT_TRUE(std::isnan(read.runs[0].outcome.quantities().back().value));
}

}  // namespace
}  // namespace mileage
