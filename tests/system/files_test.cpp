#include "system/files.h"

#include <sys/stat.h>

#include <gmock/gmock.h>

#include "support/refusal.h"
#include "support/scratch.h"

namespace mileage {
namespace {

using testing::HasSubstr;
using testing_support::read_text;
using testing_support::refusal;
using testing_support::ScratchFolder;
using testing_support::write_text;

std::size_t files_in(const ScratchFolder& folder) {
  std::size_t files = 0;
  for ([[maybe_unused]] const auto& entry : std::filesystem::directory_iterator(folder.path())) ++files;
  return files;
}

TEST(Files, OnlyRegularOnesAreReadAndNoneIsWaitedFor) {
  const ScratchFolder folder;
  write_text(folder / "text", "twelve bytes");
  EXPECT_EQ(read_regular_file(folder / "text", 12), "twelve bytes");
  EXPECT_THAT(refusal([&] { read_regular_file(folder / "text", 11); }), HasSubstr("too large"));
  EXPECT_THAT(refusal([&] { read_regular_file(folder / "none", 11); }), HasSubstr("No such file"));
  EXPECT_THAT(refusal([&] { read_regular_file(folder.path(), 11); }), HasSubstr("this is a folder"));
  EXPECT_THAT(refusal([&] { read_regular_file("/dev/zero", 11); }), HasSubstr("no regular file"));
  ASSERT_EQ(::mkfifo((folder / "pipe").c_str(), 0600), 0);
  EXPECT_THAT(refusal([&] { read_regular_file(folder / "pipe", 11); }), HasSubstr("no regular file"));
  std::filesystem::create_symlink("loop", folder / "loop");
  EXPECT_THAT(refusal([&] { check_regular_file(folder / "loop", 11); }), HasSubstr("symbolic links"));
}

TEST(Files, AreWrittenWholeOrNotAtAll) {
  const ScratchFolder folder;
  write_whole_file(folder / "a", "one", IfThere::refuse);
  EXPECT_EQ(read_text(folder / "a"), "one");
  EXPECT_THAT(refusal([&] { write_whole_file(folder / "a", "two", IfThere::refuse); }),
              HasSubstr("nothing is overwritten"));
  EXPECT_EQ(read_text(folder / "a"), "one");
  write_whole_file(folder / "a", "two", IfThere::replace);
  EXPECT_EQ(read_text(folder / "a"), "two");
  EXPECT_THAT(refusal([&] { write_whole_file(folder / "no" / "a", "x", IfThere::replace); }),
              HasSubstr("No such file"));
  EXPECT_THAT(refusal([] { write_whole_file("/dev/full/x", "x", IfThere::replace); }), HasSubstr("Not a directory"));
  EXPECT_EQ(files_in(folder), 1U);
}

TEST(Files, TemporaryFoldersGo) {
  std::filesystem::path path;
  {
    const TemporaryFolder folder;
    path = folder.path();
    write_text(path / "x", "y");
  }
  EXPECT_FALSE(std::filesystem::exists(path));
}

}  // namespace
}  // namespace mileage
