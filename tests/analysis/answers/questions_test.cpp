#include "analysis/answers/questions.h"

#include <gtest/gtest.h>

#include "analysis/evidence/evidence_set.h"
#include "support/made_studies.h"
#include "types/error.h"

namespace mileage {
namespace {

class QuestionsOfANight : public testing::Test {
 protected:
  QuestionsOfANight() {
    made::Setting setting;
    setting.truths = {{"objects", [](double n) { return n; }}};
    setting.counts = {1, 2};
    study_ = made::study_of(setting);
    study_.head.plan.budget_ms = 20;
    evidence_ = gather_evidence(study_);
  }
  Study study_;
  EvidenceSet evidence_;
};

TEST_F(QuestionsOfANight, TheBudgetIsThatOfThePlanUnlessAskedOtherwise) {
  Questions questions;
  EXPECT_EQ(questions.budgets_of(evidence_), std::vector<double>{20});
  EXPECT_DOUBLE_EQ(questions.min_saving_ms(evidence_), 0.4) << "2 % of it";
  questions.budgets_ms = {5, 10};
  EXPECT_EQ(questions.budgets_of(evidence_), (std::vector<double>{5, 10}));
  EXPECT_DOUBLE_EQ(questions.min_saving_ms(evidence_), 0.1) << "of the first one";
}

TEST_F(QuestionsOfANight, AnUnknownVariantIsRefusedWithThoseThatAreThere) {
  EXPECT_NO_THROW(check_variants(evidence_, {"objects"}, "between"));
  try {
    check_variants(evidence_, {"objects", "object"}, "between");
    FAIL();
  } catch (const Error& error) {
    EXPECT_STREQ(error.what(),
                 "between: no such variant in the study; found \"object\"; accepted: variants of this study: objects");
  }
}

}  // namespace
}  // namespace mileage
