// Gain of instancing on this device, and overhead of the scenario over bare drawing of similar quads, at 1,000 and
// 20,000 lanterns with defaults, in pairs in random order:
//   1. `instanced-all` relative to `each`: wanted at most 0.6x at 1,000, 0.5x at 20,000
//   2. the same for bare drawing, also with tiny quads   3. both relative to bare drawing
// Exit code 1 on a miss.
#include <cmath>
#include <cstdint>
#include <functional>
#include <memory>
#include <random>
#include <string>
#include <vector>

#include <epoxy/gl.h>
#include <fmt/format.h>

#include "device/device_objects.h"
#include "device/draw_variants.h"
#include "in_pairs.h"
#include "measure/machine/clock.h"
#include "mileage/device/device.h"
#include "mileage/types/catalogue.h"
#include "support/default_set_up.h"
#include "types/unmarked.h"

namespace {

using namespace mileage;
using namespace mileage::device;

constexpr int pairs = 40;
/// Half side of a quad: a few pixels, and less than one.
constexpr float usual_quad = 0.005F;
constexpr float smallest_quad = 0.0005F;

struct Quad {
  float x, y, half_size, glow;
};

constexpr const char* quad_shader = R"(#version 450 core
layout(location = 0) in vec2 corner;
#ifdef ONE
uniform vec4 quad;
#else
layout(location = 1) in vec4 quad;
#endif
out vec3 colour;
void main() {
  colour = vec3(quad.w, 0.5, 0.2);
  gl_Position = vec4(corner * quad.z + quad.xy, 0.5, 1.0);
}
)";
constexpr const char* plain_shader = R"(#version 450 core
in vec3 colour;
out vec4 pixel;
void main() { pixel = vec4(colour, 1.0); }
)";

std::string one_quad_shader() {
  std::string source = quad_shader;
  return source.insert(source.find('\n') + 1, "#define ONE\n");
}

/// One by one, or all at once.
class BareQuads {
 public:
  BareQuads(const Context& context, std::int64_t count, float half_size)
      : quads_(made(count, half_size)),
        corners_(context, sizeof corner_places, corner_places),
        indices_(context, sizeof corner_order, corner_order),
        instances_(context, count * static_cast<std::int64_t>(sizeof(Quad)), quads_.data()),
        one_(Program::drawing(one_quad_shader(), plain_shader)),
        all_(Program::drawing(quad_shader, plain_shader)),
        canvas_(640, 360),
        layout_(new_vertex_layout()),
        quad_(one_.uniform("quad")) {
    ::glVertexArrayVertexBuffer(layout_.id(), 0, corners_.id(), 0, 2 * sizeof(float));
    ::glVertexArrayVertexBuffer(layout_.id(), 1, instances_.id(), 0, sizeof(Quad));
    ::glVertexArrayElementBuffer(layout_.id(), indices_.id());
    ::glVertexArrayBindingDivisor(layout_.id(), 1, 1);
    for (const unsigned place : {0U, 1U}) {
      ::glEnableVertexArrayAttrib(layout_.id(), place);
      ::glVertexArrayAttribFormat(layout_.id(), place, place == 0 ? 2 : 4, GL_FLOAT, GL_FALSE, 0);
      ::glVertexArrayAttribBinding(layout_.id(), place, place);
    }
  }

  void draw_each() const {
    begin(one_);
    for (const Quad& quad : quads_) {
      ::glUniform4fv(quad_, 1, &quad.x);
      ::glDrawElements(GL_TRIANGLES, 6, GL_UNSIGNED_INT, nullptr);
    }
    ::glFinish();
  }
  void draw_at_once() const {
    begin(all_);
    ::glDrawElementsInstanced(GL_TRIANGLES, 6, GL_UNSIGNED_INT, nullptr, static_cast<int>(quads_.size()));
    ::glFinish();
  }

 private:
  static constexpr float corner_places[] = {-1, -1, 1, -1, -1, 1, 1, 1};
  static constexpr std::uint32_t corner_order[] = {0, 1, 2, 2, 1, 3};

  static std::vector<Quad> made(std::int64_t count, float half_size) {
    std::mt19937 random(1);
    std::uniform_real_distribution<float> share(0, 1);
    std::vector<Quad> quads;
    for (std::int64_t i = 0; i < count; ++i)
      quads.push_back(
          {share(random) * 2 - 1, share(random) * 2 - 1, half_size * (0.5F + share(random)), share(random)});
    return quads;
  }

