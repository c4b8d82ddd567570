#include "device/device_objects.h"

#include <numeric>

#include <gmock/gmock.h>

#include "support/device_here.h"
#include "support/unmarked.h"
#include "types/error.h"

namespace mileage::device {
namespace {

using testing::HasSubstr;

template <class Call>
std::string refusal_of(Call call) {
  try {
    call();
    return "";
  } catch (const Error& error) {
    return error.what();
  }
}

class DeviceObjects : public testing::Test {
 protected:
  void SetUp() override {
    SKIP_WITHOUT_DEVICE();
    context_ = std::make_unique<Context>();
  }
  std::unique_ptr<Context> context_;
};

TEST_F(DeviceObjects, ABufferGivesBackWhatWasSent) {
  Buffer buffer(*context_, 16);
  const std::vector<int> sent{1, 2, 3, 4};
  buffer.upload(0, 16, sent.data());
  std::vector<int> got(2);
  buffer.download(8, 8, got.data());
  EXPECT_THAT(got, testing::ElementsAre(3, 4));
}

TEST_F(DeviceObjects, NothingReachesBeyondTheEndOfABuffer) {
  Buffer buffer(*context_, 16);
  const std::vector<int> five(5);
  EXPECT_THAT(refusal_of([&] { buffer.upload(0, 20, five.data()); }),
              HasSubstr("too small for what is sent to it; found \"20 bytes\"; accepted: at most 16"));
  EXPECT_THAT(refusal_of([&] { buffer.upload(12, 8, five.data()); }), HasSubstr("20 bytes"));
  std::vector<int> got(5);
  EXPECT_THAT(refusal_of([&] { buffer.download(0, 20, got.data()); }), HasSubstr("too small for what is read"));
}

TEST_F(DeviceObjects, ABufferOverTheLimitIsRefused) {
  EXPECT_THAT(refusal_of([&] { Buffer buffer(*context_, context_->max_storage_bytes() + 1); }),
              HasSubstr("more than one buffer of this device holds"));
}

TEST_F(DeviceObjects, AShaderThatDoesNotCompileIsNamedWithTheCompilersWords) {
  EXPECT_THAT(refusal_of([] { Program::compute(compute_preamble() + "void main() { lantern = 1; }"); }),
              testing::AllOf(HasSubstr("a shader does not compile on this device"), HasSubstr("lantern")));
  EXPECT_THAT(refusal_of([] { Program::compute(compute_preamble() + "void main() {}").uniform("wind"); }),
              HasSubstr("no such uniform"));
}

TEST_F(DeviceObjects, ADispatchReachesEveryInvocationOnce) {
  const Program program = Program::compute(compute_preamble() + R"(
layout(std430, binding = 0) buffer Visited { uint visited[]; };
void main() { if (invocation() < visited.length()) atomicAdd(visited[invocation()], 1u); }
)");
  for (const std::int64_t count : {1, 127, 128, 129, 8'388'481}) {  // The last needs a second row of groups.
    const std::vector<std::uint32_t> zeros(static_cast<std::size_t>(count));
    Buffer visited(*context_, 4 * count, zeros.data());
    visited.bind_storage(0);
    FramesUnderWay frames(*context_, 1);
    frames.begin();
    dispatch(program, count);
    testing_support::CountingSink sink;
    Frame frame(sink);
    frames.handed_over(frame);
    EXPECT_GE(sink.counters.at(device_time_counter), 0);
    std::vector<std::uint32_t> seen(zeros.size());
    visited.download(0, 4 * count, seen.data());
    EXPECT_EQ(std::count(seen.begin(), seen.end(), 1U), count);
  }
}

TEST_F(DeviceObjects, ACanvasIsReadFromAbove) {
  const Canvas canvas(4, 2);
  canvas.bind();
  const Program program = Program::drawing(R"(#version 450 core
void main() { gl_Position = vec4(vec2(float((gl_VertexID << 1) & 2), float(gl_VertexID & 2)) * 2.0 - 1.0, 0.0, 1.0); }
)",
                                           R"(#version 450 core
out vec4 pixel;
void main() { pixel = gl_FragCoord.y > 1.0 ? vec4(1.0, 0.0, 0.0, 1.0) : vec4(0.0, 0.0, 1.0, 1.0); }
)");
  draw_whole_canvas(program);
  const std::vector<std::uint8_t> pixels = canvas.picture().pixels;
  ASSERT_EQ(pixels.size(), 24U);
  EXPECT_EQ(pixels[0], 255);   // Upper row red.
  EXPECT_EQ(pixels[14], 255);  // Lower row blue.
}

}  // namespace
}  // namespace mileage::device
