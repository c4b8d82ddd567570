#include "guards/guards.h"

#include <regex>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/scratch.h"

namespace mileage::guards {
namespace {

using testing::ElementsAre;
using testing::IsEmpty;
using testing_support::ScratchFolder;
using testing_support::write_text;

const std::filesystem::path source = MILEAGE_SOURCE_DIR;

std::vector<std::string> verbs_of_the_program() {
  const std::string help = testing_support::run_in(source, "'" MILEAGE_PROGRAM "' --help").out;
  std::vector<std::string> verbs;
  static const std::regex line("\n  ([a-z]+) +[A-Z]");
  for (std::sregex_iterator at(help.begin(), help.end(), line), end; at != end; ++at) verbs.push_back((*at)[1]);
  return verbs;
}

TEST(SourceTree, IncludesGoDownwards) { EXPECT_THAT(upward_includes(source), IsEmpty()); }
TEST(SourceTree, PublicHeadersSuitAnyCodeBase) { EXPECT_THAT(unfit_public_headers(source), IsEmpty()); }
TEST(SourceTree, EveryTestIsRegistered) { EXPECT_THAT(unregistered_tests(source), IsEmpty()); }
TEST(SourceTree, LinesHaveTheirWidth) { EXPECT_THAT(long_lines(source), IsEmpty()); }
TEST(SourceTree, EverySourceOfTheCoreHasItsTest) { EXPECT_THAT(untested_sources(source), IsEmpty()); }
TEST(SourceTree, ConstantsOfTheAnalysisStandInTheirTable) { EXPECT_THAT(scattered_constants(source), IsEmpty()); }
TEST(SourceTree, UsesTheTermsOfTheField) { EXPECT_THAT(replaced_phrases(source), IsEmpty()); }
TEST(SourceTree, LinksLeadSomewhere) { EXPECT_THAT(dead_links(source), IsEmpty()); }
TEST(SourceTree, SnippetsAreTrue) { EXPECT_THAT(stale_snippets(source), IsEmpty()); }
TEST(SourceTree, VerbsInProseExist) {
  const auto verbs = verbs_of_the_program();
  ASSERT_THAT(verbs, testing::IsSupersetOf({"list", "measure", "drive", "capacity", "report"}));
  EXPECT_THAT(unknown_verbs(source, verbs), IsEmpty());
  EXPECT_GT(unknown_verbs(source, {}).size(), 25U) << "so many are seen at all";
}

class PlantedViolation : public testing::Test {
 protected:
  void plant(const std::string& file, const std::string& text) {
    const auto path = root_.path() / file;
    std::filesystem::create_directories(path.parent_path());
    write_text(path, text);
  }
  ScratchFolder root_;
};

TEST_F(PlantedViolation, OfTheLayersIsSeen) {
  plant("src/analysis/a.cpp", "#include \"measure/clock.h\"\n#include \"types/error.h\"\n");
  plant("src/views/b.cpp", "#include \"mileage/tool/tool.h\"\n");
  plant("src/misc/c.cpp", "");
  plant("include/mileage/alone.h", "#include <unistd.h>\n#include \"mileage/types/frame.h\"\n");
  EXPECT_THAT(upward_includes(root_.path()),
              ElementsAre("src/analysis/a.cpp includes measure/clock.h", "src/misc/c.cpp lies in no layer",
                          "src/views/b.cpp includes mileage/tool/tool.h",
                          "include/mileage/alone.h includes mileage/types/frame.h"));
}

TEST_F(PlantedViolation, OfTheRoomsIsSeen) {
  plant("src/analysis/statistics/a.cpp",
        "#include \"analysis/statistics/laws.h\"\n#include \"analysis/curves/curve.h\"\n");
  plant("src/analysis/answers/b.cpp", "#include \"analysis/analysis.h\"\n#include \"analysis/evidence/axis.h\"\n");
  plant("src/analysis/evidence/c.cpp", "#include \"analysis/analysis.h\"\n");
  plant("src/measure/machine/d.cpp", "#include \"measure/loop/plan.h\"\n#include \"study/study.h\"\n");
  EXPECT_THAT(upward_includes(root_.path()),
              ElementsAre("src/analysis/evidence/c.cpp includes analysis/analysis.h",
                          "src/analysis/statistics/a.cpp includes analysis/curves/curve.h",
                          "src/measure/machine/d.cpp includes measure/loop/plan.h"));
}

TEST_F(PlantedViolation, ALongLineIsSeen) {
  const std::string fits(120, 'x');
  plant("src/a.cpp", fits + "\n" + fits + "x\n");
  plant("docs/b.md", "| " + fits + " |\n" + fits + " more\n");
  EXPECT_THAT(long_lines(root_.path()), ElementsAre("docs/b.md:2", "src/a.cpp:2"));
}

TEST_F(PlantedViolation, ASourceWithoutATestIsSeen) {
  plant("src/study/a.cpp", "");
  plant("src/analysis/curves/b.cpp", "");
  plant("src/views/c.cpp", "");
  plant("tests/study/a_test.cpp", "");
  plant("tests/analysis/b_test.cpp", "");
  EXPECT_THAT(untested_sources(root_.path()), ElementsAre("src/analysis/curves/b.cpp"));
}

TEST_F(PlantedViolation, AScatteredConstantIsSeen) {
  plant("src/analysis/statistics/constants.h", "inline constexpr double known = 1;\n");
  plant("src/analysis/curves/a.cpp", "  constexpr double here = 1;\nif constexpr (true) {}\nconst double sum = 2;\n");
  EXPECT_THAT(scattered_constants(root_.path()), ElementsAre("src/analysis/curves/a.cpp has here"));
}

TEST_F(PlantedViolation, OfThePublicHeadersIsSeen) {
  plant("include/mileage/types/a.h",
        "// throw away\n#include <vector>\n#include <fmt/format.h>\nvoid f() { throw 1; }\n");
  EXPECT_THAT(unfit_public_headers(root_.path()),
              ElementsAre("include/mileage/types/a.h includes fmt/format.h", "include/mileage/types/a.h uses throw"));
}

TEST_F(PlantedViolation, AForgottenTestIsSeen) {
  plant("tests/CMakeLists.txt", "mileage_test(types types/a_test.cpp)\n");
  plant("tests/types/a_test.cpp", "");
  plant("tests/types/b_test.cpp", "");
  EXPECT_THAT(unregistered_tests(root_.path()), ElementsAre("types/b_test.cpp is in no CMakeLists.txt"));
}

TEST_F(PlantedViolation, ADeadLinkIsSeen) {
  plant("README.md", "[here](docs/a.md) and [there](docs/b.md#part) and ![picture](x.png)\n");
  plant("docs/a.md", "");
  EXPECT_THAT(dead_links(root_.path()), ElementsAre("README.md links to docs/b.md", "README.md links to x.png"));
}

TEST_F(PlantedViolation, OfAReplacedPhraseIsFound) {
  plant("README.md", "No difference can be told apart.\n");
  plant("src/views/a.cpp", "// brought to a level\nauto text = \"it is worth it\";\n");
  EXPECT_THAT(replaced_phrases(root_.path()),
              testing::UnorderedElementsAre("README.md says \"told apart\"", "src/views/a.cpp says \"worth it\"",
                                            "src/views/a.cpp says \"brought to\""));
}

TEST_F(PlantedViolation, AStaleSnippetIsSeen) {
  plant("example.cpp", "int main() {\n  return 0;\n}\n");
  plant("README.md",
        "<!-- from example.cpp -->\n```cpp\n  return 0;\n```\n\n<!-- from example.cpp -->\n```cpp\n  return 1;\n```\n");
  EXPECT_THAT(stale_snippets(root_.path()), ElementsAre("README.md shows a piece that is not in example.cpp"));
}

TEST_F(PlantedViolation, AnUnknownVerbIsSeen) {
  plant("README.md",
        "Run `mileage capacity x` or\nmileage dance y, then\n\n    mileage  sing z   # build/mileage hum\n\nand see "
        "that Mileage measures.\n");
  EXPECT_THAT(
      unknown_verbs(root_.path(), {"capacity"}),
      ElementsAre("README.md names the verb dance", "README.md names the verb sing", "README.md names the verb hum"));
}

}  // namespace
}  // namespace mileage::guards
