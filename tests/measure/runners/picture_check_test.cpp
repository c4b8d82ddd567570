#include "measure/runners/picture_check.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/pictures.h"
#include "support/scratch.h"
#include "types/error.h"

namespace mileage {
namespace {

using testing_support::grey_picture;
using testing_support::ScratchFolder;
using testing_support::write_png;
using testing_support::write_text;

TEST(PictureCheck, ReadsWhatWasWritten) {
  const ScratchFolder folder;
  write_png(folder / "a.png", grey_picture(7));
  const Picture read = read_png(folder / "a.png");
  EXPECT_EQ(read.width, 100);
  EXPECT_EQ(read.height, 50);
  EXPECT_EQ(read.pixels, grey_picture(7).pixels);
}

TEST(PictureCheck, CountsPixelsThatDifferAndTheirMean) {
  const PictureDifference none = difference_of(grey_picture(), grey_picture());
  EXPECT_EQ(none.pixels, 0);
  EXPECT_EQ(none.mean, 0);
  const PictureDifference some = difference_of(grey_picture(), grey_picture(500, 51));
  EXPECT_DOUBLE_EQ(some.pixels, 0.1);
  EXPECT_DOUBLE_EQ(some.mean, 0.02) << "a tenth of the pixels by a fifth of the range";
  EXPECT_EQ(difference_of(grey_picture(), grey_picture(500, 3)).pixels, 0) << "rounding is no difference";
}

TEST(PictureCheck, RefusesWhatIsNoPicture) {
  const ScratchFolder folder;
  write_text(folder / "a.png", "\x89PNG\r\n\x1a\n and nothing more");
  EXPECT_THROW(read_png(folder / "a.png"), Error);
  EXPECT_THROW(read_png(folder / "missing.png"), Error);
  write_png(folder / "whole.png", grey_picture(7));
  const std::string bytes = testing_support::read_text(folder / "whole.png");
  write_text(folder / "cut.png", bytes.substr(0, bytes.size() / 2));
  EXPECT_THROW(read_png(folder / "cut.png"), Error);
}

}  // namespace
}  // namespace mileage
