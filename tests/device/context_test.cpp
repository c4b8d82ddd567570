#include "device/context.h"

#include <cstdlib>

#include <gmock/gmock.h>

#include "device/device_objects.h"
#include "measure/in_process/make_run.h"
#include "support/device_here.h"
#include "types/error.h"

namespace mileage::device {
namespace {

using testing::HasSubstr;

std::string refusal_of(const ContextRequest& request) {
  try {
    const Context context(request);
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
  EXPECT_GE(context.max_storage_bytes(), 16 << 20);
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
  EXPECT_THAT(refusal_of({.egl_library = "libNoSuchEGL.so.9"}),
              HasSubstr("no graphics device: libNoSuchEGL.so.9 is not installed"));
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

class Unlucky : public Variant {
 public:
  void run_frame(Frame& frame) override {
    under_way_.begin();
    if (++frames_ == 3) context_.pretend_lost();
    under_way_.handed_over(frame);
  }
  std::int64_t alive() const override { return 10; }
  Outcome outcome() const override { return {}; }

 private:
  Context context_;
  FramesUnderWay under_way_{context_, 1};
  int frames_ = 0;
};

TEST(Context, ARunWhoseDeviceIsLostFailsWithTheReason) {
  SKIP_WITHOUT_DEVICE();
  Catalogue catalogue;
  Scenario night;
  night.name = "night";
  catalogue.add(night);
  catalogue.add_variant("night", {"unlucky", "", {}, ""},
                        [](const mileage::SetUp&) { return std::make_unique<Unlucky>(); });
  SystemClock clock;
  const mileage::Run run = make_run({"night", {"unlucky", {}}, 10, 1}, catalogue, {&clock, nullptr});
  EXPECT_EQ(run.status, RunStatus::failed);
  EXPECT_THAT(run.failure, HasSubstr("the graphics device was lost"));
  EXPECT_NO_THROW(Context().check());  // The next run has a device again.
}

}  // namespace
}  // namespace mileage::device
