#include "analysis/analysed_study.h"

#include <gtest/gtest.h>

#include "analysis/analysis.h"
#include "support/made_studies.h"
#include "types/error.h"

namespace mileage {
namespace {

AnalysedStudy analysed(const std::string& axis) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}};
  setting.counts = {100, 200, 400};
  return AnalysedStudy(made::study_of(setting), {.axis = axis});
}

TEST(AnalysedStudy, ItsAnalysisRefersToItsOwnStudyWhereverItIsMoved) {
  AnalysedStudy first = analysed(count_axis);
  const Study* study = &first.study();
  const AnalysedStudy moved = std::move(first);
  EXPECT_EQ(&moved.study(), study);
  EXPECT_EQ(moved.analysis().evidence.study, study);
  EXPECT_EQ(moved.analysis().evidence.series.front().runs.front()->run, &study->runs.front());
}

TEST(AnalysedStudy, AnAxisThatIsNotThereIsRefused) { EXPECT_THROW(analysed("wind"), Error); }

}  // namespace
}  // namespace mileage
