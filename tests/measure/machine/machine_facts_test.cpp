#include "measure/machine/machine_facts.h"

#include <unistd.h>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "study/study_json.h"

namespace mileage {
namespace {

TEST(MachineFacts, TellWhatMattersForTimesAndNameNobody) {
  const Machine machine = machine_facts();
  EXPECT_GE(machine.cores, 1);
  EXPECT_GT(machine.memory_bytes, 64e6);
  EXPECT_THAT(machine.system, testing::StartsWith("Linux "));
  for (const auto& [name, bytes] : machine.cache_bytes) {
    EXPECT_THAT(name, testing::MatchesRegex("L[1-4]"));
    EXPECT_GT(bytes, 0);
  }
  char host[256] = {};
  ASSERT_EQ(::gethostname(host, sizeof host - 1), 0);
  EXPECT_THAT(to_line(to_json(machine)), testing::Not(testing::HasSubstr(host)));
}

}  // namespace
}  // namespace mileage
