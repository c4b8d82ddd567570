#include "device/night_show.h"

#include <algorithm>
#include <cmath>
#include <string>
#include <vector>

#include <epoxy/gl.h>

#include "device/drawer.h"
#include "device/drawn_variant.h"
#include "device/drift_on_device.h"
#include "festival/drift/sorted_lanterns.h"

namespace mileage::device {
namespace {

using festival::FrameWork;
using festival::Lantern;

constexpr std::int64_t lanterns_sampled = 8;
/// As drift, with one more square root.
constexpr double tolerance = 1e-5;
/// Shaders approximate sines.
constexpr double shader_tolerance = 1e-3;

/// The pond is laid out along the river.
Placed placed_in_show(const Lantern& one, std::int64_t index, float size) {
  const OnRiver at = on_river(one.x_m * (2 / festival::pond_edge_m) - 1, one.y_m * (1 / festival::pond_edge_m));
  const float turn = 3.14159265F * one.lean;
  const float own = static_cast<float>(one.key >> 8U) * (1.0F / 16777216);
  return {at.x_m,
          one.height_m - 0.35F,
          at.z_m,
          size * (0.8F + 0.4F * own),
          std::cos(turn),
          std::sin(turn),
          0.6F + 0.5F * one.flicker,
          static_cast<float>(index)};
}

constexpr const char* placing_shader = R"(
layout(std430, binding = 0) readonly buffer Lanterns { float column[]; };
layout(std430, binding = 1) writeonly buffer Places { vec4 placed[]; };
uniform uint count;
uniform float size;
uniform float edge;

void main() {
  uint i = invocation();
  if (i >= count) return;
  vec2 at = on_river(column[i] * (2.0 / edge) - 1.0, column[count + i] * (1.0 / edge));
  float own = float(floatBitsToUint(column[9u * count + i]) >> 8) * (1.0 / 16777216.0);
  placed[2u * i] = vec4(at.x, column[2u * count + i] - 0.35, at.y, size * (0.8 + 0.4 * own));
  float turn = 3.14159265 * column[8u * count + i];
  placed[2u * i + 1u] = vec4(cos(turn), sin(turn), 0.6 + 0.5 * column[7u * count + i], float(i));
}
)";

/// All lanterns in view, in one part.
SetUp staged(SetUp set_up) {
  set_up.knobs.set("parts", 1.0);
  set_up.knobs.set("view", 1.0);
  set_up.knobs.set("single", 0.0);
  set_up.knobs.set("regroup", 0.0);
  return set_up;
}

/// Common part: update and place, then one draw call per kind.
class NightShow : public DrawnVariant {
 public:
  explicit NightShow(const SetUp& set_up)
      : DrawnVariant(staged(set_up)), set_up_(set_up), size_(static_cast<float>(set_up.knobs.number("size"))) {}

 protected:
  float size() const { return size_; }

 private:
  void bring_forward(Frame& frame) final {
    carry(festival::work_of_frame(set_up_, festival::Sorting(), frames() - 1), frame);
    frame.add("updates", static_cast<double>(alive()));
  }

  void paint(Frame& frame) const final {
    const auto phase = frame.phase("submit");
    stage().use(Feed::instances, 0);
    stage().bind(&places());
    for (int kind = 0; kind < stage().world().kinds; ++kind)
      stage().draw_instances(stage().range(kind, 0, 0), stage().world().first_of_kind[static_cast<std::size_t>(kind)],
                             stage().world().count_of_kind(kind), places(), frame);
    frame.add("instances", static_cast<double>(alive()));
  }

  void state_more(Outcome& outcome) const final {
    std::vector<Placed> placed(static_cast<std::size_t>(alive()));
    places().download(0, places().bytes(), placed.data());
    const std::int64_t sampled = std::min(lanterns_sampled, alive());
    for (std::int64_t i = 0; i < sampled; ++i) {
      const std::int64_t index = i * alive() / sampled;
      const Placed& one = placed[static_cast<std::size_t>(index)];
      const std::string name = "lantern " + std::to_string(index);
      outcome.state(name + " across", one.x_m, tolerance, 1);
      outcome.state(name + " away", one.z_m, tolerance, 1);
      outcome.state(name + " turn", one.sine, shader_tolerance, 1);
      outcome.state(name + " glow", one.glow, tolerance, 1);
    }
  }

