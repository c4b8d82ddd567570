// Whatever is written is written whole, where people want it, or refused with its own code.
#include <cstdlib>

#include <gmock/gmock.h>

#include "study/study_file.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing_support::Ran;
using testing_support::read_text;
using testing_support::run_in;
using testing_support::ScratchFolder;
using testing_support::write_text;

const std::string study = "'" MILEAGE_SOURCE_DIR "/demo/drift.study.jsonl'";

class Outputs : public testing::Test {
 protected:
  Outputs() { ::setenv("MILEAGE_STATE", (folder_ / "state").c_str(), 1); }
  Ran shell(const std::string& command) const { return run_in(folder_.path(), command); }
  Ran run(const std::string& arguments) const { return shell("'" MILEAGE_PROGRAM "' " + arguments); }
  std::size_t files() const {
    std::size_t count = 0;
    for ([[maybe_unused]] const auto& entry : std::filesystem::directory_iterator(folder_.path())) ++count;
    return count;
  }
  ScratchFolder folder_;
};

TEST_F(Outputs, AnAnswerThatCannotBeWrittenIsNoAnswer) {
  for (const std::string answer : {"capacity " + study, "curve " + study + " --json", std::string("list"),
                                   std::string("--help"), std::string("capacity --help")}) {
    const Ran ran = run(answer + " > /dev/full");
    EXPECT_EQ(ran.code, 4) << answer;
    EXPECT_THAT(ran.err, HasSubstr("No space left on device"));
  }
}

TEST_F(Outputs, AClosedPipeEndsQuietly) {
  // The program ignores SIGPIPE, as when a program that does so starts it.
  const Ran ran = shell("trap '' PIPE; '" MILEAGE_PROGRAM "' curve " + study + " --points --parts --json | head -1");
  EXPECT_EQ(ran.err, "");
}

TEST_F(Outputs, ClosedStandardErrorIsNoStudyFile) {
  const Ran ran = shell(
      "'" MILEAGE_PROGRAM
      "' measure --scenario drift --variants columns --counts 10,20 --blocks 1 --frames 3 -o x.study.jsonl 2>&- >told");
  EXPECT_EQ(ran.code, 0);
  EXPECT_GT(read_study(folder_ / "x.study.jsonl").visits.size(), 3U);
}

TEST_F(Outputs, AFullDiskLeavesNoHalfOfAnExport) {
  // A limit on the size of files stands for a full disk.
  const Ran ran = shell("trap '' XFSZ; ulimit -f 64; '" MILEAGE_PROGRAM "' export " + study + " -o out");
  EXPECT_EQ(ran.code, 4);
  EXPECT_EQ(files(), 0U);
  EXPECT_EQ(run("export " + study + " -o out").code, 0) << "nothing blocks the next one";
}

TEST_F(Outputs, AFullDiskLeavesNoHalfOfAPage) {
  EXPECT_EQ(shell("trap '' XFSZ; ulimit -f 8; '" MILEAGE_PROGRAM "' report " + study + " -o out.html").code, 4);
  EXPECT_EQ(files(), 0U);
}

TEST_F(Outputs, OnlyFilesOfItsOwnAreReplaced) {
  for (const std::string output : {"-o mine.html", "--figure mine.png", "--figure mine.svg"}) {
    const std::string name = output.substr(output.find(' ') + 1);
    write_text(folder_ / name, "my own work\n");
    const Ran refused = run("report " + study + " " + output);
    EXPECT_EQ(refused.code, 4) << output;
    EXPECT_THAT(refused.err, HasSubstr("was not written by mileage"));
    EXPECT_EQ(read_text(folder_ / name), "my own work\n");
    std::filesystem::remove(folder_ / name);
    EXPECT_EQ(run("report " + study + " " + output).code, 0);
    EXPECT_EQ(run("report " + study + " " + output).code, 0) << "its own";
  }
}

TEST_F(Outputs, AMistakeOfMileageItselfHasItsOwnCodeAndWords) {
  const Ran ran = shell("'" MILEAGE_ODD_TOOL "' list");
  EXPECT_EQ(ran.code, 6);
  EXPECT_THAT(ran.err, HasSubstr("internal error, a mistake of mileage itself: the wick is wet"));
}

}  // namespace
}  // namespace mileage
