#include "device/context.h"

#include <cstdlib>

#include <gmock/gmock.h>

#include "support/device_here.h"
#include "types/error.h"

namespace mileage::device {
namespace {

using testing::HasSubstr;

/// What refuses a context says.
std::string refusal_of(const ContextWish& wish) {
  try {
    const Context context(wish);
    return "";
  } catch (const Error& error) {
    return error.what();
  }
}

TEST(Context, TellsWhichDeviceItIs) {
  SKIP_WITHOUT_DEVICE();
  const Context context;
  EXPECT_NE(context.facts().name, "");
  EXPECT_THAT(context.facts().driver, HasSubstr("4."));
  EXPECT_GE(context.most_storage_bytes(), 16 << 20);
  EXPECT_NO_THROW(context.check());
}

TEST(Context, IsMadeAgainAfterOneWasDestroyed) {
  SKIP_WITHOUT_DEVICE();
  const std::string first = Context().facts().name;
  EXPECT_EQ(Context().facts().name, first);
}

TEST(Context, IsOneAtATime) {
  SKIP_WITHOUT_DEVICE();
  const Context context;
  EXPECT_THAT(refusal_of({}), HasSubstr("open already"));
  EXPECT_NO_THROW(context.check());
}

TEST(Context, SaysThatTheLibraryIsMissing) {
  EXPECT_THAT(refusal_of({.egl_library = "libNoSuchEGL.so.9"}), HasSubstr("no graphics device: libNoSuchEGL.so.9 is not installed"));
}

TEST(Context, SaysThatTheDriverIsTooOld) {
  SKIP_WITHOUT_DEVICE();
  EXPECT_THAT(refusal_of({.major = 9, .minor = 9}), HasSubstr("no OpenGL 9.9 core context: its driver is too old"));
}

TEST(Context, CanBeSwitchedOff) {
  ::setenv("MILEAGE_DEVICE", "off", 1);
  const std::string refusal = refusal_of({});
  ::unsetenv("MILEAGE_DEVICE");
  EXPECT_THAT(refusal, HasSubstr("switched off (MILEAGE_DEVICE=off)"));
}

TEST(Context, ThrowsWhenTheDeviceIsLost) {
  SKIP_WITHOUT_DEVICE();
  Context context;
  context.pretend_lost();
  EXPECT_THROW(context.check(), Error);
}

}  // namespace
}  // namespace mileage::device