  void begin(const Program& program) const {
    canvas_.bind();
    ::glDisable(GL_DEPTH_TEST);
    ::glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    program.use();
    ::glBindVertexArray(layout_.id());
  }

  std::vector<Quad> quads_;
  Buffer corners_;
  Buffer indices_;
  Buffer instances_;
  Program one_;
  Program all_;
  Canvas canvas_;
  DeviceName layout_;
  int quad_;
};

SetUp draw_set_up(std::int64_t count) {
  Catalogue catalogue;
  add_device(catalogue);
  return default_set_up(*catalogue.find("draw"), count);
}

template <class Work>
double frame_ms(Clock& clock, std::int64_t count, const Work& work) {
  const std::int64_t frames = std::max<std::int64_t>(1, 10'000 / count);
  work();
  const std::int64_t start = clock.now_ns();
  for (std::int64_t i = 0; i < frames; ++i) work();
  return static_cast<double>(clock.now_ns() - start) * 1e-6 / static_cast<double>(frames);
}

/// Each side needs the process's only context.
struct Sides {
  Clock& clock;
  std::int64_t count;

  double way(std::unique_ptr<Variant> (*make)(const SetUp&)) const {
    const auto variant = make(draw_set_up(count));
    Unmarked unmarked;
    Frame frame(unmarked);
    return frame_ms(clock, count, [&] { variant->run_frame(frame); });
  }
  double bare(void (BareQuads::*draw)() const, float half_size = usual_quad) const {
    const Context context;
    const BareQuads quads(context, count, half_size);
    return frame_ms(clock, count, [&] { (quads.*draw)(); });
  }
};

void tell(const char* what, const PairedRatio& found) {
  fmt::print("  {} {:.3f} ({:.3f} to {:.3f})\n", what, found.ratio, *found.interval.low, *found.interval.high);
}

bool drawing_at(Clock& clock, std::int64_t count, double max) {
  const Sides sides{clock, count};
  const auto each = [&] { return sides.way(make_draw_each); };
  const auto at_once = [&] { return sides.way(make_draw_instanced_all); };
  const auto bare_each = [&] { return sides.bare(&BareQuads::draw_each); };
  const auto bare_at_once = [&] { return sides.bare(&BareQuads::draw_at_once); };
  fmt::print("{} lanterns: each {:.2f} ms, instanced-all {:.2f}; bare one by one {:.2f}, bare at once {:.2f}\n", count,
             each(), at_once(), bare_each(), bare_at_once());
  tell("bare drawing at once takes, of bare drawing one by one,", in_pairs(pairs, bare_at_once, bare_each));
  const auto smallest_each = [&] { return sides.bare(&BareQuads::draw_each, smallest_quad); };
  const auto smallest_at_once = [&] { return sides.bare(&BareQuads::draw_at_once, smallest_quad); };
  tell("the smallest quads at once take, of the smallest one by one,",
       in_pairs(pairs, smallest_at_once, smallest_each));
  fmt::print("  of the smallest, a frame at 60 Hz holds {:.0f} one by one and {:.0f} at once\n",
             1000.0 / 60 * static_cast<double>(count) / smallest_each(),
             1000.0 / 60 * static_cast<double>(count) / smallest_at_once());
  tell("each takes, of bare drawing one by one,", in_pairs(pairs, each, bare_each));
  tell("instanced-all takes, of bare drawing at once,", in_pairs(pairs, at_once, bare_at_once));
  const PairedRatio found = in_pairs(pairs, at_once, each);
  const bool holds = *found.interval.high <= max;
  fmt::print("  instanced-all takes, of each, {:.3f} ({:.3f} to {:.3f}); wanted: at most {:.3f}; {}\n", found.ratio,
             *found.interval.low, *found.interval.high, max, holds ? "holds" : "MISSED");
  return holds;
}

}  // namespace

int main() {
  SystemClock clock;
  const DeviceFacts facts = Context().facts();
  fmt::print("{}{}\n", facts.name, facts.software ? ", a software device" : "");
  bool hold = drawing_at(clock, 1000, 0.6);
  hold &= drawing_at(clock, 20'000, 0.5);
  return hold ? 0 : 1;
}