  /// Updates and places on the device.
  virtual void carry(const FrameWork& work, Frame& frame) = 0;
  virtual const Buffer& places() const = 0;

  SetUp set_up_;
  float size_;
};

/// Places on the processor and sends.
template <class LanternAt>
void place_and_send(SentPlaces& places, float size, const LanternAt& lantern_at, Frame& frame) {
  {
    const auto phase = frame.phase("build");
    std::int64_t index = 0;
    for (Placed& place : places.on_processor()) {
      place = placed_in_show(lantern_at(index), index, size);
      ++index;
    }
  }
  places.send_all(frame);
}

void carry_on_device(DriftOnDevice& drift, const FrameWork& work, Frame& frame) {
  {
    const auto phase = frame.phase("upload");
    drift.send_work(work, frame);
  }
  const auto phase = frame.phase("submit");
  drift.carry();
}

class ColumnsShow : public NightShow {
 public:
  explicit ColumnsShow(const SetUp& set_up)
      : NightShow(set_up),
        columns_(festival::Sorting()),
        places_(stage().context(), static_cast<std::size_t>(set_up.count)) {
    columns_.set_afloat(set_up.seed, 0, set_up.count);
  }

 private:
  void carry(const FrameWork& work, Frame& frame) override {
    {
      const auto phase = frame.phase("carry");
      festival::carry_all_columns(columns_, work, festival::Vectors::usual);
    }
    place_and_send(
        places_, size(), [this](std::int64_t i) { return columns_.lantern(i); }, frame);
  }
  const Buffer& places() const override { return places_.on_device(); }

  festival::SortedColumns columns_;
  SentPlaces places_;
};

class ComputeShow : public NightShow {
 public:
  explicit ComputeShow(const SetUp& set_up)
      : NightShow(set_up),
        drift_(stage().context(), set_up, festival::Sorting()),
        places_(stage().context(), set_up.count * static_cast<std::int64_t>(sizeof(Placed))),
        placing_(Program::compute(compute_preamble() + on_river_in_shaders() + placing_shader)) {
    placing_.use();
    ::glUniform1ui(placing_.uniform("count"), static_cast<unsigned>(set_up.count));
    ::glUniform1f(placing_.uniform("size"), size());
    ::glUniform1f(placing_.uniform("edge"), festival::pond_edge_m);
  }

 private:
  void carry(const FrameWork& work, Frame& frame) override {
    carry_on_device(drift_, work, frame);
    const auto phase = frame.phase("submit");
    drift_.columns().bind_storage(0);
    places_.bind_storage(1);
    dispatch(placing_, drift_.count());
    ::glMemoryBarrier(GL_VERTEX_ATTRIB_ARRAY_BARRIER_BIT | GL_BUFFER_UPDATE_BARRIER_BIT);
  }
  const Buffer& places() const override { return places_; }

  DriftOnDevice drift_;
  Buffer places_;
  Program placing_;
};

class RoundTripShow : public NightShow {
 public:
  explicit RoundTripShow(const SetUp& set_up)
      : NightShow(set_up),
        drift_(stage().context(), set_up, festival::Sorting()),
        places_(stage().context(), static_cast<std::size_t>(set_up.count)) {}

 private:
  void carry(const FrameWork& work, Frame& frame) override {
    carry_on_device(drift_, work, frame);
    {
      const auto phase = frame.phase("read back");
      drift_.fetch(seen_);
      frame.add("bytes read back", static_cast<double>(drift_.columns().bytes()));
    }
    place_and_send(
        places_, size(), [this](std::int64_t i) { return drift_.lantern(seen_, i); }, frame);
  }
  const Buffer& places() const override { return places_.on_device(); }

  DriftOnDevice drift_;
  std::vector<float> seen_;
  SentPlaces places_;
};

}  // namespace

std::unique_ptr<Variant> make_show_columns(const SetUp& set_up) { return std::make_unique<ColumnsShow>(set_up); }

std::unique_ptr<Variant> make_show_compute(const SetUp& set_up) { return std::make_unique<ComputeShow>(set_up); }

std::unique_ptr<Variant> make_show_round_trip(const SetUp& set_up) { return std::make_unique<RoundTripShow>(set_up); }

}  // namespace mileage::device
