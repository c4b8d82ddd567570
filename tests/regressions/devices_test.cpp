#include <epoxy/gl.h>
#include <gmock/gmock.h>

#include "device/device_objects.h"
#include "support/device_here.h"

namespace mileage::device {
namespace {

class Leaks : public testing::Test {
 protected:
  void SetUp() override {
    SKIP_WITHOUT_DEVICE();
    context_ = std::make_unique<Context>();
  }
  std::unique_ptr<Context> context_;
};

TEST_F(Leaks, ACanvasThatCannotBeDrawnToLeavesNothing) {
  EXPECT_THROW(Canvas(1 << 20, 1 << 20), Error);
  while (::glGetError() != GL_NO_ERROR) {}
  for (unsigned name = 1; name < 20; ++name) {
    EXPECT_FALSE(::glIsRenderbuffer(name));
    EXPECT_FALSE(::glIsFramebuffer(name));
  }
}

TEST_F(Leaks, AProgramThatDoesNotCompileLeavesNoShader) {
  EXPECT_THROW(Program::drawing("#version 450 core\nvoid main() { gl_Position = vec4(0.0); }\n",
                                "#version 450 core\nvoid main() { lantern(); }\n"),
               Error);
  for (unsigned name = 1; name < 20; ++name) {
    EXPECT_FALSE(::glIsShader(name));
    EXPECT_FALSE(::glIsProgram(name));
  }
}

TEST_F(Leaks, ABufferThatIsRefusedAfterItWasMadeLeavesNothing) {
  unsigned made = 0;
  {
    const Buffer good(*context_, 16);
    made = good.id();
  }
  // Allowed for shaders but far beyond the memory.
  try {
    const Buffer huge(*context_, context_->max_storage_bytes() / 16 * 16);
  } catch (const Error&) {}
  for (unsigned name = made; name < made + 20; ++name) EXPECT_FALSE(::glIsBuffer(name));
}

}  // namespace
}  // namespace mileage::device
