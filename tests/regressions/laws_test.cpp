#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

#include "support/scratch.h"

namespace mileage {
namespace {

using nlohmann::json;
using testing::AnyOf;
using testing_support::Ran;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

std::map<std::string, json> curves_of_sorts() {
  const ScratchFolder folder;
  std::string plan = "scenario = \"sorts\"\ncounts = [16, 40, 100, 250, 630, 1600, 4000]\nblocks = 3\n";
  for (const char* way : {"insertion", "library", "stable", "heap", "scan", "searches", "tree"})
    plan += std::string("[variant.") + way + "]\nrun = [\"" MILEAGE_COUNTING_SORTS "\", \"" + way +
            "\", \"{count}\", \"{seed}\", \"{frames}\", \"{table}\"]\n";
  write_text(folder / "sorts.toml", plan + "[command]\nframes = 24\n");
  const std::string tool = "'" MILEAGE_PROGRAM "' ";
  const Ran measured = run_in(folder.path(), tool + "measure sorts.toml --no-refine -o sorts.study.jsonl");
  EXPECT_EQ(measured.code, 0) << measured.err;
  const Ran told = run_in(folder.path(), tool + "curve sorts.study.jsonl --json");
  std::map<std::string, json> curves;
  const json answer = json::parse(told.out);
  for (const json& curve : answer["curves"]) curves[curve["variant"]] = curve;
  return curves;
}

TEST(Laws, OfRealSortsAndSearchesAreUseful) {
  const auto curves = curves_of_sorts();
  ASSERT_EQ(curves.size(), 7U);
  EXPECT_THAT(curves.at("insertion")["law"], AnyOf("quadratic", "linear and quadratic"));
  EXPECT_NEAR(curves.at("insertion")["exponent"].get<double>(), 2, 0.05);
  EXPECT_EQ(curves.at("scan")["law"], "linear");
  for (const char* way : {"library", "stable", "heap", "searches", "tree"})
    EXPECT_EQ(curves.at(way)["law"], "n log n") << way << ": " << curves.at(way).dump();
  for (const auto& [way, curve] : curves) EXPECT_LT(curve["deviation"].get<double>(), 0.2) << way;
}

}  // namespace
}  // namespace mileage
