#include <fstream>

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validator.hpp>

#include "study/study_json.h"
#include "support/made_docs.h"
#include "support/made_studies.h"
#include "support/scratch.h"

namespace mileage {
namespace {

class StudySchema : public testing::Test {
 protected:
  StudySchema() {
    const auto json =
        nlohmann::json::parse(testing_support::read_text(MILEAGE_SOURCE_DIR "/docs/reference/study.schema.json"));
    valijson::SchemaParser().populateSchema(valijson::adapters::NlohmannJsonAdapter(json), schema_);
  }

  bool accepts(const std::string& line) {
    const auto json = nlohmann::json::parse(line);
    return valijson::Validator().validate(schema_, valijson::adapters::NlohmannJsonAdapter(json), nullptr);
  }

  valijson::Schema schema_;
};

TEST(Docs, AreMadeFromTheDescriptionsInTheCode) {
  const std::filesystem::path docs = MILEAGE_SOURCE_DIR "/docs";
  for (const auto& [file, text] : testing_support::made_docs(docs))
    EXPECT_TRUE(testing_support::read_text(docs / file) == text) << file << " is stale: run scripts/docs.sh";
}

TEST_F(StudySchema, AcceptsEveryLineOfTheDemoStudy) {
  std::ifstream stream(MILEAGE_SOURCE_DIR "/demo/drift.study.jsonl");
  int lines = 0;
  for (std::string line; std::getline(stream, line); ++lines) ASSERT_TRUE(accepts(line)) << "line " << lines + 1;
  EXPECT_GT(lines, 100);
}

TEST_F(StudySchema, AcceptsAFailedRun) {
  made::Setting setting;
  setting.truths = {{"objects", [](double) { return 1.0; }}};
  setting.counts = {10};
  mileage::Run run = made::study_of(setting).runs.front();
  run.status = RunStatus::failed;
  run.failure = "ended by SIGSEGV";
  EXPECT_TRUE(accepts(to_line(to_json(run))));
}

TEST_F(StudySchema, RefusesLinesThatLackWhatTheyMustHave) {
  EXPECT_FALSE(accepts(R"({"format":"mileage-study","version":1})"));
  EXPECT_FALSE(accepts(R"({"series":{"variant":"objects","knobs":{}},"count":0,"block":0,"order":0,"status":"kept"})"));
  EXPECT_FALSE(accepts(R"({"anything":1})"));
}

}  // namespace
}  // namespace mileage
