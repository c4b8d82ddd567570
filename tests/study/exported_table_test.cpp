#include "study/exported_table.h"

#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

#include "study/frame_table.h"
#include "study/study_json.h"
#include "support/made_studies.h"
#include "support/scratch.h"
#include "types/error.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing_support::ScratchFolder;
using testing_support::write_text;

Study small_study() {
  made::Setting setting;
  setting.truths = {{"plain", [](double n) { return 1e-3 * n; }}, {"packed", [](double n) { return 5e-4 * n; }}};
  setting.counts = {100, 200};
  setting.blocks = 2;
  setting.samples = 3;
  return made::study_of(setting);
}

class ExportedTable : public testing::Test {
 protected:
  std::optional<Study> back(const std::string& table) const {
    write_text(folder_ / "x.csv", table);
    return study_of_exported_table(folder_ / "x.csv");
  }
  ScratchFolder folder_;
};

TEST_F(ExportedTable, BecomesTheSameStudyAgain) {
  const Study study = small_study();
  const auto read = back(exported_table(study));
  ASSERT_TRUE(read);
  EXPECT_EQ(to_line(to_json(read->head)), to_line(to_json(study.head)));
  ASSERT_EQ(read->runs.size(), study.runs.size());
  for (std::size_t i = 0; i < study.runs.size(); ++i)
    EXPECT_EQ(to_line(to_json(read->runs[i])), to_line(to_json(study.runs[i])));
}

TEST_F(ExportedTable, IsReadByItsColumnsWhereItsCommentsNoLongerFit) {
  std::string table = exported_table(small_study());
  EXPECT_FALSE(back(table.substr(table.rfind('#'))).has_value()) << "without its head";
  const auto renamed = table.rfind("\nplain,");
  table.replace(renamed, 6, "\nfancy");
  EXPECT_FALSE(back(table).has_value()) << "a row of another variant";
}

TEST_F(ExportedTable, ARunWhoseRowsWereTakenOutIsLeftOut) {
  const Study study = small_study();
  std::string table = exported_table(study);
  const auto rows_of_last_run = table.find(",1,7,kept,");
  table.erase(table.rfind('\n', rows_of_last_run) + 1);
  const auto read = back(table);
  ASSERT_TRUE(read);
  EXPECT_EQ(read->runs.size(), study.runs.size() - 1);
}

TEST_F(ExportedTable, ABrokenCommentIsNamedWithItsLine) {
  try {
    back("# mileage-study {\nvariant,count,frame_ms\n");
    FAIL() << "read";
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), HasSubstr("x.csv:1: not the comment of an exported study"));
  }
}

}  // namespace
}  // namespace mileage
