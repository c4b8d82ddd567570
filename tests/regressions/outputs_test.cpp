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

TEST_F(Outputs, OfOneNameAreRefused) {
  for (const std::string command : {"report " + study + " -o same.html --figure ./same.html",
                                    "frames " + study + " --figure a.png --work-figure a.png"}) {
    const Ran ran = run(command);
    EXPECT_NE(ran.code, 0) << command;
  }
  shell("mkdir a b; cp " + study + " a/x.study.jsonl; cp " + study + " b/x.study.jsonl");
  const Ran ran = run("report a/x.study.jsonl b/x.study.jsonl");
  EXPECT_EQ(ran.code, 4);
  EXPECT_THAT(ran.err, HasSubstr("x.html: two outputs of this command have this name"));
}

TEST_F(Outputs, FiguresOfKnobsAcrossAllNumbersEnd) {
  std::string table = "variant,count,run,knob:glow,frame_ms\n";
  for (const char* glow : {"0", "1", "1e300"})
    for (int run = 0; run < 3; ++run)
      table += "a,1000," + std::to_string(run) + "," + glow + ",1." + std::to_string(run) + "\n";
  write_text(folder_ / "t.csv", table);
  ASSERT_EQ(run("import t.csv -o t.study.jsonl").code, 0);
  for (const std::string figure : {"t.svg", "t.png"})
    EXPECT_EQ(shell("timeout 30 '" MILEAGE_PROGRAM "' tune t.study.jsonl --figure " + figure).code, 0) << figure;
}

TEST_F(Outputs, SvgIsWellFormedWhateverVariantsAreCalled) {
  std::string table = "variant,count,run,frame_ms\n";
  for (const int count : {100, 200, 400})
    for (const char* name : {"]]>", "<b>&"})
      table += std::string(name) + "," + std::to_string(count) + ",1," + std::to_string(0.01 * count) + "\n";
  write_text(folder_ / "t.csv", table);
  ASSERT_EQ(run("import t.csv -o t.study.jsonl").code, 0);
  ASSERT_EQ(run("report t.study.jsonl --figure t.svg").code, 0);
  const std::string svg = read_text(folder_ / "t.svg");
  EXPECT_THAT(svg, HasSubstr("]]&gt;"));
  EXPECT_THAT(svg, testing::Not(HasSubstr("]]>")));
}

TEST_F(Outputs, SayThatAStudyDoesNotHoldWhatIsAskedFor) {
  for (const std::string command :
       {"cost " + study + " --at 500M", "choose " + study + " --at 1", "capacity " + study + " --at 500M",
        "tune " + study + " --at 5", "ladder " + study, "frames " + study + " --at 500M"}) {
    const Ran ran = run(command);
    EXPECT_EQ(ran.code, 7) << command << ran.err;
    EXPECT_NE(ran.out, "") << command;
  }
  EXPECT_EQ(run("cost " + study + " --at 50k,500M").code, 0) << "one of them is answered";
}

TEST_F(Outputs, NameTheProgramThatWasRun) {
  shell("cp '" MILEAGE_ODD_TOOL "' flock; cp " + study + " .");
  const Ran ran = shell("./flock capacity drift.study.jsonl --budget 2000ms");
  EXPECT_THAT(ran.out, HasSubstr("./flock measure --scenario drift"));
}

TEST_F(Outputs, AClosedPipeEndsQuietly) {
  // As inherited from another program.
  const Ran ran = shell("trap '' PIPE; '" MILEAGE_PROGRAM "' curve " + study + " --points --parts --json | head -1");
  EXPECT_EQ(ran.err, "");
}

TEST_F(Outputs, ClosedStandardErrorIsNoStudyFile) {
  const Ran ran = shell(
      "'" MILEAGE_PROGRAM
      "' measure --scenario drift --variants columns --counts 10,20 --blocks 1 --frames 3 -o x.study.jsonl 2>&- >told");
  EXPECT_EQ(ran.code, 0);
  EXPECT_GT(read_study(folder_ / "x.study.jsonl").runs.size(), 3U);
}

TEST_F(Outputs, AFullDiskLeavesNoHalfOfAnExport) {
  // A file size limit acts like a full disk.
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
