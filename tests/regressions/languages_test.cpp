#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "study/study_file.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using testing_support::Ran;
using testing_support::read_text;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

struct Language {
  const char* name;  ///< Of its block in the guide.
  const char* interpreter;
  const char* call;  ///< Records 40 frames at 500 entities.
};
void PrintTo(const Language& language, std::ostream* out) { *out << language.name; }

class Languages : public testing::TestWithParam<Language> {};

std::string snippet(const std::string& language) {
  const std::string guide = read_text(MILEAGE_SOURCE_DIR "/docs/reference/recording.md");
  const std::string fence = "```" + language + "\n";
  const std::size_t begin = guide.find(fence) + fence.size();
  return guide.substr(begin, guide.find("```", begin) - begin);
}

TEST_P(Languages, WriteATableThatIsAStudy) {
  const Language& language = GetParam();
  const ScratchFolder folder;
  if (run_in(folder.path(), std::string("command -v ") + language.interpreter).code != 0)
    GTEST_SKIP() << language.interpreter << " is not installed";
  write_text(folder / "record", snippet(language.name) + "\n" + language.call + "\n");
  const Ran recorded = run_in(folder.path(), std::string(language.interpreter) + " record");
  ASSERT_EQ(recorded.code, 0) << recorded.err;
  const Ran ran = run_in(folder.path(), "'" MILEAGE_PROGRAM "' import t.csv -o t.study.jsonl");
  ASSERT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(ran.out, testing::HasSubstr("At 500 entities: linked "));
  const Study study = read_study(folder / "t.study.jsonl");
  ASSERT_EQ(study.runs.size(), 1U);
  EXPECT_EQ(study.runs[0].samples_ns.size() + study.runs[0].warmup_ns.size(), 40U);
}

INSTANTIATE_TEST_SUITE_P(
    OfTheGuide, Languages,
    testing::Values(
        Language{"python", "python3", R"(record("t.csv", "linked", 500, lambda: sum(range(50000)), 40))"},
        Language{"lua", "lua5.4",
                 R"(record("t.csv", "linked", 500, function() local s = 0 for i = 1, 50000 do s = s + i end end, 40))"},
        Language{"js", "node",
                 R"(record("t.csv", "linked", 500, )"
                 R"(() => { let s = 0; for (let i = 0; i < 5e5; ++i) s += i; }, 40);)"}));

}  // namespace
}  // namespace mileage
